const HELD_FOR = 450;

/**
 * Things in a box that can be tapped and held. The gesture hangs on the box, which stays, whatever becomes of the
 * things under the finger meanwhile: a tap is a tap though notes come. A tap counts from the moment at which the
 * finger came down, as soon as it is no hold; with Shift a key holds.
 *
 * @param {HTMLElement} box
 * @param {string} which a selector of the things
 * @param {{tap: (data: DOMStringMap, own: number) => void, hold: (data: DOMStringMap) => void}} acts
 */
export function tapOrHold(box, which, { tap, hold }) {
  const thingAt = (target) => target.closest?.(which) ?? null;
  /** @type {{data: DOMStringMap, name: string, own: number, timer: number} | null} */
  let down = null;
  const end = () => {
    clearTimeout(down?.timer);
    down = null;
  };
  box.addEventListener("pointerdown", (event) => {
    const thing = thingAt(event.target);
    if (!thing || event.button !== 0) {
      return;
    }
    box.setPointerCapture(event.pointerId);
    const data = { ...thing.dataset };
    const timer = setTimeout(() => {
      end();
      hold(data);
    }, HELD_FOR);
    down = { data, name: nameOf(data), own: event.timeStamp, timer };
  });
  box.addEventListener("pointerup", ({ clientX, clientY }) => {
    const over = thingAt(document.elementFromPoint(clientX, clientY) ?? box);
    if (down && over && nameOf(over.dataset) === down.name) {
      const { data, own } = down;
      end();
      tap(data, own);
    }
    end();
  });
  box.addEventListener("pointercancel", end);
  box.addEventListener("contextmenu", (event) => {
    const thing = thingAt(event.target);
    if (thing) {
      event.preventDefault();
      end();
      hold({ ...thing.dataset });
    }
  });
  box.addEventListener("keydown", (event) => {
    const thing = thingAt(event.target);
    if (thing && !event.repeat && (event.key === "Enter" || event.key === " ")) {
      event.preventDefault();
      event.stopPropagation();
      const data = { ...thing.dataset };
      if (event.shiftKey) {
        hold(data);
      } else {
        tap(data, event.timeStamp);
      }
    }
  });
  // what presses without a finger or a key, as a screen reader does
  box.addEventListener("click", (event) => {
    const thing = thingAt(event.target);
    if (thing && event.detail === 0) {
      tap({ ...thing.dataset }, event.timeStamp);
    }
  });
}

function nameOf(data) {
  return JSON.stringify(data);
}
