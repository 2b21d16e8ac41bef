/**
 * Keys of the computer are known by their places; what is printed on them depends on the keyboard, and is asked of
 * the browser where it knows (the Keyboard API; Chromium).
 */

const NAMES = {
  Backspace: "⌫",
  Delete: "Del",
  Escape: "Esc",
  PageUp: "Page ↑",
  PageDown: "Page ↓",
  ArrowUp: "↑",
  ArrowDown: "↓",
  ArrowLeft: "←",
  ArrowRight: "→",
  NumpadEnter: "Enter",
  Equal: "=",
  Minus: "-",
  Period: ".",
  Comma: ",",
  Slash: "/",
  Semicolon: ";",
  Quote: "'",
  BracketLeft: "[",
  BracketRight: "]",
  Backslash: "\\",
  Backquote: "`",
};

/** @type {Map<string, string>} */
let printed = new Map();

/** Asks what is printed on the keys; without an answer it is as on an American keyboard. */
export async function readLayout() {
  try {
    printed = new Map(await navigator.keyboard.getLayoutMap());
  } catch {
    // it may not be asked here: the places are named as on an American keyboard
  }
}

/**
 * @param {string} key a place, with Shift, Alt or Ctrl before it
 * @returns {string} what is printed there
 */
export function labelOf(key) {
  const [place, held = ""] = key.split(" ").reverse();
  const plain = place.replace(/^(Key|Digit)/, "");
  const label = printed.get(place) ?? NAMES[place] ?? (place.startsWith("Key") ? plain.toLowerCase() : plain);
  return held ? `${held} ${label}` : label;
}
