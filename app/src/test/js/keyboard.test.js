import assert from "node:assert/strict";
import { test } from "node:test";

/** A page with nothing on it but the keyboard's way, and what it has come to. */
async function keyboard({ assigned = ["KeyU", "Shift KeyU", "Space", "Equal", "Enter", "ArrowUp"] } = {}) {
  const listeners = new Map();
  globalThis.addEventListener = (kind, act) => listeners.set(kind, [...(listeners.get(kind) ?? []), act]);
  globalThis.document = {
    addEventListener: () => {},
    querySelectorAll: () => [],
    querySelector: () => null,
    activeElement: null,
  };
  globalThis.MutationObserver = class {
    observe() {}
  };
  const { Keyboard } = await import("../../main/js/input/keyboard.js");
  const told = [];
  const controls = {
    teaching: false,
    of: ({ key }) => (assigned.includes(key) ? [{}] : []),
    takeKey: (key, down) => assigned.includes(key) && told.push(`${key} ${down ? "down" : "up"}`) > 0,
    releaseAll: () => told.push("all up"),
  };
  const pads = {
    down: (pad) => told.push(`pad ${pad} down`),
    up: (pad) => told.push(`pad ${pad} up`),
    gone: () => told.push("pads gone"),
  };
  const made = new Keyboard(controls, pads);
  const send = (kind, event) => listeners.get(kind).forEach((act) => act(event));
  const press = (code, more = {}) => {
    let prevented = false;
    const event = {
      code,
      key: code,
      target: element("body"),
      timeStamp: 1,
      preventDefault: () => (prevented = true),
    };
    send("keydown", { ...event, ...more });
    return prevented;
  };
  const lift = (code) => send("keyup", { code, timeStamp: 2 });
  return { made, told, press, lift, blur: () => send("blur", { timeStamp: 3 }) };
}

/** Something on the page that has the focus; a selector is met if its name stands in it. */
function element(name) {
  const matches = (selector) => selector.split(/[\s,]+/).some((one) => one.split(":")[0] === name);
  return { matches, closest: (selector) => (matches(selector) ? {} : null), isContentEditable: false };
}

test("keys are known by their places, whatever is printed on them", async () => {
  const { told, press, lift } = await keyboard();
  press("KeyZ", { key: "y" });
  lift("KeyZ");
  press("KeyQ", { key: "a" });
  press("KeyU", { key: "u" });
  lift("KeyU");
  assert.deepEqual(told, ["pad 12 down", "pad 12 up", "pad 4 down", "KeyU down", "KeyU up"]);
});

test("what is typed into has its letters, digits, space and arrows; its function keys it has not", async () => {
  const { told, press } = await keyboard({ assigned: ["KeyU", "Space", "Digit0", "F2"] });
  for (const code of ["KeyU", "Space", "Digit0", "KeyZ"]) {
    press(code, { target: element("input") });
    press(code, { target: element("textarea") });
  }
  assert.deepEqual(told, []);
  press("F2", { target: element("input") });
  assert.deepEqual(told, ["F2 down"]);
});

test("a button that the Tab key has led to keeps Enter and the space bar, and no other", async () => {
  const { told, press } = await keyboard();
  press("Enter", { key: "Enter", target: element("button") });
  press("Space", { key: " ", target: element("button") });
  press("KeyU", { target: element("button") });
  press("ArrowUp", { target: element("select") });
  assert.deepEqual(told, ["KeyU down"]);
});

test("a sign typed with Shift is the key without it; a letter with Shift is another", async () => {
  const { told, press } = await keyboard();
  press("Equal", { key: "+", shiftKey: true });
  press("KeyU", { shiftKey: true });
  press("KeyA", { shiftKey: true });
  assert.deepEqual(told, ["Equal down", "Shift KeyU down"]);
});

test("held down a key acts once, and does nothing of the browser's meanwhile", async () => {
  const { told, press } = await keyboard();
  assert.equal(press("Space"), true);
  assert.equal(press("Space", { repeat: true }), true);
  assert.equal(press("F7", { repeat: true }), false);
  assert.deepEqual(told, ["Space down"]);
});

test("the page left lets go of all, and nothing more comes of it", async () => {
  const { told, press, lift, blur } = await keyboard();
  press("KeyU");
  press("Digit1");
  blur();
  lift("KeyU");
  lift("Digit1");
  assert.deepEqual(told, ["KeyU down", "pad 0 down", "pads gone", "all up"]);
});

test("a view that is open has its keys first; Esc closes what is open, and is what it stands for where nothing is", async () => {
  const { made, told, press } = await keyboard({ assigned: ["ArrowUp", "KeyU"] });
  made.first(({ code }) => code === "ArrowUp");
  press("ArrowUp");
  press("KeyU");
  assert.deepEqual(told, ["KeyU down"]);
  const closing = await keyboard({ assigned: ["Escape", "Space"] });
  let open = 2;
  closing.made.closes = () => open-- > 0;
  closing.press("Escape");
  closing.press("Escape");
  closing.press("Space");
  assert.deepEqual(closing.told, ["Space down"]);
  closing.press("Escape");
  assert.deepEqual(closing.told.at(-1), "Escape down");
});

test("labels are what is printed, where the browser says it", async () => {
  const { labelOf, readLayout } = await import("../../main/js/input/layout.js");
  assert.equal(labelOf("Shift KeyU"), "Shift u");
  assert.equal(labelOf("Backspace"), "⌫");
  const keys = new Map([
    ["KeyZ", "y"],
    ["KeyA", "q"],
  ]);
  Object.defineProperty(globalThis, "navigator", {
    value: { keyboard: { getLayoutMap: async () => keys } },
    configurable: true,
  });
  await readLayout();
  assert.equal(labelOf("KeyZ"), "y");
  assert.equal(labelOf("Alt KeyA"), "Alt q");
  assert.equal(labelOf("KeyU"), "u");
});
