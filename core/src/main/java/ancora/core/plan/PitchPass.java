package ancora.core.plan;

import java.util.List;

/**
 * What one pitch does in a pass.
 *
 * @param begin what begins in it, each as long as it was played, by rising place
 * @param notes what sounds, each as long as it does
 * @param isLocal whether all that there is of the pitch begins in the pass: then a note concerns
 *     only the one before it
 */
record PitchPass(List<PlannedNote> begin, List<PlannedNote> notes, boolean isLocal) {

  /** Where there are no notes of the pitch yet. */
  static final PitchPass NONE = new PitchPass(List.of(), List.of(), true);
}
