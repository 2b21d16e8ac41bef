import { toggleTheme } from "./conductor.js";

/**
 * What is done on a page by itself, be it by a key, a pedal or a button: the engine has nothing to do with it.
 *
 * @returns {Map<string, (own: number) => void>} by the names that commands have for it
 */
export function here(stage, { chooser, setup, partDialog, hands, whatNow, workshop, runs }) {
  const { state } = stage;
  const click = (id) => document.getElementById(id).click();
  return new Map([
    ["WORKSHOP", () => workshop.toggle()],
    ["RUNS", () => runs.toggle()],
    ["HEAR_RUN", () => runs.hearOrStop()],
    ["RUN_ROUND", () => runs.roundOrOn()],
    ["LAMP_OFF", () => stage.words.quiet()],
    ["LIGHT", toggleTheme],
    ["HANDS", () => hands.toggle()],
    ["WHAT_NOW", () => whatNow.toggle()],
    ["SOUNDS", () => state.armedPart && chooser.open(state.armedPart)],
    ["PART", () => state.armedPart && partDialog.open(state.armedPart)],
    ["SETTINGS", () => setup.open("recording")],
    ["SETUP", () => setup.open()],
    ["HELP", () => click("help")],
    ["SOFTER_KEYS", () => hands.strengthBy(-1)],
    ["HARDER_KEYS", () => hands.strengthBy(1)],
  ]);
}
