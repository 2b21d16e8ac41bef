package ancora.core.engine;

import static ancora.core.engine.Concert.A;
import static ancora.core.engine.Concert.KEYS;
import static ancora.core.engine.Concert.clip;
import static ancora.core.engine.Concert.note;
import static ancora.core.show.Components.between;
import static org.assertj.core.api.Assertions.assertThat;

import ancora.core.rules.cues.CueCommand;
import ancora.core.rules.mending.MendCommand;
import ancora.core.rules.press.PressCommand;
import ancora.core.rules.settings.SettingCommand;
import ancora.core.rules.shelf.ShelfCommand;
import ancora.core.rules.undo.UndoCommand;
import ancora.core.show.Balance;
import ancora.core.show.Show;
import ancora.core.sound.Sound;
import ancora.core.time.Meter;
import ancora.core.time.Tempo;
import org.junit.jupiter.api.Test;

/** What a show is set to, and commands that make no sense now. */
class SettingsTest {

  private static Performer withLoop() {
    return Performer.ready().start().press(0).hit(36, 0).press(3840).until(3900);
  }

  @Test
  void theMeterStaysOnceThereIsMusic() {
    assertThat(withLoop().refusalOf(new SettingCommand.SetMeter(Meter.of(7, 8)), 4000))
        .contains("4/4");
    Performer empty = Performer.ready();
    empty.doNow(new SettingCommand.SetMeter(Meter.of(7, 8)), Performer.EPOCH);
    assertThat(empty.engine.stage().show().meter()).isEqualTo(Meter.of(7, 8));
  }

  /** A clip comes back in the meter in which it was recorded. */
  @Test
  void theMeterIsUndoneBeforeWhatWasClearedUnderIt() {
    Concert concert = Concert.with(clip(A, note(1, 60, 0, 100)));
    concert.at(10, new ShelfCommand.DeleteClip(KEYS, A));
    concert.at(20, new SettingCommand.SetMeter(Meter.of(7, 8))).at(30, new UndoCommand.Undo());
    assertThat(concert.stage().show().meter()).isEqualTo(Meter.of(4, 4));
    assertThat(concert.stage().show().part(KEYS).shelf()).isEmpty();
    concert.at(40, new UndoCommand.Undo());
    assertThat(concert.stage().show().part(KEYS).shelf()).hasSize(1);
    concert.at(50, new UndoCommand.Redo()).at(60, new UndoCommand.Redo()).start();
    concert
        .at(100, new PressCommand.RecordAnew())
        .play(60, 3400, 3500)
        .at(6700, new CueCommand.Stop());
    concert.at(6800, new UndoCommand.Undo());
    assertThat(concert.stage().show().part(KEYS).shelf()).as("what was recorded").isEmpty();
    concert.at(6810, new UndoCommand.Undo()).at(6820, new UndoCommand.Undo());
    assertThat(concert.stage().show().meter()).isEqualTo(Meter.of(4, 4));
    assertThat(concert.clip(A).noteCount()).isEqualTo(1);
  }

  /**
   * What was set or undone while the line was down is done when it is back, as if just then; a cue
   * of that time is not.
   */
  @Test
  void whatIsBoundToNoMomentIsDoneHoweverLateItArrives() {
    Engine engine = withLoop().engine;
    long then = 1;
    long now = Performer.EPOCH + 60_000_000;
    int layers = engine.stage().show().parts().get(0).shelf().size();
    assertThat(engine.apply(new SettingCommand.SetTempo(Tempo.of(90)), then, now))
        .isInstanceOf(Outcome.Done.class);
    var anchors = engine.stage().map().orElseThrow().anchors();
    assertThat(anchors.get(anchors.size() - 1).tempo()).isEqualTo(Tempo.of(90));
    assertThat(anchors.get(anchors.size() - 1).micros()).isGreaterThan(now - Engine.LATEST - 1);
    assertThat(engine.apply(new UndoCommand.Undo(true), then, now))
        .isInstanceOf(Outcome.Done.class);
    assertThat(engine.stage().show().parts().get(0).shelf()).hasSizeLessThan(layers);
    assertThat(engine.apply(new CueCommand.Stop(), then, now)).isInstanceOf(Outcome.Refused.class);
    assertThat(engine.apply(new SettingCommand.TapTempo(), then, now))
        .isInstanceOf(Outcome.Refused.class);
  }

