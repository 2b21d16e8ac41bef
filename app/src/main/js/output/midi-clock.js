/**
 * MIDI clock: 24 pulses a quarter note, and start, stop and continue, as MIDI 1.0 has them. The pulses lie on
 * ticks of the tempo map, so they follow every change of tempo without drifting.
 *
 * @typedef {{micros: number, bytes: number[]}} Timed a message, and the instant of server time at which it is due
 */

const PULSE = 0xf8;
const START = 0xfa;
const CONTINUE = 0xfb;
const STOP = 0xfc;
const SONG_POSITION = 0xf2;

/** From pulse to pulse, in ticks: a 24th of a quarter note. */
const PULSE_TICKS = 40;

/** Song position is counted in sixteenths, which are six pulses; it has 14 bits. */
const SIXTEENTH = 6 * PULSE_TICKS;
const LAST_POSITION = 16383;

/** Start and continue go out this long before the pulse that they count from, in microseconds. */
const BEFORE_PULSE = 1_000;

export class MidiClock {
  constructor() {
    /** @type {import("../player/tempo-map.js").TempoMap | null} */
    this.map = null;
    /** @type {number | null} the last tick that has been dealt with */
    this.done = null;
    /** the tick at whose pulse devices begin to count; null once they do */
    this.begins = null;
  }

  /** @param {import("../player/tempo-map.js").TempoMap | null} map the map while the transport runs */
  follow(map) {
    this.map = map;
  }

  /** Devices are told anew where the music is: one has come in the middle of it. */
  begin() {
    this.done = null;
    this.begins = null;
  }

  /**
   * What is due in a stretch of time.
   *
   * @param {number} from microseconds of server time
   * @param {number} until microseconds of server time
   * @returns {Timed[]} in order
   */
  advance(from, until) {
    if (!this.map) {
      const rolled = this.done !== null;
      this.begin();
      return rolled ? [{ micros: from, bytes: [STOP] }] : [];
    }
    const out = [];
    if (this.done === null) {
      this.done = this.map.lastTickBefore(from);
      this.begins = this.done < 0 ? 0 : Math.ceil((this.done + 1) / SIXTEENTH) * SIXTEENTH;
    }
    const last = this.map.lastTickBefore(until);
    const first = Math.ceil((this.done + 1) / PULSE_TICKS) * PULSE_TICKS;
    for (let tick = first; tick <= last; tick += PULSE_TICKS) {
      const micros = this.map.microsOf(tick);
      if (tick === this.begins) {
        this.begins = null;
        out.push(...beginning(tick).map((bytes) => ({ micros: micros - BEFORE_PULSE, bytes })));
      }
      out.push({ micros, bytes: [PULSE] });
    }
    this.done = Math.max(this.done, last);
    return out;
  }
}

function beginning(tick) {
  const position = tick / SIXTEENTH;
  if (position === 0) {
    return [[START]];
  }
  return position > LAST_POSITION
    ? [[CONTINUE]]
    : [[SONG_POSITION, position & 0x7f, position >> 7], [CONTINUE]];
}
