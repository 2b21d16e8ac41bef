import { BasicSoundBank, SoundBankLoader } from "spessasynth_core";
import { presetOf } from "./presets.js";

/**
 * Decodes the samples of a sound away from the audio thread, which would stop for it.
 * Says {here} once it is; takes {bank} once, then {decode: {drums, program}} and gives {of, samples: [{index, data, rate}]}
 * for each, or {of, fault} with a sentence.
 */

/** @type {import("spessasynth_core").BasicSoundBank} */
let bank;
const given = new Set();

self.onmessage = async ({ data }) => {
  await BasicSoundBank.isSF3DecoderReady;
  if (data.bank) {
    bank = SoundBankLoader.fromArrayBuffer(data.bank);
    return;
  }
  try {
    const samples = samplesOf(data.decode);
    const transfer = samples.map((sample) => sample.data.buffer);
    self.postMessage({ of: data.decode, samples }, { transfer });
  } catch (fault) {
    self.postMessage({ of: data.decode, fault: `a sound of the bank cannot be decoded: ${fault.message}` });
  }
};
self.postMessage({ here: true });

/** Those that were not given yet. */
function samplesOf(sound) {
  const samples = [];
  for (const index of indexesOf(sound)) {
    if (!given.has(index)) {
      const sample = bank.samples[index];
      samples.push({ index, data: sample.getAudioData().slice(), rate: sample.sampleRate });
      given.add(index);
    }
  }
  return samples;
}

/** The samples that a sound is made of. */
function indexesOf(sound) {
  const preset = presetOf(bank, sound);
  const found = new Set();
  for (const zone of preset.zones) {
    for (const inner of zone.instrument.zones) {
      found.add(bank.samples.indexOf(inner.sample));
      if (inner.sample.linkedSample) {
        found.add(bank.samples.indexOf(inner.sample.linkedSample));
      }
    }
  }
  found.delete(-1);
  return found;
}
