import { toggle } from "./balance.js";
import { panic, startOrStop, toggleTheme } from "./conductor.js";

/**
 * Keys of the computer's keyboard that stand for actions. Keys that play are with the pads. A key
 * counts from the moment at which it went down.
 */
export function shortcuts(stage, { chooser, settings, setup, partDialog, ways, workshop, runs }) {
  const { connection, state } = stage;
  const click = (id) => document.getElementById(id).click();
  const armed = () => state.armedPart;
  /** Small letters are clips, capitals are sections. */
  const cue = (letter, own) => {
    const clip = armed()?.shelf.find((id) => state.clips.get(id).letter === letter);
    const section = state.form.sections.find((s) => s.letter === letter);
    if (clip !== undefined) {
      connection.do({ do: "cueClip", part: armed().id, clip }, own);
    } else if (section) {
      connection.do({ do: "cueSection", section: section.id }, own);
    }
    return clip !== undefined || section !== undefined;
  };
  const acts = {
    Enter: (own) => connection.do({ do: "mainPress" }, own),
    " ": (own) => startOrStop(stage, own),
    Backspace: (own, shift) => connection.do({ do: shift ? "restore" : "peel" }, own),
    Delete: (own) => connection.do({ do: "clear" }, own),
    u: (own, shift) => connection.do({ do: shift ? "redo" : "undo" }, own),
    n: (own) => connection.do({ do: "cueNext" }, own),
    b: (own) => connection.do({ do: "cuePrevious" }, own),
    g: (own) => ways.keep(own),
    y: (own) => connection.do({ do: "handOff" }, own),
    "+": (own) => connection.do({ do: "recordAnew" }, own),
    ".": (own) => connection.do({ do: "stopAll" }, own),
    0: (own) => armed() && connection.do({ do: "cueTacet", part: armed().id }, own),
    PageUp: (own) => ways.act("ARM_PREVIOUS", own),
    PageDown: (own) => ways.act("ARM_NEXT", own),
    m: () => toggle(stage, armed(), "muted"),
    j: () => toggle(stage, armed(), "solo"),
    p: () => partDialog.open(armed()),
    Escape: () => panic(stage),
    t: (own) => connection.do({ do: "tapTempo" }, own),
    ArrowUp: () => connection.do({ do: "setTempo", bpm: state.show.bpm + 1 }),
    ArrowDown: () => connection.do({ do: "setTempo", bpm: state.show.bpm - 1 }),
    k: () => click("click"),
    o: () => chooser.open(state.armedPart),
    h: () => click("hands-toggle"),
    i: () => settings.open(),
    F8: () => setup.open(),
    F9: () => {
      runs.close();
      workshop.toggle();
    },
    F10: () => {
      workshop.close();
      runs.toggle();
    },
    l: () => toggleTheme(),
    "?": () => click("help"),
  };
  addEventListener("keydown", (event) => {
    const { key, target, repeat, ctrlKey, metaKey, altKey } = event;
    const typing = target.matches("input:not([type=checkbox]):not([type=range]), select, textarea");
    const inDialog = document.querySelector("dialog[open]");
    if (typing || inDialog || ownsKey(target, key)) {
      return;
    }
    const letter = event.code.startsWith("Key") ? event.code.slice(3) : "";
    if ((ctrlKey || metaKey) && letter === "Z") {
      event.preventDefault();
      acts.u(event.timeStamp, event.shiftKey);
      return;
    }
    if (letter && !repeat && altKey !== event.shiftKey && !ctrlKey && !metaKey) {
      const wanted = altKey ? letter.toLowerCase() : letter;
      if (cue(wanted, event.timeStamp)) {
        event.preventDefault();
        return;
      }
    }
    const act = acts[key.length === 1 ? key.toLowerCase() : key];
    if (!act || ctrlKey || metaKey || altKey) {
      return;
    }
    event.preventDefault();
    if (!repeat) {
      act(event.timeStamp, event.shiftKey);
    }
  });
}

/** A focused button or link keeps the keys that press it. */
function ownsKey(target, key) {
  return (key === "Enter" || key === " ") && target.closest("button, a, summary, input, .takestave");
}
