import { drawer } from "./fields.js";

/**
 * Drawers. On the Stage they lie between the conductor's line and the footboard, and nothing waits for them: what
 * keeps the music going stays in reach. Elsewhere nothing goes on meanwhile, and they are over all.
 *
 * @type {HTMLDialogElement[]} those that are open, the last on top
 */
let open = [];

/** @param {HTMLDialogElement} dialog is opened, on top of the others */
export function openDrawer(dialog) {
  open = [...open.filter((other) => other !== dialog && other.open), dialog];
  if (!document.querySelector(".stage")) {
    dialog.showModal();
    return;
  }
  dialog.style.zIndex = String(TOP + open.length);
  if (!dialog.open) {
    dialog.show();
  }
}

/** The drawer on top is closed; whether there was one. */
export function closeDrawer() {
  open = open.filter((dialog) => dialog.open);
  const top = open.pop();
  top?.close();
  return top !== undefined;
}

/** Over everything that lies on the Stage. */
const TOP = 20;

/** Drawers close by their button, and one that is over all by a touch beside it. */
export function dialogs() {
  for (const dialog of document.querySelectorAll("dialog.over")) {
    dialog.querySelector("[data-close]").addEventListener("click", () => dialog.close());
    dialog.addEventListener("click", (event) => {
      if (event.target === dialog && dialog.matches(":modal")) {
        dialog.close();
      }
    });
  }
  document.getElementById("help")?.addEventListener("click", () => openDrawer(drawer("help-dialog")));
  keepRoom();
}

/** Drawers have the room between the line of words and the feet, however high these are. */
function keepRoom() {
  const [line, feet] = [".wordline", ".feet"].map((part) => document.querySelector(part));
  if (!line || !feet) {
    return;
  }
  const { style } = document.documentElement;
  const measure = () => {
    style.setProperty("--above", `${Math.round(line.getBoundingClientRect().bottom)}px`);
    style.setProperty("--below", `${Math.round(feet.getBoundingClientRect().height)}px`);
  };
  const watch = new ResizeObserver(measure);
  watch.observe(line);
  watch.observe(feet);
}
