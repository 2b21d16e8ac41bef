/**
 * What sounds, as messages of MIDI 1.0 for an outside device.
 *
 * @typedef {{device: string, channel: number, bank?: number | null, program?: number | null, alone: boolean,
 *   volume: number, pan: number}} Output where a part sounds outside, as the engine says
 */

const NOTE_OFF = 0x80;
const NOTE_ON = 0x90;
const CONTROL_CHANGE = 0xb0;
const PROGRAM_CHANGE = 0xc0;
const CHANNEL_PRESSURE = 0xd0;
const PITCH_BEND = 0xe0;

const BANK_COARSE = 0;
const FULL = 127;
const VOLUME = 7;
const PAN = 10;
const BANK_FINE = 32;
const SUSTAIN = 64;
const ALL_NOTES_OFF = 123;
const RELEASE_VELOCITY = 64;

/**
 * @param {import("../player/voices.js").Action} action
 * @param {{channel: number, volume?: number}} output channel 0 to 15; its volume, 127 if none
 * @returns {number[]} the bytes of its message
 */
export function messageOf({ kind, pitch, velocity }, { channel, volume = FULL }) {
  switch (kind) {
    case "on":
      return [NOTE_ON | channel, pitch, velocity];
    case "off":
      return [NOTE_OFF | channel, pitch, RELEASE_VELOCITY];
    case "control":
      // what a clip says of the volume is against how the part stands in the whole
      return [
        CONTROL_CHANGE | channel,
        pitch,
        pitch === VOLUME ? Math.round((volume * velocity) / FULL) : velocity,
      ];
    case "bend":
      return [PITCH_BEND | channel, velocity & 0x7f, velocity >> 7];
    default:
      return [CHANNEL_PRESSURE | channel, velocity];
  }
}

/**
 * The messages that choose an output's bank and program: bank before program, as MIDI 1.0 wants it.
 *
 * @param {Output} output
 */
export function choice({ channel, bank, program }) {
  const messages = [];
  if (Number.isInteger(bank)) {
    messages.push([CONTROL_CHANGE | channel, BANK_COARSE, bank >> 7]);
    messages.push([CONTROL_CHANGE | channel, BANK_FINE, bank & 0x7f]);
  }
  if (Number.isInteger(program)) {
    messages.push([PROGRAM_CHANGE | channel, program]);
  }
  return messages;
}

/** The messages that say how an output stands in the whole. */
export function balance({ channel, volume, pan }) {
  return [
    [CONTROL_CHANGE | channel, VOLUME, volume],
    [CONTROL_CHANGE | channel, PAN, pan],
  ];
}

/** The messages after which nothing sounds on a channel. */
export function silence(channel) {
  return [
    [CONTROL_CHANGE | channel, SUSTAIN, 0],
    [CONTROL_CHANGE | channel, ALL_NOTES_OFF, 0],
  ];
}
