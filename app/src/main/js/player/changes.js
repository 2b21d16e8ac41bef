/**
 * What the host tells is what has changed: here it is brought together with what is known.
 *
 * @typedef {[number, number, any[]]} Edit [place in the list before, how many go there, what comes there]
 */

/**
 * @param {any[]} list
 * @param {Edit[]} edits by rising place
 * @returns {any[]} another list, as the edits make it
 */
export function edited(list, edits) {
  const made = [];
  let place = 0;
  for (const [at, gone, come] of edits) {
    for (; place < at; place++) {
      made.push(list[place]);
    }
    made.push(...come);
    place += gone;
  }
  for (; place < list.length; place++) {
    made.push(list[place]);
  }
  return made;
}

/**
 * @param {Record<string, any> | undefined} known
 * @param {Record<string, any>} fields those that are otherwise now; null for one that is no more
 * @returns {Record<string, any>} another object
 */
export function changed(known, fields) {
  const made = { ...known, ...fields };
  for (const [name, value] of Object.entries(fields)) {
    if (value === null) {
      delete made[name];
    }
  }
  return made;
}

/**
 * @param {Record<string, any> | null} plan the plan as it was known; null for none
 * @param {Record<string, any>} changes as `docs/protocol.md` has them
 * @returns {Record<string, any>} the plan as it is now; parts and spans in which nothing has changed are the same objects
 */
export function planWith(plan, { parts = [], ...changes }) {
  const known = new Map((plan?.parts ?? []).map((part) => [part.part, part]));
  for (const part of parts) {
    known.set(part.part, partWith(known.get(part.part), part));
  }
  const next = changed(plan, changes);
  return { ...next, parts: next.order.map((id) => known.get(id)).filter(Boolean) };
}

function partWith(part, { spans, ...changes }) {
  const known = new Map((part?.spans ?? []).map((span) => [span.id, span]));
  return {
    ...changed(part, changes),
    spans: spans ? spans.map((span) => spanWith(known.get(span.id), span)) : part.spans,
  };
}

function spanWith(span, { noteEdits, moveEdits, ...changes }) {
  if (span && !noteEdits && !moveEdits && Object.keys(changes).length === 1) {
    return span;
  }
  const next = changed(span, changes);
  if (noteEdits) {
    next.notes = edited(span?.notes ?? [], noteEdits);
  }
  if (moveEdits) {
    const moves = edited(span?.moves ?? [], moveEdits);
    if (moves.length > 0) {
      next.moves = moves;
    } else {
      delete next.moves;
    }
  }
  return next;
}
