/** Elements of SVG, made with their attributes. */

const SVG = "http://www.w3.org/2000/svg";

/**
 * @param {string} name
 * @param {Record<string, string | number>} attributes
 * @returns {any}
 */
export function create(name, attributes) {
  const element = document.createElementNS(SVG, name);
  set(element, attributes);
  return element;
}

/** The same, as the last in another. */
export function add(parent, name, attributes) {
  const element = create(name, attributes);
  parent.append(element);
  return element;
}

export function set(element, attributes) {
  for (const [name, value] of Object.entries(attributes)) {
    element.setAttribute(name, String(value));
  }
}
