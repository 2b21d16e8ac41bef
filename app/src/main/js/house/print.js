import { labelOf, readLayout } from "../input/layout.js";

/** The button that prints the page. */
document.getElementById("print").addEventListener("click", () => globalThis.print());

/** Keys are known by their places; to be read they are what is printed on them here. */
readLayout().then(() => {
  for (const key of document.querySelectorAll("kbd[data-key]")) {
    key.textContent = labelOf(key.dataset.key);
  }
});
