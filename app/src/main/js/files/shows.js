import { dialogs } from "../stage/dialogs.js";
import { BringIn } from "./bring-in.js";
import { dragOut } from "./drag-out.js";
import { SoundSheet } from "./sound-sheet.js";
import { field, on } from "../stage/fields.js";
import { pennant } from "../stage/pennants.js";

/** The list of shows: what comes in is looked at first, and a form is made into sound files. */
const bringIn = new BringIn();
const sheet = new SoundSheet();
dialogs();
dragOut();

const chooser = field("file");
chooser.addEventListener("change", () => {
  if (chooser.files[0]) {
    bringIn.look({ file: chooser.files[0] });
  }
  chooser.value = "";
});
for (const button of document.querySelectorAll("[data-rendering]")) {
  button.hidden = false;
  button.addEventListener("click", () => sheet.open(button.dataset.rendering, button.dataset.title));
}

for (const flags of document.querySelectorAll("[data-pennants]")) {
  const numbers = /** @type {HTMLElement} */ (flags).dataset.pennants.split(" ").filter(Boolean);
  flags.replaceChildren(...numbers.map((number) => pennant(Number(number))));
}

/** Fewer shows than these are seen at a glance: nothing need be looked for. */
const MANY = 4;

const cards = /** @type {HTMLElement[]} */ ([...document.querySelectorAll(".show-card")]);
document.getElementById("find").hidden = cards.length < MANY;

on("find-show", "input", ({ target }) => {
  const wanted = target.value.trim().toLowerCase().split(/\s+/);
  cards.forEach((card) => {
    const words = card.textContent.toLowerCase();
    card.hidden = !wanted.every((word) => words.includes(word));
  });
  const found = cards.filter(({ hidden }) => !hidden).length;
  document.getElementById("found").textContent = found ? "" : "no show is called that";
});

const ORDERS = {
  played: (a, b) => Number(b.dataset.played) - Number(a.dataset.played),
  title: (a, b) => a.dataset.title.localeCompare(b.dataset.title),
  tempo: (a, b) => Number(a.dataset.tempo) - Number(b.dataset.tempo),
};
on("order-shows", "change", ({ target }) => {
  const place = cards[0].previousElementSibling;
  place.after(...[...cards].sort(ORDERS[target.value]));
});
