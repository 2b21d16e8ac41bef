import { CLICK } from "../house/outputs.js";
import { html, live, render } from "../house/lit.js";
import { on } from "./fields.js";

/** The table of Setup that says where the click and each part go: with all, or to outputs of their own. */
export class OutputsSheet {
  constructor(stage) {
    this.stage = stage;
    this.body = document.getElementById("outputs-rows");
    this.words = document.getElementById("outputs-words");
    on("outputs-find", "click", () => stage.outputs.find());
    stage.outputs.addEventListener("change", () => this.draw());
    stage.outputs.addEventListener("word", ({ detail }) => stage.words.say(detail, true));
  }

  draw() {
    const { outputs, state } = this.stage;
    this.words.textContent = outputs.words;
    const { choices } = outputs;
    const row = (of, name) =>
      html`<tr>
        <td>${name}</td>
        <td>
          <select
            class="choice"
            aria-label="${name} goes to"
            @change=${({ target }) => outputs.set(of, target.value)}
          >
            ${choices.map(
              ({ value, words }) =>
                html`<option value=${value} .selected=${live(value === outputs.placeOf(of))}>
                  ${words}
                </option>`,
            )}
          </select>
        </td>
      </tr>`;
    render([row(CLICK, "the click"), ...state.staves.map(({ id, name }) => row(id, name))], this.body);
  }
}
