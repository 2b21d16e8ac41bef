package ancora.core.rules.settings;

import ancora.core.Refusal;
import ancora.core.rules.Moment;
import ancora.core.rules.TempoAndMeter;
import ancora.core.rules.press.Arming;
import ancora.core.rules.press.HandOffs;
import ancora.core.rules.settings.SettingCommand.ChooseSound;
import ancora.core.show.Adjustment;
import ancora.core.show.Part;
import ancora.core.show.Show;
import ancora.core.sound.Sound;
import ancora.core.stage.Stage;
import ancora.core.time.Meter;
import ancora.core.time.Taps;
import ancora.core.time.Tempo;
import java.util.Optional;

/** Changes of what a show is set to. */
public final class Settings {

  /** The page may not claim a longer way from foot to ear than this, in microseconds. */
  private static final long LONGEST_DELAY = 1_000_000;

  private Settings() {}

  public static Stage tap(Stage stage, Moment moment) {
    Taps taps = stage.taps().with(moment.stamp());
    Optional<Tempo> tempo = taps.tempo(stage.show().click().ticks(stage.show().meter()));
    Stage tapped = stage.withTaps(taps);
    return tempo.map(t -> TempoAndMeter.withTempo(tapped, t, moment)).orElse(tapped);
  }

  /** A knob turns the tempo by whole numbers. */
  static Stage shiftTempo(Stage stage, Adjustment by, Moment moment) {
    double now = stage.show().tempo().bpm();
    double next = (Double) by.of(now);
    boolean knob = by instanceof Adjustment.Knob && next != now;
    return TempoAndMeter.withTempo(stage, Tempo.of(knob ? Math.round(next) : next), moment);
  }

  public static Stage meter(Stage stage, Meter meter) {
    TempoAndMeter.checkMeter(stage, meter);
    return stage.withShow(stage.show().withMeter(meter));
  }

  public static Stage sound(Stage stage, ChooseSound choice) {
    Part part = stage.show().part(choice.part());
    Refusal.unless(
        part.shelf().isEmpty() || choice.evenWithMusic() || part.sound().equals(choice.sound()),
        "%s already has music: say that its sound is to be replaced.",
        part.name());
    return stage.withShow(stage.show().mapPart(part.id(), p -> p.withSound(choice.sound())));
  }

  public static Stage trimAll(Stage stage, double decibels) {
    Show show = stage.show();
    return stage.withShow(
        show.withParts(
            show.parts().stream()
                .map(part -> part.withBalance(part.balance().trimmed(decibels)))
                .toList()));
  }

  public static Stage addPart(Stage stage, SettingCommand.AddPart command) {
    Show show = stage.show().withNewPart(command.name(), command.sound());
    Part added = show.parts().get(show.parts().size() - 1);
    Stage next = stage.withShow(show);
    return Arming.added(next, added.id());
  }

  static Stage addLike(Stage stage, boolean next) {
    Stage with = HandOffs.withPartLike(stage, stage.playedPart());
    Part added = with.show().parts().get(with.show().parts().size() - 1);
    Sound sound = added.sound().nextOfFamily();
    Stage sounding =
        next
            ? with.withShow(
                with.show().mapPart(added.id(), p -> p.withSound(sound).withName(sound.name())))
            : with;
    return Arming.added(sounding, added.id());
  }

  public static Stage delay(Stage stage, long micros) {
    Refusal.unless(
        micros >= 0 && micros <= LONGEST_DELAY,
        "A delay of %s µs is out of reach: report 0 to %s.",
        micros,
        LONGEST_DELAY);
    return stage.withDelay(micros);
  }
}
