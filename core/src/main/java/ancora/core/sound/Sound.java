package ancora.core.sound;

import ancora.core.Refusal;
import io.soabase.recordbuilder.core.RecordBuilder;
import java.util.List;
import java.util.Optional;

/**
 * What a part sounds like: a General MIDI program, or a drum kit, or one of a bank of one's own;
 * and a second one under the same hand, if it has that.
 *
 * @param drums whether it is a drum kit
 * @param program 0 to 127; General MIDI counts from 1 in print. Of a bank's sound it is what stands
 *     for it where the bank is not there
 * @param own which sound of which bank it is, if it is none of General MIDI
 * @param second what sounds with it
 * @param outside what a part's outside device is told to choose for it; empty if as the part says
 */
@RecordBuilder
public record Sound(
    boolean drums,
    int program,
    Optional<BankSound> own,
    Optional<SecondSound> second,
    Optional<OutsideProgram> outside)
    implements SoundBuilder.With {

  private static final int OF_A_FAMILY = 8;

  /** The standard drum kit. */
  public static final Sound STANDARD_KIT = kit(0);

  public Sound {
    Refusal.unless(program >= 0 && program <= 127, "There is no sound %s: use 0 to 127.", program);
    Refusal.unless(
        !drums || own.isPresent() || GeneralMidi.kit(program).isPresent(),
        "There is no drum kit %s: choose one from the list.",
        program);
  }

  public static Sound of(int program) {
    return plain(false, program);
  }

  public static Sound kit(int program) {
    return plain(true, program);
  }

  private static Sound plain(boolean drums, int program) {
    return new Sound(drums, program, Optional.empty(), Optional.empty(), Optional.empty());
  }

  /**
   * The sound so many places further on: among drum kits, or among the programs; round and round.
   */
  public Sound further(int by) {
    Refusal.unless(own.isEmpty(), "%s is of a sound bank: choose another from its list.", name());
    if (!drums) {
      return withProgram(Math.floorMod(program + by, GeneralMidi.PROGRAMS.size()));
    }
    List<Integer> kits = GeneralMidi.KITS.stream().map(GeneralMidi.Kit::program).toList();
    return withProgram(kits.get(Math.floorMod(kits.indexOf(program) + by, kits.size())));
  }

  /** The next one that is found under the same family; round and round. */
  public Sound nextOfFamily() {
    return drums || own.isPresent() || program % OF_A_FAMILY < OF_A_FAMILY - 1
        ? further(1)
        : withProgram(program - OF_A_FAMILY + 1);
  }

  /** Its name. */
  public String name() {
    if (own.isPresent()) {
      return own.get().name();
    }
    return drums
        ? GeneralMidi.kit(program).orElseThrow().name()
        : GeneralMidi.PROGRAMS.get(program);
  }

  /** The family that it is found under. */
  public String family() {
    if (own.isPresent()) {
      return own.get().file();
    }
    return drums ? GeneralMidi.DRUM_KITS : GeneralMidi.FAMILIES.get(program / OF_A_FAMILY);
  }
}
