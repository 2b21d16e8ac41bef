/** The master, with sixteen parts that are held down. */
import { count } from "./counted.js";

const BLOCK = 128;

let Master;
Object.assign(globalThis, {
  sampleRate: 48_000,
  currentFrame: 0,
  AudioWorkletProcessor: class {
    port = { postMessage() {} };
  },
  registerProcessor: (_name, processor) => (Master = processor),
});
await import("../../main/js/player/master.js");

const tone = (hertz) => Float32Array.from({ length: BLOCK }, (_, i) => 0.9 * Math.sin(i * hertz));
const stereo = (hertz) => [tone(hertz), tone(hertz * 1.5)];
const inputs = Array.from({ length: 17 }, (_, k) => stereo(0.1 + k / 50));
const outputs = [stereo(0), stereo(0)];
const parameters = { limited: new Float32Array([1]) };
const master = new Master({ numberOfInputs: inputs.length, numberOfOutputs: outputs.length });

count((blocks) => {
  for (let i = 0; i < blocks; i++) {
    master.process(inputs, outputs, parameters);
    globalThis.currentFrame += BLOCK;
  }
});
