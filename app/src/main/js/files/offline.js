/** What sounds without a stage, for what measures and tests it: the bank, the player, and WAV. */
export { BasicSoundBank } from "spessasynth_core";
export { post } from "./post.js";
export { bringBank, deleteBank } from "./banks.js";
export { Decoder, fetchedBank } from "../house/bank.js";
export { Mixer } from "../house/mixer.js";
export { Rendering } from "./rendering.js";
export { WavFile } from "./wav-file.js";
