/**
 * What a browser keeps for a page: only what is pleasant to have. Where it is not allowed to keep anything the page
 * has it until it is left.
 */

/** @type {Map<string, string>} */
const here = new Map();

/**
 * @param {() => Storage} of
 * @returns {{get: (name: string) => string | null, set: (name: string, value: string) => void}}
 */
function storage(of) {
  return {
    get(name) {
      try {
        return of().getItem(name) ?? here.get(name) ?? null;
      } catch {
        return here.get(name) ?? null;
      }
    },
    set(name, value) {
      here.set(name, value);
      try {
        of().setItem(name, value);
      } catch {
        // it is kept for as long as the page is open
      }
    },
  };
}

/** Kept for good, and kept for as long as a tab is open. */
export const kept = storage(() => localStorage);
export const keptInTab = storage(() => sessionStorage);
