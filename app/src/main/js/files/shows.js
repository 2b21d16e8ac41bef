import { dialogs } from "../stage/dialogs.js";
import { BringIn } from "./bring-in.js";
import { SoundSheet } from "./sound-sheet.js";
import { field } from "../stage/fields.js";

/** The list of shows: what comes in is looked at first, and a form is made into sound files. */
const bringIn = new BringIn();
const sheet = new SoundSheet();
dialogs();

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