  @Test
  void aChoiceNeverReplacesTheSoundOfAPartWithMusicUnlessAsked() {
    Performer performer = withLoop();
    var part = performer.part().id();
    assertThat(performer.refusalOf(new SettingCommand.ChooseSound(part, Sound.of(5), false), 4000))
        .contains("already has music");
    performer.doNow(
        new SettingCommand.ChooseSound(part, Sound.of(5), true), performer.micros(4100));
    assertThat(performer.part().sound()).isEqualTo(Sound.of(5));
  }

  @Test
  void commandsThatMakeNoSenseNowChangeNothing() {
    Performer idle = Performer.ready();
    assertThat(idle.refusalOf(new CueCommand.Stop(), 0)).contains("stands still");
    assertThat(idle.refusalOf(new MendCommand.Peel(), 0)).contains("no loop yet");
    assertThat(idle.refusalOf(new MendCommand.Restore(), 0)).contains("no loop yet");
    assertThat(idle.refusalOf(new UndoCommand.Undo(), 0)).contains("nothing to undo");
    idle.start();
    assertThat(idle.refusalOf(new CueCommand.Start(), 100)).contains("runs already");
    assertThat(idle.refusalOf(new SettingCommand.Rename(" "), 100)).contains("1 to 60");
    assertThat(idle.refusalOf(new SettingCommand.ReportDelay(-1), 100)).contains("out of reach");
  }

  @Test
  void aTempoChangeHoldsFromTheFirstTickThatCanBeHeardInIt() {
    Performer performer = Performer.ready();
    performer.doNow(new SettingCommand.ReportDelay(20_000), Performer.EPOCH);
    performer.start();
    long tick = 960;
    performer.doNow(new SettingCommand.SetTempo(Tempo.of(60)), performer.micros(tick));
    var anchors = performer.engine.stage().map().orElseThrow().anchors();
    assertThat(anchors.get(1).tick()).isEqualTo(tick + 39);
    assertThat(anchors.get(1).tempo()).isEqualTo(Tempo.of(60));
  }

  @Test
  void tapsSetTheTempo() {
    Performer performer = Performer.ready();
    for (int i = 0; i < 4; i++) {
      performer.doNow(new SettingCommand.TapTempo(), Performer.EPOCH + i * 600_000L);
    }
    assertThat(performer.engine.stage().show().tempo()).isEqualTo(Tempo.of(100));
  }

  @Test
  void whatComesMoreThanASecondLateIsRefused() {
    Performer performer = Performer.ready().start();
    Outcome outcome =
        performer.engine.apply(new CueCommand.Stop(), performer.micros(0), performer.micros(1930));
    assertThat(((Outcome.Refused) outcome).why()).contains("a second late");
    assertThat(performer.engine.stage().map()).isPresent();
  }

  @Test
  void theSeventeenthPartIsRefused() {
    Engine engine = Engine.of(Show.named("crowd"));
    for (int i = 1; i <= 16; i++) {
      assertThat(engine.apply(new SettingCommand.AddPart("Part " + i, Sound.of(i)), i, i))
          .isInstanceOf(Outcome.Done.class);
    }
    assertThat(engine.apply(new SettingCommand.AddPart("One more", Sound.of(0)), 20, 20))
        .isInstanceOf(Outcome.Refused.class);
    assertThat(engine.stage().show().parts()).hasSize(16);
  }

  /** Worked value 25: two pages in one moment; who turns one thing leaves the others. */
  @Test
  void whatOneSetsLeavesWhatAnotherSetsInTheSameMoment() {
    Concert concert = Concert.with(clip(A, note(1, 60, 0, 60)));
    Balance was = concert.stage().show().part(KEYS).balance();
    concert.at(0, new SettingCommand.SetBalance(KEYS, between(was, was.withMuted(true))));
    concert.at(0, new SettingCommand.SetBalance(KEYS, between(was, was.withLevel(-6))));
    assertThat(concert.stage().show().part(KEYS).balance())
        .isEqualTo(was.withMuted(true).withLevel(-6));
  }
}
