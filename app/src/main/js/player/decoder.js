import {
  BasicInstrument,
  BasicPreset,
  BasicSample,
  BasicSoundBank,
  SampleTypes,
  SoundBankLoader,
} from "spessasynth_core";
import { SHELF } from "../files/banks.js";
import { presetOf } from "./presets.js";

/**
 * Decodes the samples of a sound away from the audio thread, which would stop for it.
 * Says {here} once it is; takes {bank} once, then each with a number that its answer has too {decode: sound}, and gives {of, samples: [{index, data, rate}]}
 * for each, or {of, fault} with a sentence. Of a sound of a bank of one's own it fetches the bank from {from}, and gives
 * {alone} besides, a bank with that sound alone and nothing in its samples, and of each sample its {loop}; or {of, lost}
 * where the bank is not there. Takes {strokes: [[key, samples, rate], …]}, and gives {made}, a bank with a kit of these.
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
  if (data.strokes) {
    self.postMessage({ number: data.number, made: kitOf(data.strokes) });
    return;
  }
  const of = data.decode;
  try {
    const answer = of.own ? aloneOf(await ownBank(of.own.bank, data.from), of) : { samples: samplesOf(of) };
    const transfer = answer.samples.map((sample) => sample.data.buffer);
    self.postMessage({ number: data.number, of, ...answer }, { transfer });
  } catch (fault) {
    const kind = of.own ? "lost" : "fault";
    self.postMessage({
      number: data.number,
      of,
      [kind]: `a sound of the bank cannot be decoded: ${fault.message}`,
    });
  }
};
self.postMessage({ number: 0, here: true });

/** Banks of one's own are large: so many are kept as they were read. */
const KEPT_BANKS = 2;

/** @type {Map<string, Promise<BasicSoundBank>>} by their digests, the one that was asked for last at the end */
const ownBanks = new Map();

function ownBank(digest, from) {
  const read = ownBanks.get(digest) ?? fetched(from).then((bytes) => SoundBankLoader.fromArrayBuffer(bytes));
  ownBanks.delete(digest);
  ownBanks.set(digest, read);
  read.catch(() => ownBanks.delete(digest));
  if (ownBanks.size > KEPT_BANKS) {
    ownBanks.delete(ownBanks.keys().next().value);
  }
  return read;
}

/** From what the browser keeps, where it keeps anything. */
async function fetched(from) {
  const kept = await self.caches?.open(SHELF).catch(() => null);
  const known = await kept?.match(from);
  const answer = known ?? (await fetch(from));
  if (!answer.ok) {
    throw new Error("the bank is not here");
  }
  if (kept && !known) {
    await kept.put(from, answer.clone()).catch(() => {});
  }
  return answer.arrayBuffer();
}

/** A bank that has one sound alone: what it weighs are its samples, which are given beside it. */
function aloneOf(from, { drums, program, own }) {
  const preset = from.presets.find(
    (one) =>
      one.isGMGSDrum === drums &&
      one.program === program &&
      (drums || one.bankMSB * 128 + one.bankLSB === own.number),
  );
  if (!preset) {
    throw new Error("the bank has no such sound");
  }
  const bank = new BasicSoundBank();
  bank.addCompletePresets([preset]);
  for (const { linkedSample } of [...bank.samples]) {
    if (linkedSample && !bank.samples.includes(linkedSample)) {
      bank.addSamples(linkedSample);
    }
  }
  const samples = bank.samples.map((sample, index) => ({
    index,
    data: sample.getAudioData().slice(),
    rate: sample.sampleRate,
    loop: [sample.loopStart, sample.loopEnd],
  }));
  // it is written without its samples, and under a number that the player knows; then it is as it was
  const { bankMSB, bankLSB } = preset;
  const whole = bank.samples.map((sample) => sample.getAudioData());
  Object.assign(preset, { program: 0, bankMSB: 0, bankLSB: 0 });
  bank.samples.forEach((sample) => sample.setAudioData(new Float32Array(EMPTY), sample.sampleRate));
  const alone = bank.writeSF2();
  Object.assign(preset, { program, bankMSB, bankLSB });
  bank.samples.forEach((sample, i) => sample.setAudioData(whole[i], sample.sampleRate));
  return { alone, samples };
}

/** A bank with one kit, in which each key has a sample of its own. */
function kitOf(strokes) {
  const bank = new BasicSoundBank();
  const instrument = new BasicInstrument();
  instrument.name = "Click";
  for (const [key, samples, rate] of strokes) {
    const sample = new BasicSample(`stroke ${key}`, rate, key, 0, SampleTypes.monoSample, 0, 0);
    sample.setAudioData(samples, rate);
    bank.addSamples(sample);
    instrument.createZone(sample).keyRange = { min: key, max: key };
  }
  bank.addInstruments(instrument);
  const preset = new BasicPreset(bank);
  Object.assign(preset, { name: "Click", program: 0, isGMGSDrum: true });
  preset.createZone(instrument);
  bank.addPresets(preset);
  return bank.writeSF2();
}

/** As few frames as a sample of SoundFont 2 may have: 48 (its specification, 7.10). */
const EMPTY = 48;

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
