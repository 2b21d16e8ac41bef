/**
 * Tabs go by arrows, and the Tab key leads to the one that is chosen, as the ARIA practices for tabs have it.
 */
export function tabs() {
  document.addEventListener("keydown", (event) => {
    const target = /** @type {HTMLElement} */ (event.target);
    const list = target.closest?.('[role="tablist"]');
    const step = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    if (!list || (!step && event.key !== "Home" && event.key !== "End")) {
      return;
    }
    event.preventDefault();
    const all = /** @type {HTMLElement[]} */ ([...list.querySelectorAll('[role="tab"]')]);
    const at = all.indexOf(target);
    const to = step ? (at + step + all.length) % all.length : event.key === "Home" ? 0 : all.length - 1;
    const name = all[to].textContent;
    all[to].click();
    // choosing one may draw them anew
    const drawn = /** @type {HTMLElement[]} */ ([...list.querySelectorAll('[role="tab"]')]);
    drawn.find(({ textContent }) => textContent === name)?.focus();
  });
}
