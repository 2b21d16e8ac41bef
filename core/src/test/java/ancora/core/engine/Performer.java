package ancora.core.engine;

import static org.assertj.core.api.Assertions.assertThat;

import ancora.core.clip.Clip;
import ancora.core.note.InputGrid;
import ancora.core.note.InputKey;
import ancora.core.note.Note;
import ancora.core.plan.PlannedNote;
import ancora.core.plan.Span;
import ancora.core.rules.Command;
import ancora.core.rules.cues.CueCommand;
import ancora.core.rules.hands.HandCommand;
import ancora.core.rules.mending.MendCommand;
import ancora.core.rules.press.PressCommand;
import ancora.core.rules.settings.SettingCommand;
import ancora.core.show.Part;
import ancora.core.show.RecordingSettings;
import ancora.core.show.Show;
import ancora.core.sound.Sound;
import ancora.core.stage.PartStage;
import ancora.core.stage.Stage;
import ancora.core.time.Meter;
import ancora.core.time.Tempo;
import ancora.core.time.TempoMap;
import java.util.List;
import java.util.function.UnaryOperator;

/**
 * Somebody at the instrument, in virtual time: says on which tick hands and feet act. The transport
 * is started so that tick 0 is heard at {@link #EPOCH}.
 */
final class Performer {

  /** Server time of tick 0 of the roll that {@link #start} begins, in microseconds. */
  static final long EPOCH = 1_000_000_000;

  final Engine engine;
  private long clock = EPOCH;

  private Performer(Show show) {
    engine = Engine.of(show);
  }

  /** At 120 in 4/4, with one part, which is armed; recording begins without count-in. */
  static Performer ready() {
    return with(show -> show);
  }

  static Performer with(UnaryOperator<Show> change) {
    Show show = Show.named("Rehearsal").withNewPart("Kit", Sound.STANDARD_KIT);
    Performer performer =
        new Performer(
            change.apply(show.withRecording(RecordingSettings.DEFAULT.withCountInBars(0))));
    performer.engine.apply(new PressCommand.Arm(performer.part().id()), EPOCH, EPOCH);
    return performer;
  }

  static Performer with(RecordingSettings settings) {
    return with(show -> show.withRecording(settings));
  }

  static Performer at(double bpm, Meter meter) {
    return with(show -> show.withTempo(Tempo.of(bpm)).withMeter(meter));
  }

  Performer grid(InputGrid grid) {
    doNow(new SettingCommand.SetInputGrid(part().id(), grid), EPOCH);
    return this;
  }

  Performer start() {
    doNow(new CueCommand.Start(), clock);
    return this;
  }

  /** The instant of a tick; before the transport runs, as if it had started at {@link #EPOCH}. */
  long micros(long tick) {
    TempoMap map =
        engine.stage().map().orElse(TempoMap.of(0, EPOCH, engine.stage().show().tempo()));
    return Math.round(map.microsOf(tick));
  }

  Performer press(long tick) {
    doNow(new PressCommand.MainPress(), micros(tick));
    return this;
  }

  /** A note from one tick to another. */
  Performer play(int pitch, long on, long off) {
    down(pitch, on);
    return up(pitch, off);
  }

  /** A short note. */
  Performer hit(int pitch, long tick) {
    return play(pitch, tick, tick + 60);
  }

  Performer down(int pitch, long tick) {
    doNow(new HandCommand.KeyDown(key(pitch), 100), micros(tick));
    return this;
  }

  Performer up(int pitch, long tick) {
    doNow(new HandCommand.KeyUp(key(pitch)), micros(tick));
    return this;
  }

  Performer peel(long tick) {
    doNow(new MendCommand.Peel(), micros(tick));
    return this;
  }

  Performer restore(long tick) {
    doNow(new MendCommand.Restore(), micros(tick));
    return this;
  }

  Performer stop(long tick) {
    doNow(new CueCommand.Stop(), micros(tick));
    return this;
  }

  Performer until(long tick) {
    engine.advance(micros(tick));
    return this;
  }

  void doNow(Command command, long micros) {
    clock = Math.max(clock, micros);
    assertThat(engine.apply(command, micros, micros)).isInstanceOf(Outcome.Done.class);
  }

  String refusalOf(Command command, long tick) {
    Stage before = engine.stage();
    Outcome outcome = engine.apply(command, micros(tick), micros(tick));
    assertThat(outcome).isInstanceOf(Outcome.Refused.class);
    assertThat(engine.stage()).isEqualTo(before);
    return ((Outcome.Refused) outcome).why();
  }

  Part part() {
    return engine.stage().show().parts().get(0);
  }

  PartStage on() {
    return engine.stage().on(part().id());
  }

  Clip clip() {
    assertThat(part().shelf()).isNotEmpty();
    return part().shelf().get(0);
  }

  long loopLength() {
    return clip().window().length();
  }

  List<Long> meant() {
    return clip().notes().map(Note::meant).sorted().toList();
  }

  List<Integer> layerSizes() {
    return clip().layers().stream().map(layer -> layer.notes().size()).toList();
  }

  Span span() {
    return engine.plan().parts().get(0).spans().get(0);
  }

  List<PlannedNote> planned() {
    return span().notes();
  }

  /** The first tick, from one on, at which the loop sounds a pitch. */
  long firstSounded(int pitch, long fromTick) {
    Span span = span();
    return planned().stream()
        .filter(note -> note.pitch() == pitch)
        .mapToLong(note -> nextTick(span, note, Math.max(fromTick, span.from())))
        .min()
        .orElse(-1);
  }

  private static long nextTick(Span span, PlannedNote note, long fromTick) {
    long length = span.window().length();
    long offset = span.phase() + note.place() - span.window().start();
    long tick = fromTick + Math.floorMod(offset - fromTick, length);
    while (!note.soundsAt(tick)) {
      tick += length;
    }
    return tick;
  }

  private static InputKey key(int pitch) {
    return new InputKey("stand-in", 0, pitch);
  }
}
