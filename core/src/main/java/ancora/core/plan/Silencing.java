package ancora.core.plan;

import ancora.core.note.Note;
import java.util.Optional;
import java.util.Set;

/** When which notes of a clip that sounds are silent. A value: it can be compared with another. */
public interface Silencing {

  /** No note is silent at any time. */
  Silencing NONE =
      new Silencing() {
        @Override
        public Silence of(int layer, Note note) {
          return Silence.NONE;
        }

        @Override
        public Optional<Set<Long>> since(Silencing before) {
          return before == this ? Optional.of(Set.of()) : Optional.empty();
        }
      };

  /**
   * When a note is silent.
   *
   * @param layer the number of the layer that it is in
   */
  Silence of(int layer, Note note);

  /**
   * What has become of another one.
   *
   * @return the ids of notes that may be silent at other times than before; empty if any may
   */
  Optional<Set<Long>> since(Silencing before);
}
