/**
 * The one way of the computer's keys: to what is being typed into, to what is open, to the pads, or to what they
 * stand for. Keys are known by their places, so that pads lie where they lie on any keyboard. Letting go, and the
 * page left, end all that is held.
 */

import { keyControl } from "./controls.js";

/** What text is typed into. */
const TYPED = "input:not([type=checkbox]):not([type=radio]):not([type=range]):not([type=file]), textarea";

/** Keys that move through a list, a slider or a row of choices. */
const MOVES = ["ArrowUp", "ArrowDown", "ArrowLeft", "ArrowRight", "Home", "End", "PageUp", "PageDown"];

/** What Enter and the space bar press where the Tab key has led to it: by a click it is pressed, and left. */
const PRESSED = "button, summary, .takestave";

/** Where the pads lie, from the top row down. */
const PADS = [
  ["Digit1", "Digit2", "Digit3", "Digit4"],
  ["KeyQ", "KeyW", "KeyE", "KeyR"],
  ["KeyA", "KeyS", "KeyD", "KeyF"],
  ["KeyZ", "KeyX", "KeyC", "KeyV"],
].flat();

export class Keyboard {
  /**
   * @param {import("./controls.js").Controls} controls
   * @param {{down: (pad: number, own: number) => void, up: (pad: number, own: number) => void,
   *   gone: () => void}} pads
   */
  constructor(controls, pads) {
    this.controls = controls;
    this.pads = pads;
    /** Closes what is open; whether anything was. */
    this.closes = () => false;
    /** @type {((event: KeyboardEvent) => boolean)[]} views that are open take keys before the Stage */
    this.open = [];
    /** @type {Map<string, {pad: number} | {key: string}>} what is held, by the place of the key */
    this.held = new Map();
    addEventListener("keydown", (event) => this.#down(event));
    addEventListener("keyup", (event) => this.#up(event));
    addEventListener("blur", (event) => this.letGo(event.timeStamp));
    document.addEventListener("visibilitychange", (event) => {
      if (document.visibilityState === "hidden") {
        this.letGo(event.timeStamp);
      }
    });
    this.#giveBack();
  }

  /** The place of a pad. */
  static placeOf(pad) {
    return PADS[pad];
  }

  /** @param {(event: KeyboardEvent) => boolean} takes whether a view that is open took a key */
  first(takes) {
    this.open.push(takes);
  }

  /** All that is held ends. */
  letGo(own) {
    this.held.clear();
    this.pads.gone();
    this.controls.releaseAll(own);
  }

  #down(event) {
    if (event.defaultPrevented || isTypedInto(event) || isItsOwn(event)) {
      return;
    }
    if (this.open.some((takes) => takes(event)) || this.#acts(event)) {
      event.preventDefault();
    }
  }

  /** @returns {boolean} whether a key does something; held down, it does it once */
  #acts(event) {
    const { code, timeStamp: own } = event;
    // it stands for something else only where there is nothing to leave
    if (code === "Escape" && !this.controls.teaching && !event.repeat && this.closes()) {
      return true;
    }
    const names = namesOf(event);
    if (event.repeat) {
      return this.held.has(code) || names.some((name) => this.controls.of(keyControl(name)).length);
    }
    const key = names.find((name) => this.controls.takeKey(name, true, own));
    if (key) {
      this.held.set(code, { key });
      return true;
    }
    const pad = PADS.indexOf(code);
    if (pad < 0 || event.ctrlKey || event.metaKey || event.altKey || event.shiftKey) {
      return false;
    }
    this.held.set(code, { pad });
    this.pads.down(pad, own);
    return true;
  }

  #up({ code, timeStamp: own }) {
    const held = this.held.get(code);
    this.held.delete(code);
    if (held && "pad" in held) {
      this.pads.up(held.pad, own);
    } else if (held && "key" in held) {
      this.controls.takeKey(held.key, false, own);
    }
  }

  /** After a choice in a list, a slider let go, a drawer closed, the keyboard is the performer's again. */
  #giveBack() {
    let byFinger = false;
    addEventListener("pointerdown", () => (byFinger = true), { capture: true });
    addEventListener("keydown", () => (byFinger = false), { capture: true });
    const leave = () => byFinger && leaveFocus();
    addEventListener(
      "change",
      ({ target }) => target.matches("select, [type=range], [type=checkbox]") && leave(),
    );
    // not of what was clicked: of what holds its pointer, as a pad does, the click is its box's
    addEventListener(
      "click",
      ({ detail }) => detail && document.activeElement?.closest(PRESSED) && leaveFocus(),
    );
    for (const dialog of document.querySelectorAll("dialog")) {
      let opened = false;
      const watch = new MutationObserver(() => {
        opened = dialog.open ? byFinger : opened;
      });
      watch.observe(dialog, { attributeFilter: ["open"] });
      dialog.addEventListener("close", () => opened && leaveFocus());
    }
    addEventListener("keydown", (event) => {
      const done = event.key === "Enter" || event.key === "Escape";
      if (done && event.target.matches("input") && isTypedInto(event)) {
        event.target.blur();
        if (event.key === "Escape" && event.target.closest("dialog:not(:modal)")) {
          this.closes();
        }
      }
    });
  }
}

/** The keyboard is no more that of a field or a button. */
function leaveFocus() {
  if (document.activeElement instanceof HTMLElement) {
    document.activeElement.blur();
  }
}

/** What a key is called with what is held with it; a sign that is typed with Shift is the key without it, too. */
function namesOf({ code, ctrlKey, metaKey, altKey, shiftKey }) {
  const held = ctrlKey || metaKey ? "Ctrl " : altKey ? "Alt " : shiftKey ? "Shift " : "";
  const sign = held === "Shift " && !code.startsWith("Key") && !code.startsWith("Digit");
  return sign ? [held + code, code] : [held + code];
}

/** Only text that is being typed has the keyboard for itself. */
function isTypedInto({ target, code }) {
  const typed = target.matches?.(TYPED) || target.isContentEditable;
  return Boolean(typed) && !/^F\d+$/.test(code);
}

/** What the Tab key has led to keeps the keys that press it, or move in it. */
function isItsOwn({ target, code, key }) {
  if (!target.matches) {
    return false;
  }
  const pressed = (key === "Enter" || key === " ") && target.closest(`${PRESSED}, a, input, select`);
  const moved =
    MOVES.includes(code) && target.matches("select, [type=range], [type=radio], [role=tab], .takestave");
  return Boolean(pressed || moved);
}
