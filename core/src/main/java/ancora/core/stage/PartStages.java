package ancora.core.stage;

import ancora.core.show.PartId;
import java.util.AbstractMap;
import java.util.AbstractSet;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.Iterator;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * What each part is doing, by rising id. It never changes, and there are few: another one for one
 * part copies a short list.
 */
final class PartStages extends AbstractMap<PartId, PartStage> {

  private final List<Entry<PartId, PartStage>> entries;

  /** The ids of the parts: a part is looked for at every step of every command. */
  private final int[] ids;

  private PartStages(List<Entry<PartId, PartStage>> entries) {
    this.entries = List.copyOf(entries);
    this.ids = entries.stream().mapToInt(entry -> entry.getKey().value()).toArray();
  }

  static PartStages of(Map<PartId, PartStage> stages) {
    if (stages instanceof PartStages same) {
      return same;
    }
    List<Entry<PartId, PartStage>> entries = new ArrayList<>();
    stages.forEach((part, on) -> entries.add(Map.entry(part, on)));
    entries.sort(BY_PART);
    return new PartStages(entries);
  }

  private static final Comparator<Entry<PartId, PartStage>> BY_PART =
      Comparator.comparingInt(entry -> entry.getKey().value());

  /** These, but for one part. */
  PartStages with(PartId part, PartStage on) {
    List<Entry<PartId, PartStage>> next = new ArrayList<>(entries);
    int place = placeOf(part);
    if (place < 0) {
      next.add(Map.entry(part, on));
      next.sort(BY_PART);
    } else {
      next.set(place, Map.entry(part, on));
    }
    return new PartStages(next);
  }

  @Override
  public PartStage get(Object part) {
    int place = part instanceof PartId id ? placeOf(id) : -1;
    return place < 0 ? null : entries.get(place).getValue();
  }

  private int placeOf(PartId part) {
    return Arrays.binarySearch(ids, part.value());
  }

  @Override
  public boolean containsKey(Object part) {
    return get(part) != null;
  }

  @Override
  public PartStage getOrDefault(Object part, PartStage other) {
    PartStage on = get(part);
    return on == null ? other : on;
  }

  @Override
  public Set<Entry<PartId, PartStage>> entrySet() {
    return new AbstractSet<>() {
      @Override
      public Iterator<Entry<PartId, PartStage>> iterator() {
        return entries.iterator();
      }

      @Override
      public int size() {
        return entries.size();
      }
    };
  }
}
