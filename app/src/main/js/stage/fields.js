/**
 * The controls of a page, by their ids.
 *
 * @typedef {any} Acted an event of a control; its target is what was acted on
 */

/**
 * @param {string} id
 * @returns {HTMLInputElement} a field, a list or a button: what has a value, or can be switched off
 */
export function field(id) {
  return /** @type {HTMLInputElement} */ (document.getElementById(id));
}

/**
 * @param {string} id
 * @returns {HTMLSelectElement}
 */
export function list(id) {
  return /** @type {HTMLSelectElement} */ (document.getElementById(id));
}

/**
 * @param {string} id
 * @returns {HTMLDialogElement}
 */
export function drawer(id) {
  return /** @type {HTMLDialogElement} */ (document.getElementById(id));
}

/**
 * Does something when a control is used.
 *
 * @param {string} id
 * @param {string} kind of event
 * @param {(event: Acted) => void} act
 */
export function on(id, kind, act) {
  document.getElementById(id).addEventListener(kind, act);
}

/**
 * Does something when a button is pressed: as soon as a finger or the mouse is down, since time counts, and by the
 * keyboard or a screen reader, which press without either.
 *
 * @param {string} id
 * @param {(event: Acted) => void} act
 */
export function onPress(id, act) {
  const button = document.getElementById(id);
  let isDown = false;
  button.addEventListener("pointerdown", (event) => {
    isDown = true;
    act(event);
  });
  button.addEventListener("click", (event) => {
    if (!isDown) {
      act(event);
    }
    isDown = false;
  });
}

/**
 * Shows a value, unless it is being changed by hand just now.
 *
 * @param {string} id
 * @param {string | number | boolean} value
 * @param {string} [words] what is said beside it
 */
export function put(id, value, words) {
  const element = field(id);
  if (document.activeElement !== element) {
    element.value = String(value);
  }
  if (words) {
    document.getElementById(`${id}-words`).textContent = words;
  }
}
