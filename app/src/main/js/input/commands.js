/**
 * What a control stands for is a command, as the engine knows it: what it names, and what is to change, is looked up
 * there. The page only says where a knob stands, whether a control is held, and does what is done on a page.
 *
 * @typedef {{do: string, [field: string]: unknown}} Command
 */

export class Commands {
  /**
   * @param {import("../house/connection.js").Connection} connection
   */
  constructor(connection) {
    this.connection = connection;
    /** all notes off, here and now */
    this.quiet = () => {};
    /** @type {Map<string, (own: number) => void>} what is done on this page, by its name */
    this.here = new Map();
    /** @type {Map<string, number>} where each knob stood last, 0 to 1 */
    this.knobs = new Map();
  }

  /**
   * @param {Command | undefined} command nothing, if a gesture stands for nothing
   * @param {number} own when it happened: the page's own time in ms
   * @param {number} press the number of a command that was done at once, and has not been; 0 if none was
   * @returns {number} the command's number; 0 if there is none
   */
  do(command, own, press = 0) {
    if (!command) {
      return 0;
    }
    if (command.do === "onPage") {
      this.here.get(String(command.what))?.(own);
      return 0;
    }
    if (command.do === "panic") {
      this.quiet();
    }
    return this.connection.do(press ? { do: "instead", press, command } : command, own);
  }

  /** Lasts as long as the control is held. */
  hold(command, on, own) {
    this.connection.do({ ...command, on }, own);
  }

  /**
   * @param {Command} command in which a knob is
   * @param {number} at where it stands, 0 to 1
   * @param {string} knob which it is
   */
  turn(command, at, knob, own) {
    const was = this.knobs.get(knob);
    this.knobs.set(knob, at);
    const stands = (value) =>
      value?.knob ? { knob: value.knob, at, ...(was !== undefined && { was }) } : value;
    const turned = Object.entries(command).map(([field, value]) => [field, stands(value)]);
    this.connection.do(Object.fromEntries(turned), own);
  }
}
