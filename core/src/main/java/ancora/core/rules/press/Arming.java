package ancora.core.rules.press;

import ancora.core.record.FirstRecording;
import ancora.core.rules.Moment;
import ancora.core.rules.Together;
import ancora.core.rules.recording.Endings;
import ancora.core.rules.recording.Erasing;
import ancora.core.rules.recording.Recordings;
import ancora.core.rules.recording.Sounding;
import ancora.core.show.PartId;
import ancora.core.stage.Stage;
import ancora.core.stage.Transport;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;

/** Which parts recording goes to. */
public final class Arming {

  private Arming() {}

  /** Another part is played from now on; what is recorded ends as by a press of its own. */
  public static Stage arm(Stage stage, PartId part, Moment moment) {
    stage.show().part(part);
    Stage ended = stage;
    for (PartId each : Together.of(stage)) {
      ended = each.equals(part) ? ended : ended(ended, each, moment);
    }
    return ended
        .withArmed(part)
        .withArmsNext(Optional.empty())
        .withHands(ended.hands().withHandOvers(List.of()));
  }

  private static Stage ended(Stage stage, PartId part, Moment moment) {
    if (stage.map().isEmpty()) {
      return stage;
    }
    Optional<FirstRecording> first = stage.on(part).first();
    if (first.isPresent()) {
      return Pressing.closed(stage, part, moment);
    }
    Stage next = stage;
    if (stage.hands().eraseOn(part).isPresent()) {
      next = Erasing.end(next, part, Sounding.tick(stage, moment));
    }
    return next.on(part).open().isPresent()
        ? Endings.end(next, part, Recordings.offTick(next, part, moment))
        : next;
  }

  public static Stage alongside(Stage stage, PartId part, boolean on, Moment moment) {
    stage.show().part(part);
    if (stage.armed().isEmpty() || stage.armed().get().equals(part)) {
      return on ? stage.withArmed(part) : stage;
    }
    Set<PartId> others = new TreeSet<>(stage.alongside());
    Stage next = stage;
    if (on) {
      others.add(part);
    } else if (others.remove(part)) {
      next = ended(stage, part, moment);
    }
    return next.withAlongside(others);
  }

  /** A new part is armed at once; while something is recorded or mended, when that ends. */
  public static Stage added(Stage stage, PartId part) {
    return armWhatWaits(stage.withArmsNext(Optional.of(part)));
  }

  public static Stage armWhatWaits(Stage stage) {
    if (stage.armsNext().isEmpty()) {
      return stage;
    }
    PartId part = stage.armsNext().get();
    boolean there = stage.show().parts().stream().anyMatch(p -> p.id().equals(part));
    if (!there) {
      return stage.withArmsNext(Optional.empty());
    }
    return isRecording(stage)
        ? stage
        : stage
            .withArmed(part)
            .withArmsNext(Optional.empty())
            .withHands(stage.hands().withHandOvers(List.of()));
  }

  private static boolean isRecording(Stage stage) {
    return stage.hands().isErasing()
        || stage.transport() instanceof Transport.AwaitingFirstNote
        || stage.partStages().values().stream()
            .anyMatch(on -> on.first().isPresent() || on.open().isPresent());
  }
}
