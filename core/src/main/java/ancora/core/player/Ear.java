package ancora.core.player;

import java.util.Optional;

/** Is told what sounds. */
@FunctionalInterface
public interface Ear {

  /**
   * Something sounds.
   *
   * @param by the id of the span that attacks a note, or moves a controller; empty if a hand does,
   *     and at the end of a note
   */
  void hear(Sounded sounded, Optional<String> by);
}
