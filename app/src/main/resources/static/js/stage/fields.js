/** The controls of a page, by their ids. */

/**
 * Does something when a control is used.
 *
 * @param {string} id
 * @param {string} kind of event
 * @param {(event: Event) => void} act
 */
export function on(id, kind, act) {
  document.getElementById(id).addEventListener(kind, act);
}

/**
 * Shows a value, unless it is being changed by hand just now.
 *
 * @param {string} id
 * @param {string | number | boolean} value
 * @param {string} [words] what is said beside it
 */
export function put(id, value, words) {
  const element = document.getElementById(id);
  if (document.activeElement !== element) {
    element.value = String(value);
  }
  if (words) {
    document.getElementById(`${id}-words`).textContent = words;
  }
}
