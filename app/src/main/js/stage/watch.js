/**
 * The page of somebody who only watches, on a phone at the edge of the stage: section, bar, what comes next, and
 * each part in a line. There is nothing on it to press.
 */

import { stayAwake } from "../house/awake.js";
import { Connection } from "../house/connection.js";
import { html, nothing, render, repeat } from "../house/lit.js";
import { ServerClock } from "../house/server-clock.js";
import { State } from "../house/state.js";
import { linesOf, sceneOf } from "./scene.js";
import { position, tickNow, until } from "./time.js";

const root = document.getElementById("watch");
const clock = new ServerClock();
const connection = new Connection(Number(root.dataset.show), clock, true);
const state = new State();
let away = "";

connection.addEventListener("welcome", ({ detail }) => {
  state.clear();
  state.take(detail.state);
  away = "";
});
connection.addEventListener("state", ({ detail }) => state.take(detail));
connection.addEventListener("line", ({ detail: there }) => {
  away = there ? "" : "no connection: this is how it was";
});
connection.addEventListener("out", () => {
  away = "the house asks for the pass phrase again: reload this page";
});
stayAwake(connection, () => Boolean(state.transport?.rolling));
connection.addEventListener("gone", ({ detail }) => {
  away = detail;
});

/** @param {number | null} tick */
function placeOf(tick) {
  if (tick === null) {
    return state.transport.awaiting ? "waits for the first note" : "stands still";
  }
  const { bar, beat } = position(tick, state.show.meter);
  return bar < 1 ? `count-in ${beat}` : `${bar}·${beat}`;
}

function sectionsOf(tick) {
  const { now, next, sections } = state.form;
  const wordsOf = (id) => {
    const section = sections.find((one) => one.id === id);
    return section ? `${section.letter} ${section.name}` : "";
  };
  const soon = next && tick !== null ? ` in ${until(next.at - tick, state.show.meter)}` : "";
  return html`<b>${wordsOf(now) || "no section"}</b>${
      next ? html`<span class="next">${wordsOf(next.section)}${soon}</span>` : nothing
    }`;
}

function partOf(part, tick) {
  const lines = linesOf(sceneOf(part, tick, state), tick, state.show.meter);
  const { muted } = part.balance;
  return html`<li class=${lines.style}>
    <b>${part.name}</b><span class="state">${muted ? "MUTED" : lines.state}</span
    ><span class="more">${lines.more}</span><span class="next">${lines.next}</span>
  </li>`;
}

function draw() {
  if (state.show) {
    const tick = tickNow({ state, clock });
    render(
      html`<header>
          <p class="place">${placeOf(tick)}</p>
          <h1 class="section">${sectionsOf(tick)}</h1>
        </header>
        ${away ? html`<p class="away" role="status">${away}</p>` : nothing}
        <ul>
          ${repeat(
            state.staves,
            ({ id }) => id,
            (part) => partOf(part, tick),
          )}
        </ul>`,
      root,
    );
  }
  requestAnimationFrame(draw);
}

state.take(JSON.parse(root.dataset.saved));
draw();
connection.connect();
globalThis.ancora = { connection, state, clock };
