package ancora.core.edit;

import ancora.core.Refusal;
import ancora.core.clip.ClipId;
import java.util.List;

/**
 * Some clips of one part.
 *
 * @param ids 1 to {@value #MOST}
 */
public record Clips(List<ClipId> ids) {

  /** No more are meant at a time. */
  public static final int MOST = 64;

  public Clips {
    Refusal.unless(!ids.isEmpty() && ids.size() <= MOST, "Choose 1 to %s clips.", MOST);
    ids = List.copyOf(ids);
  }
}
