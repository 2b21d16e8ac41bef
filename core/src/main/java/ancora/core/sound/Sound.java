package ancora.core.sound;

import ancora.core.Refusal;
import java.util.List;

/**
 * What a part sounds like: a General MIDI program, or a drum kit.
 *
 * @param drums whether it is a drum kit
 * @param program 0 to 127; General MIDI counts from 1 in print
 */
public record Sound(boolean drums, int program) {

  private static final int OF_A_FAMILY = 8;

  /** The standard drum kit. */
  public static final Sound STANDARD_KIT = new Sound(true, 0);

  public Sound {
    Refusal.unless(program >= 0 && program <= 127, "There is no sound %s: use 0 to 127.", program);
    Refusal.unless(
        !drums || GeneralMidi.kit(program).isPresent(),
        "There is no drum kit %s: choose one from the list.",
        program);
  }

  public static Sound of(int program) {
    return new Sound(false, program);
  }

  public static Sound kit(int program) {
    return new Sound(true, program);
  }

  /**
   * The sound so many places further on: among drum kits, or among the programs; round and round.
   */
  public Sound further(int by) {
    if (!drums) {
      return of(Math.floorMod(program + by, GeneralMidi.PROGRAMS.size()));
    }
    List<Integer> kits = GeneralMidi.KITS.stream().map(GeneralMidi.Kit::program).toList();
    return kit(kits.get(Math.floorMod(kits.indexOf(program) + by, kits.size())));
  }

  /** The next one that is found under the same family; round and round. */
  public Sound nextOfFamily() {
    return drums || program % OF_A_FAMILY < OF_A_FAMILY - 1
        ? further(1)
        : of(program - OF_A_FAMILY + 1);
  }

  /** Its name. */
  public String name() {
    return drums
        ? GeneralMidi.kit(program).orElseThrow().name()
        : GeneralMidi.PROGRAMS.get(program);
  }

  /** The family that it is found under. */
  public String family() {
    return drums ? GeneralMidi.DRUM_KITS : GeneralMidi.FAMILIES.get(program / OF_A_FAMILY);
  }
}
