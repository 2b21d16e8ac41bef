import { clearOrBringBack } from "./footboard.js";
import { panic, startOrStop, toggleTheme } from "./conductor.js";

/**
 * Keys of the computer's keyboard that stand for actions. Keys that play are with the pads. A key
 * counts from the moment at which it went down.
 */
export function shortcuts(stage, { chooser, settings }) {
  const { connection, state } = stage;
  const click = (id) => document.getElementById(id).click();
  const acts = {
    Enter: (own) => connection.do({ do: "mainPress" }, own),
    " ": (own) => startOrStop(stage, own),
    Backspace: (own, shift) => connection.do({ do: shift ? "restore" : "peel" }, own),
    Delete: (own, shift) => clearOrBringBack(stage, own, shift),
    Escape: () => panic(stage),
    t: (own) => connection.do({ do: "tapTempo" }, own),
    ArrowUp: () => connection.do({ do: "setTempo", bpm: state.show.bpm + 1 }),
    ArrowDown: () => connection.do({ do: "setTempo", bpm: state.show.bpm - 1 }),
    k: () => click("click"),
    o: () => chooser.open(state.armedPart),
    h: () => click("hands-toggle"),
    i: () => settings.open(),
    l: () => toggleTheme(),
    "?": () => click("help"),
  };
  addEventListener("keydown", (event) => {
    const { key, target, repeat, ctrlKey, metaKey, altKey } = event;
    const typing = target.matches("input:not([type=checkbox]):not([type=range]), select, textarea");
    const inDialog = document.querySelector("dialog[open]");
    const act = acts[key.length === 1 ? key.toLowerCase() : key];
    if (!act || ctrlKey || metaKey || altKey || typing || inDialog || ownsKey(target, key)) {
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
  return (key === "Enter" || key === " ") && target.closest("button, a, summary, input");
}
