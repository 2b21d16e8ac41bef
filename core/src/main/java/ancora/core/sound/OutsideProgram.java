package ancora.core.sound;

import ancora.core.Refusal;
import java.util.OptionalInt;

/**
 * What an outside device is told to choose.
 *
 * @param bank of its bank select, 0 to 16 383; empty if none is sent
 * @param program 0 to 127
 */
public record OutsideProgram(OptionalInt bank, int program) {

  public OutsideProgram {
    Refusal.unless(
        bank.orElse(0) >= 0 && bank.orElse(0) <= 16_383, "A bank is a number from 0 to 16 383.");
    Refusal.unless(program >= 0 && program <= 127, "A program is a number from 0 to 127.");
  }
}
