package ancora.core.engine;

import static org.assertj.core.api.Assertions.assertThat;

import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.clip.LoopWindow;
import ancora.core.note.InputGrid;
import ancora.core.note.InputKey;
import ancora.core.note.Note;
import ancora.core.player.Sounded;
import ancora.core.replay.Replay;
import ancora.core.rules.Command;
import ancora.core.rules.cues.CueCommand;
import ancora.core.rules.hands.HandCommand;
import ancora.core.rules.press.PressCommand;
import ancora.core.run.Run;
import ancora.core.show.Click;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.RecordingSettings;
import ancora.core.show.Show;
import ancora.core.sound.Sound;
import ancora.core.stage.PartStage;
import ancora.core.stage.Stage;
import java.util.List;
import java.util.function.UnaryOperator;

/**
 * A performance that is listened to, in virtual time at 120 in 4/4: a bar is 3840 ticks. Two parts,
 * keys and bass, without count-in and click; tick 0 is heard at {@link #EPOCH}.
 */
final class Concert {

  static final long EPOCH = 1_000_000;
  static final long BAR = 3840;
  static final PartId KEYS = new PartId(1);
  static final PartId BASS = new PartId(2);
  static final ClipId A = new ClipId(11);
  static final ClipId B = new ClipId(12);
  static final ClipId C = new ClipId(13);

  private final Replay replay;

  private Concert(Show show) {
    replay = Replay.of(Stage.of(show));
  }

  /** With what is on the shelves. */
  static Concert of(UnaryOperator<Show> change) {
    Show show =
        Show.named("Rehearsal")
            .withNewPart("Keys", Sound.of(4))
            .withNewPart("Bass", Sound.of(33))
            .withClick(Click.of(false, Click.When.ALWAYS, Click.Sound.CLAVES, 0))
            .withRecording(RecordingSettings.DEFAULT.withCountInBars(0))
            .withNextId(1000);
    Concert concert = new Concert(change.apply(show));
    concert.at(0, new PressCommand.Arm(KEYS));
    return concert;
  }

  /** With clips of the keys, the first of which stands ready; on no grid. */
  static Concert with(Clip... clips) {
    return of(show -> show.mapPart(KEYS, part -> shelved(part, clips)));
  }

  static Part shelved(Part part, Clip... clips) {
    return part.withShelf(List.of(clips)).withInputGrid(InputGrid.OFF);
  }

  static Clip clip(ClipId id, long start, long length, Note... notes) {
    String letter = String.valueOf((char) ('a' + id.value() - A.value()));
    return Clip.of(id, letter, new LoopWindow(start, length), List.of(notes));
  }

  static Clip clip(ClipId id, Note... notes) {
    return clip(id, 0, BAR, notes);
  }

  static Note note(long id, int pitch, long onset, long length) {
    return Note.of(id, pitch, 90, onset, onset, length);
  }

  static long micros(long tick) {
    return EPOCH + Math.round(tick * 500_000 / 960.0);
  }

  Concert start() {
    return at(0, new CueCommand.Start());
  }

  /** The transport starts so that tick 0 is heard on its instant, however long the way is. */
  Concert start(long tick) {
    long delay = stage().delayMicros();
    Outcome outcome =
        replay.apply(new CueCommand.Start(), micros(tick) - delay, micros(tick) - delay);
    assertThat(outcome).isInstanceOf(Outcome.Done.class);
    return this;
  }

  /** A short note. */
  Concert hit(int pitch, long tick) {
    return play(pitch, tick, tick + 60);
  }

  /** Something is done on a tick. */
  Concert at(long tick, Command command) {
    Outcome outcome = replay.apply(command, micros(tick), micros(tick));
    assertThat(outcome).as("%s", command).isInstanceOf(Outcome.Done.class);
    return this;
  }

  /** Something is done on a tick, and arrives later. */
  Concert late(long tick, long arrives, Command command) {
    Outcome outcome = replay.apply(command, micros(tick), micros(arrives));
    assertThat(outcome).as("%s", command).isInstanceOf(Outcome.Done.class);
    return this;
  }

  /** Something is done on a tick, and answered in a word. */
  String said(long tick, Command command) {
    Outcome outcome = replay.apply(command, micros(tick), micros(tick));
    assertThat(outcome).as("%s", command).isInstanceOf(Outcome.Done.class);
    return ((Outcome.Done) outcome).word().orElse("");
  }

  String refused(long tick, Command command) {
    return lateRefused(tick, tick, command);
  }

  String lateRefused(long tick, long arrives, Command command) {
    Outcome outcome = replay.apply(command, micros(tick), micros(arrives));
    assertThat(outcome).as("%s", command).isInstanceOf(Outcome.Refused.class);
    return ((Outcome.Refused) outcome).why();
  }

  Concert press(long tick) {
    return at(tick, new PressCommand.MainPress());
  }

  static InputKey key(int pitch) {
    return new InputKey("keys", 0, pitch);
  }

  Concert down(int pitch, long tick) {
    return at(tick, new HandCommand.KeyDown(key(pitch), 100));
  }

  Concert up(int pitch, long tick) {
    return at(tick, new HandCommand.KeyUp(key(pitch)));
  }

  Concert play(int pitch, long on, long off) {
    return down(pitch, on).up(pitch, off);
  }

  Concert foot(boolean down, long tick) {
    return at(tick, new HandCommand.Sustain("keys", 0, down ? 127 : 0));
  }

  Concert cue(ClipId clip, long tick) {
    return at(tick, new CueCommand.CueClip(KEYS, clip));
  }

  Concert until(long tick) {
    replay.advance(micros(tick));
    return this;
  }

  /** Time is told a tenth of a millisecond before a tick, which then is the nearest one. */
  Concert untilJustBefore(long tick) {
    replay.advance(micros(tick) - 100);
    return this;
  }

  Stage stage() {
    return replay.stage();
  }

  /** The run that ended last. */
  Run run() {
    List<Run> runs = replay.runs();
    return runs.get(runs.size() - 1);
  }

  PartStage on() {
    return stage().on(KEYS);
  }

  Clip clip(ClipId id) {
    return stage().show().part(KEYS).clipOf(id);
  }

  Clip newest() {
    List<Clip> shelf = stage().show().part(KEYS).shelf();
    return shelf.get(shelf.size() - 1);
  }

  List<Long> meant(Clip clip) {
    return clip.notes().map(Note::meant).sorted().toList();
  }

  /** What a pitch of the keys did, as "on 960", "off 1440". */
  List<String> heard(int pitch) {
    return heard(KEYS, pitch, 0);
  }

  List<String> heard(PartId part, int pitch, long fromTick) {
    return replay.sounded().stream()
        .filter(s -> s.part().equals(part) && s.isNote() && s.pitch() == pitch)
        .filter(s -> s.tick() >= fromTick)
        .map(s -> (s.kind() == Sounded.Kind.ON ? "on " : "off ") + s.tick())
        .toList();
  }

  /** The ticks at which a pitch was attacked, from one on. */
  List<Long> attacks(int pitch, long fromTick) {
    return replay.sounded().stream()
        .filter(s -> s.part().equals(KEYS) && s.kind() == Sounded.Kind.ON && s.pitch() == pitch)
        .map(Sounded::tick)
        .filter(tick -> tick >= fromTick)
        .toList();
  }

  /** What a controller did, as "tick value". */
  List<String> moved(Sounded.Kind kind, int number) {
    return replay.sounded().stream()
        .filter(s -> s.kind() == kind && s.pitch() == number)
        .map(s -> s.tick() + " " + s.velocity())
        .toList();
  }
}
