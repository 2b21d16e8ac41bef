/**
 * The address of something that is asked for only once the page runs: it has its content's digest in its name, so
 * the page is told it by the house.
 *
 * @param {"worklet" | "decoder" | "recorder" | "ticker" | "bank"} what
 * @returns {string}
 */
export function built(what) {
  const told = /** @type {any} */ (document.querySelector(`meta[name="built-${what}"]`));
  return told.content;
}
