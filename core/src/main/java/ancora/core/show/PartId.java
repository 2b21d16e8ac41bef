package ancora.core.show;

/** Identifies a part within its show; by number, so that the order is always the same. */
public record PartId(int value) implements Comparable<PartId> {

  @Override
  public int compareTo(PartId other) {
    return Integer.compare(value, other.value);
  }
}
