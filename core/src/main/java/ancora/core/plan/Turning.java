package ancora.core.plan;

import ancora.core.clip.Clip;
import ancora.core.plan.Plan.PartPlan;
import ancora.core.plan.Plan.SoundChange;
import ancora.core.show.Part;
import ancora.core.sound.Sound;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;

/** A clip may have a sound of its own, to which its part turns where it enters. */
public final class Turning {

  private Turning() {}

  /** The plan of a part that sounds some spans, with the sounds of its clips. */
  public static PartPlan plan(Part part, List<Span> spans) {
    return new PartPlan(part.id(), part.sound(), changes(part, spans), spans);
  }

  private static List<SoundChange> changes(Part part, List<Span> spans) {
    if (part.shelf().stream().allMatch(clip -> clip.sound().isEmpty())) {
      return List.of();
    }
    List<SoundChange> changes = new ArrayList<>();
    Sound now = part.sound();
    List<Span> inOrder = spans.stream().sorted(Comparator.comparingLong(Span::from)).toList();
    for (Span span : inOrder) {
      Sound next = part.clip(span.clip()).flatMap(Clip::sound).orElse(part.sound());
      if (!next.equals(now)) {
        changes.add(new SoundChange(span.from(), next));
        now = next;
      }
    }
    return changes;
  }
}
