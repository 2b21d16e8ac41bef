package ancora.core.clip;

import ancora.core.show.Names;
import java.util.List;

/**
 * One whole version of a clip.
 *
 * @param head what it is called
 * @param layers its layers, oldest first
 * @param peeled layers taken off
 */
public record Take(Head head, List<Layer> layers, List<Layer> peeled) {

  public Take {
    peeled = List.copyOf(peeled);
    layers = List.copyOf(layers);
  }

  /**
   * What a take is called.
   *
   * @param number 1 and up in the order in which they were played, within the clip
   * @param name as the performer calls it; empty if it has no name but its number
   * @param partial whether it was played over less than the whole loop
   */
  public record Head(int number, String name, boolean partial) {

    /** The only take of a clip. */
    public static final Head FIRST = new Head(1, "", false);

    public Head {
      name = Names.checkedOrEmpty("take", name);
    }

    public Head withName(String newName) {
      return new Head(number, newName, partial);
    }
  }

  public int noteCount() {
    return layers.stream().mapToInt(layer -> layer.notes().size()).sum();
  }
}
