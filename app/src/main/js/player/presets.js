/**
 * Finding a sound in the sound bank. One that the bank lacks is played by the first of its family, eight
 * programs that belong together (General MIDI 1); a drum kit by the first kit.
 *
 * @param {{presets: any[]}} bank its presets have program, bankMSB, isGMGSDrum, name and zones
 * @param {{drums: boolean, program: number}} sound
 */
export function presetOf(bank, { drums, program }) {
  const alike = bank.presets.filter((preset) => (preset.isDrum ?? preset.isGMGSDrum) === drums);
  const named = (wanted) => alike.find((preset) => preset.program === wanted && preset.bankMSB === 0);
  const first = drums ? 0 : program - (program % FAMILY);
  const anywhere = (wanted) => drums && alike.find((preset) => preset.program === wanted);
  return named(program) || anywhere(program) || named(first) || anywhere(first) || alike[0];
}

const FAMILY = 8;
