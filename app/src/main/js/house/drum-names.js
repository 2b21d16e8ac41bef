/** @type {Promise<Record<string, string>> | undefined} */
let asked;

/** What the strokes of a kit are called, by pitch, as the house has it; asked for once. */
export function drumNames() {
  asked ??= fetch("/sounds/drums").then((answer) => answer.json());
  return asked;
}
