/**
 * Keys of the Workshop. What a key does on the Stage it does here too, or something harmless: Delete takes out
 * notes that are chosen and never a clip, and arrows move notes and never the tempo. Keys that play, start and
 * stop, and panic go on to the Stage.
 */

const SIXTY_FOURTH = 60;
const OCTAVE = 12;
const VELOCITIES = 8;

/**
 * @param {import("./workshop.js").Workshop} workshop
 * @returns {(event: KeyboardEvent) => boolean} whether it took the key
 */
export function workshopKeys(workshop) {
  const sideways = (event, sign) => {
    if (event.ctrlKey || event.metaKey) {
      workshop.chooseNext(sign, event.shiftKey);
    } else {
      const bar = workshop.stage.state.show.meter.barTicks;
      workshop.moveBy(sign * (event.altKey ? SIXTY_FOURTH : event.shiftKey ? bar : workshop.step), 0);
    }
  };
  const upwards = (event, sign) => workshop.moveBy(0, sign * (event.shiftKey ? OCTAVE : 1));
  const acts = {
    ArrowLeft: (event) => sideways(event, -1),
    ArrowRight: (event) => sideways(event, 1),
    ArrowUp: (event) => upwards(event, 1),
    ArrowDown: (event) => upwards(event, -1),
    "[": () => workshop.velocityBy(-VELOCITIES),
    "]": () => workshop.velocityBy(VELOCITIES),
    "{": () => workshop.lengthBy(-1),
    "}": () => workshop.lengthBy(1),
    Delete: () => workshop.deleteChosen(),
    Insert: () => workshop.drawAtCursor(),
    F9: () => workshop.close(),
    "+": (event) => (event.ctrlKey || event.metaKey) && workshop.zoomBy(1 / 1.5),
    "-": (event) => (event.ctrlKey || event.metaKey) && workshop.zoomBy(1.5),
  };
  const withControl = {
    KeyA: () => workshop.chooseAll(),
    KeyC: () => workshop.remember(),
    KeyV: () => workshop.paste(),
    KeyG: (event) => (event.shiftKey ? workshop.asPlayed() : workshop.toGrid()),
    Digit0: () => workshop.showAll(),
    Enter: () => workshop.showChosen(),
  };
  return (event) => {
    const { key, code, ctrlKey, metaKey } = event;
    const target = /** @type {HTMLElement} */ (event.target);
    const typing = target.matches("input:not([type=checkbox]):not([type=range]), select, textarea");
    if (typing || document.querySelector("dialog[open]")) {
      return false;
    }
    const control = (ctrlKey || metaKey) && withControl[code];
    const view =
      event.altKey && /^Digit[1-4]$/.test(code) && (() => workshop.view(code.at(-1), event.shiftKey));
    const act = control || view || acts[key];
    const plain = ["+", "-"].includes(key) && !(ctrlKey || metaKey);
    // what has the focus has its own arrows
    const slides = target.matches("input[type=range], .takestave") && key.startsWith("Arrow");
    if (!act || plain || slides) {
      return false;
    }
    act(event);
    return true;
  };
}
