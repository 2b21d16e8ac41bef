import { ClickSounds } from "./click-sounds.js";
import { field, put } from "./fields.js";

/** The settings of recording, grid and click, in the drawer Setup. */
export class Settings {
  constructor(stage) {
    this.stage = stage;
    this.clickSounds = new ClickSounds(stage);
    this.#wire("setClick", {
      "click-sound": ["sound", text],
      "click-when": ["when", text],
      "click-level": ["level", number],
      "click-dotted": ["dotted", checked],
      "click-divided": ["divided", number],
      "click-accent": ["accent", number],
    });
    this.#wire("setRecording", {
      "closes-on": ["closesOn", text],
      "length-rule": ["lengthRule", text],
      "fixed-units": ["fixedUnits", number],
      forgiveness: ["forgiveness", number],
      "from-first-note": ["fromFirstNote", checked],
      breather: ["breatherBars", number],
      "merge-pedals": ["mergePedals", checked],
      "run-up": ["runUp", runUp],
      "run-up-bar": ["runUp", runUp],
    });
    const after = field("after-closing");
    after.addEventListener("change", () =>
      stage.connection.do({
        do: "setRecording",
        overdubAfter: after.value === "OVERDUB",
        takesAfter: after.value === "TAKES",
      }),
    );
    const ofArmed = () => stage.state.armedPart && { part: stage.state.armedPart.id };
    this.#wire(
      "setInputGrid",
      {
        strength: ["strength", number],
        swing: ["swing", number],
        "ends-too": ["endsToo", checked],
      },
      ofArmed,
    );
  }

  draw() {
    const { show, armedPart } = this.stage.state;
    if (!show) {
      return;
    }
    const { click, recording } = show;
    put("click-sound", click.sound);
    put("click-when", click.when);
    put("click-level", click.level, `${click.level} dB`);
    field("click-dotted").checked = click.dotted;
    this.clickSounds.draw();
    put("click-divided", click.divided);
    put("click-accent", click.accent, `${click.accent} dB`);
    put("closes-on", recording.closesOn);
    put("length-rule", recording.lengthRule);
    put("fixed-units", recording.fixedUnits, recording.closesOn === "BEAT" ? "beats" : "bars");
    put("after-closing", recording.takesAfter ? "TAKES" : recording.overdubAfter ? "OVERDUB" : "VAMP");
    put("forgiveness", recording.forgiveness, `${recording.forgiveness} ms`);
    field("from-first-note").checked = recording.fromFirstNote;
    put("breather", recording.breatherBars);
    field("merge-pedals").checked = recording.mergePedals;
    put("run-up", recording.runUp?.of ?? "");
    put("run-up-bar", recording.runUp?.bar ?? 1);
    document.getElementById("run-up-bar").hidden = !recording.runUp;
    if (armedPart) {
      const { strength, swing, endsToo } = armedPart.inputGrid;
      put("strength", strength, `${strength} %`);
      put("swing", swing, `${swing} %`);
      field("ends-too").checked = endsToo;
    }
  }

  /**
   * A change of one field sets that field alone.
   *
   * @param {() => object | undefined} whose what else the command says; nothing is set where there is none
   */
  #wire(command, fields, whose = () => ({})) {
    for (const [id, [name, read]] of Object.entries(fields)) {
      const element = field(id);
      element.addEventListener("change", () => {
        const of = whose();
        if (of) {
          this.stage.connection.do({ do: command, ...of, [name]: read(element) });
        }
      });
      element.addEventListener("input", () => {
        const words = document.getElementById(`${id}-words`);
        if (words) {
          words.textContent = element.value;
        }
      });
    }
  }
}

const text = ({ value }) => value;
const number = ({ value }) => Number(value);
const checked = (element) => element.checked;

/** The bar at which recordings begin, from both fields; null for none. */
function runUp() {
  const of = field("run-up").value;
  const bar = Math.max(1, Number(field("run-up-bar").value) || 1);
  return of === "" ? null : { of, bar };
}
