package ancora.app.journal;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ancora.app.ProtocolExamples;
import ancora.core.Refusal;
import ancora.core.catalogue.Catalogue;
import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.clip.LoopWindow;
import ancora.core.clip.Manner;
import ancora.core.clip.Reshaping;
import ancora.core.clip.Stretch;
import ancora.core.edit.Chosen;
import ancora.core.edit.Clips;
import ancora.core.edit.Edit;
import ancora.core.edit.WhichTakes;
import ancora.core.engine.Commands;
import ancora.core.engine.Instead;
import ancora.core.note.Controller;
import ancora.core.note.Grid;
import ancora.core.note.InputGrid;
import ancora.core.note.InputKey;
import ancora.core.note.Note;
import ancora.core.note.NoteRepeat;
import ancora.core.rules.Command;
import ancora.core.rules.OnPage;
import ancora.core.rules.Sequence;
import ancora.core.rules.address.Addressed;
import ancora.core.rules.cues.CueCommand;
import ancora.core.rules.editing.EditCommand;
import ancora.core.rules.hands.HandCommand;
import ancora.core.rules.keeping.KeepCommand;
import ancora.core.rules.keeping.Otherwise;
import ancora.core.rules.mending.MendCommand;
import ancora.core.rules.press.PressCommand;
import ancora.core.rules.settings.SettingCommand;
import ancora.core.rules.shelf.Arrival;
import ancora.core.rules.shelf.ShelfCommand;
import ancora.core.rules.undo.UndoCommand;
import ancora.core.show.Address;
import ancora.core.show.Adjustment;
import ancora.core.show.Balance;
import ancora.core.show.Click;
import ancora.core.show.Components;
import ancora.core.show.Leaving;
import ancora.core.show.Master;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.PartInput;
import ancora.core.show.PartOutput;
import ancora.core.show.RecordingSettings;
import ancora.core.show.Section;
import ancora.core.show.SectionId;
import ancora.core.sound.SecondSound;
import ancora.core.sound.Sound;
import ancora.core.time.EntryUnit;
import ancora.core.time.Meter;
import ancora.core.time.Tempo;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.OptionalInt;
import java.util.OptionalLong;
import java.util.Set;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;
import org.junit.jupiter.params.provider.ValueSource;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.JsonNodeFactory;
import tools.jackson.databind.node.ObjectNode;

class CommandJsonTest {

  private static final PartId PART = new PartId(3);
  private static final ClipId CLIP = new ClipId(7);

  private static final Clips CLIPS = new Clips(List.of(CLIP));
  private static final Chosen SOME = new Chosen.Ids(List.of(11L, 12L));

  private static final List<Edit> EDITS =
      List.of(
          new Edit.Delete(SOME),
          new Edit.Move(new Chosen.All(), -60, 2),
          new Edit.Copy(new Chosen.Within(0, 960), 480, 0, Optional.empty(), Optional.empty()),
          new Edit.Copy(SOME, 0, 12, Optional.of(new PartId(4)), Optional.of(new ClipId(9))),
          new Edit.CopyOn(SOME, 2),
          new Edit.Length(SOME, OptionalLong.of(480), OptionalDouble.empty(), false),
          new Edit.Length(SOME, OptionalLong.empty(), OptionalDouble.of(0.5), false),
          new Edit.Length(SOME, OptionalLong.empty(), OptionalDouble.empty(), true),
          new Edit.Velocity(
              SOME, OptionalInt.of(90), OptionalInt.empty(), OptionalDouble.empty(), false),
          new Edit.Velocity(
              SOME, OptionalInt.empty(), OptionalInt.of(-20), OptionalDouble.empty(), false),
          new Edit.Velocity(
              SOME, OptionalInt.empty(), OptionalInt.empty(), OptionalDouble.of(0.8), false),
          new Edit.Velocity(
              SOME, OptionalInt.empty(), OptionalInt.empty(), OptionalDouble.empty(), true),
          new Edit.Draw(38, 960, 120, OptionalInt.empty(), OptionalInt.of(2)),
          new Edit.ToGrid(
              new Chosen.OfLayer(3), Optional.of(Grid.EIGHTH), 80, 58, true, Optional.empty()),
          new Edit.ToGrid(SOME, Optional.empty(), 100, 50, false, Optional.of(CLIP)),
          new Edit.AsPlayed(SOME),
          new Edit.DeleteMoves(Controller.BEND, 0, 960),
          new Edit.ThinMoves(Controller.change(1), 0, 960, 60),
          new Edit.DeletePedal(960, 1920));

  private static final Address NEXT = new Address(Address.Of.PART, "next");

  private final JsonMapper json = JsonMapper.shared();

  static Stream<Command> commands() {
    InputKey key = new InputKey("stand-in", 9, 36);
    return Stream.of(
        new HandCommand.KeyDown(key, 0),
        new HandCommand.KeyUp(key),
        new EditCommand.EditNotes(PART, CLIPS, WhichTakes.HEARD, EDITS),
        new MendCommand.TakesInARow(PART, CLIP, List.of(2, 4, 5)),
        new EditCommand.MakeClip(PART, 4),
        new EditCommand.SplitNotes(PART, CLIP, new Chosen.OfPitch(42)),
        new EditCommand.CutClip(PART, CLIP, 2),
        new EditCommand.RepeatClip(PART, CLIPS, 4),
        new EditCommand.ChainClips(PART, new Clips(List.of(CLIP, new ClipId(9)))),
        new EditCommand.SpreadLayers(PART, CLIP),
        new EditCommand.Flatten(PART, CLIP),
        new EditCommand.CopyClip(PART, CLIP, new PartId(4)),
        new EditCommand.MoveClipTo(PART, CLIP, new PartId(4)),
        new HandCommand.DeviceGone("stand-in"),
        new PressCommand.MainPress(),
        new CueCommand.Start(),
        new CueCommand.Stop(),
        new HandCommand.Panic(),
        new SettingCommand.SetTempo(Tempo.of(97.301)),
        new SettingCommand.TapTempo(),
        new SettingCommand.SetMeter(Meter.of(7, 8)),
        new SettingCommand.SetClick(Click.DEFAULT),
        new SettingCommand.SetRecording(RecordingSettings.DEFAULT.withFixedUnits(4)),
        new SettingCommand.Rename("Lull"),
        new SettingCommand.AddPart("Choir", Sound.of(52)),
        new PressCommand.Arm(new PartId(3)),
        new SettingCommand.ChooseSound(new PartId(3), Sound.kit(8), true),
        new SettingCommand.SetInputGrid(
            new PartId(3), InputGrid.of(Grid.EIGHTH_TRIPLET).withSwing(58.5)),
        new MendCommand.Peel(),
        new MendCommand.Restore(),
        new MendCommand.PeelAll(),
        new MendCommand.PeelClip(new PartId(1), new ClipId(7)),
        new MendCommand.RestoreClip(new PartId(1), new ClipId(7)),
        new MendCommand.Clear(),
        new SettingCommand.ReportDelay(33_000),
        new HandCommand.Sustain("keys", 0, 127),
        new HandCommand.MoveController("keys", 0, Controller.BEND, 16_383),
        new HandCommand.KeyPressure(key, 80),
        new UndoCommand.Undo(true),
        new UndoCommand.Redo(),
        new PressCommand.RecordAnew(),
        new MendCommand.Replace(true),
        new MendCommand.Punch(0, 960),
        new MendCommand.PunchOff(),
        new MendCommand.PunchHere(),
        new MendCommand.Takes(false),
        new MendCommand.HearTake(PART, CLIP, 2, true),
        new MendCommand.RenameTake(PART, CLIP, 2, "quiet"),
        new MendCommand.DeleteTake(PART, CLIP, 2),
        new MendCommand.CropTakes(PART, CLIP),
        new ShelfCommand.WindowBars(ShelfCommand.WindowBars.Bars.ALONE, true),
        new MendCommand.SpreadTakes(PART, CLIP),
        new MendCommand.LayTakesInRow(PART, CLIP),
        new MendCommand.Comp(
            PART, CLIP, List.of(new Stretch(0, 960, 1), new Stretch(960, 3840, 2))),
        new MendCommand.RedrawComp(PART, CLIP, 4, 0, 960, 2),
        new MendCommand.Stutter(true, 4, false),
        new MendCommand.EraseHeld(true),
        new HandCommand.RepeatNotes(new NoteRepeat(Grid.SIXTEENTH, 60)),
        new HandCommand.RepeatOff(),
        new CueCommand.CueClip(PART, CLIP),
        new CueCommand.CueTacet(PART),
        new CueCommand.CueSection(new SectionId(9)),
        new CueCommand.CallOffAll(),
        new CueCommand.StartOrStop(),
        new CueCommand.CallOff(PART),
        new CueCommand.Cut(PART),
        new CueCommand.CutAll(),
        new CueCommand.StopAll(),
        new CueCommand.MakeSection("Quay"),
        new CueCommand.SetSection(
            new Section(
                new SectionId(9),
                "B",
                "Lamp",
                Map.of(PART, Optional.of(CLIP), new PartId(4), Optional.empty()),
                true,
                Optional.of(new Section.GoesOn(8, new SectionId(10))))),
        new CueCommand.DeleteSection(new SectionId(9)),
        new CueCommand.MoveSection(new SectionId(9), 2),
        new ShelfCommand.Reshape(PART, CLIP, new Reshaping.ToWindow(960, 3840)),
        new PressCommand.HandOff(),
        new ShelfCommand.BringIn(
            new Arrival(
                Optional.of(Tempo.of(96)),
                Optional.empty(),
                List.of(
                    Part.of(new PartId(1), "Horn", Sound.of(60))
                        .withShelf(
                            List.of(
                                Clip.of(
                                    new ClipId(1),
                                    "a",
                                    new LoopWindow(0, 3840),
                                    List.of(Note.of(1, 60, 90, 0, 0, 480)))))),
                List.of(new Arrival.Onto(new PartId(1), PART)),
                List.of())),
        new KeepCommand.Keep(false, true),
        new KeepCommand.KeepOnto(PART, true, false),
        new KeepCommand.KeepBars(new PartId(3), new PartId(2), 4, true),
        new KeepCommand.KeepStretch(new PartId(3), new PartId(3), 1_000_000, 5_000_000, false),
        new KeepCommand.ChangeKept(Otherwise.AS_PLAYED),
        new KeepCommand.KeepPhrases(-1),
        new KeepCommand.HearKept(),
        new ShelfCommand.DuplicateClip(PART, CLIP),
        new ShelfCommand.ThinClip(PART, CLIP),
        new ShelfCommand.DeleteClip(PART, CLIP),
        new ShelfCommand.RenameClip(PART, CLIP, ""),
        new ShelfCommand.SetClipSound(
            PART, CLIP, Sound.of(4).withSecond(Optional.of(SecondSound.of(Sound.of(48))))),
        new ShelfCommand.ClipSoundAsPart(PART, CLIP),
        new ShelfCommand.MoveClip(PART, CLIP, 1),
        new ShelfCommand.SetManner(
            PART, CLIP, Manner.DEFAULT.withPickup(960).withEntersOn(EntryUnit.BEAT)),
        new PressCommand.ArmAlongside(PART, true),
        new ShelfCommand.SplitPart(PART),
        new ShelfCommand.JoinParts(PART, new PartId(4)),
        new ShelfCommand.SplitClip(PART, CLIP, Set.of(36)),
        new ShelfCommand.RenamePart(PART, "Bass"),
        new ShelfCommand.DeletePart(PART),
        new ShelfCommand.MovePart(PART, 0),
        new SettingCommand.SetLeaving(PART, Leaving.LET_RING),
        new SettingCommand.SetPennant(PART, 5),
        new SettingCommand.SetBalance(PART, Balance.DEFAULT.withLevel(-7.5).withSolo(true)),
        new SettingCommand.TrimAll(-3),
        new SettingCommand.SoundOutside(
            PART, new PartOutput("box", 4, OptionalInt.of(130), OptionalInt.empty(), true)),
        new SettingCommand.SoundInside(PART),
        new Sequence(
            "on to the bass",
            List.of(
                new PressCommand.Close(),
                Addressed.of(new PressCommand.Arm(PART), Map.of("part", NEXT)))),
        new OnPage(OnPage.What.WORKSHOP),
        new Instead(4, new MendCommand.Clear(true)),
        new MendCommand.CompHere(PART, CLIP, 2),
        new MendCommand.CompHeld(PART, CLIP, 2, true),
        new PressCommand.Close(),
        new PressCommand.Overdub(),
        new MendCommand.PunchBar(true),
        new MendCommand.PunchBars(3, 2),
        new HandCommand.RepeatKeys(true, Grid.EIGHTH_TRIPLET),
        new ShelfCommand.ShiftLoop(PART, CLIP, -1),
        new ShelfCommand.MoveEdge(
            PART,
            CLIP,
            ShelfCommand.MoveEdge.Edge.LENGTH,
            EntryUnit.BEAT,
            new Adjustment.Knob(1, 16).turned(OptionalDouble.of(0.25), 0.5)),
        new EditCommand.Regrid(PART, CLIP, true, false),
        new SettingCommand.ShiftTempo(new Adjustment.By(-0.1)),
        new SettingCommand.NextAfterClosing(),
        new SettingCommand.AddPartLike(true),
        new SettingCommand.StepSound(PART, -1),
        new SettingCommand.SetMaster(Master.DEFAULT),
        new SettingCommand.SetPartInput(
            PART,
            PartInput.OPEN
                .withChannels(Set.of(4, 9))
                .withDevices(Set.of("keys"))
                .withKeys(36, 60)
                .withOffset(-11.6)));
  }

  /** Every command there is stands in the list above, so that none is forgotten in the journal. */
  @ParameterizedTest
  @MethodSource("commands")
  void whatIsWrittenIsReadAgain(Command command) throws JacksonException {
    String text = CommandJson.write(command).toString();
    assertThat(CommandJson.read(json.readTree(text))).isEqualTo(command);
    assertThat(commands().map(Object::getClass))
        .containsExactlyInAnyOrderElementsOf(
            Commands.kinds().map(type -> (Class<? extends Object>) type).toList());
  }

  /** Who turns one thing says that thing alone. */
  @Test
  void ofASettingSomeIsSaid() throws JacksonException {
    String text = "{\"do\":\"setBalance\",\"part\":3,\"muted\":true}";
    Command muted =
        new SettingCommand.SetBalance(
            PART, Components.between(Balance.DEFAULT, Balance.DEFAULT.withMuted(true)));
    assertThat(CommandJson.read(json.readTree(text))).isEqualTo(muted);
    assertThat(CommandJson.write(muted).toString()).isEqualTo(text);
    assertThatThrownBy(() -> CommandJson.read(json.readTree("{\"do\":\"setClick\"}")))
        .isInstanceOf(Refusal.class)
        .hasMessage("Say what is to be otherwise.");
  }

  /** What is named by an address, or adjusted, is what a control stands for. */
  @ParameterizedTest
  @MethodSource("ofTheCatalogue")
  void whatControlsStandForIsWrittenAndRead(Command command) throws JacksonException {
    String text = CommandJson.write(command).toString();
    assertThat(CommandJson.read(json.readTree(text))).isEqualTo(command);
  }

  static Stream<Command> ofTheCatalogue() {
    return Catalogue.ALL.stream()
        .flatMap(
            entry ->
                Stream.concat(
                    Stream.of(entry.usual()),
                    entry.blanks().stream()
                        .flatMap(
                            blank ->
                                blank.choices().stream()
                                    .map(c -> entry.with(Map.of(blank.field(), c.value()))))));
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "MAIN|0|false|{'do':'mainPress'}",
        "CLEAR|0|true|{'do':'clear','sure':true}",
        "CUE_CLIP|3|false|{'do':'cueClip','part':'armed','clip':'c'}",
        "CUE_SECTION|0|false|{'do':'cueSection','section':'A'}",
        "ARM|2|false|{'do':'arm','part':'2'}",
        "MUTE|0|false|{'do':'setBalance','part':'armed','muted':'toggle'}",
        "TAKES|0|false|{'do':'takes','on':'toggle'}",
        "ERASE|0|false|{'do':'eraseHeld','on':'toggle'}",
        "REPEAT_GRID|7|false|{'do':'repeatKeys','on':true,'grid':'1/8T'}",
        "KEEP_BARS|4|false|{'do':'keepBars','part':'armed','onto':'armed','bars':4,'cue':false}",
        "NEXT_SECTION|0|false|{'do':'cueSection','section':'next'}"
      })
  void whatAControlStoodForOnceIsACommandToday(String action, int number, boolean sure, String is)
      throws JacksonException {
    ObjectNode act = JsonNodeFactory.instance.objectNode().put("do", "act").put("action", action);
    act.put("number", number).put("sure", sure);
    String today = is.replace('\'', '"');
    assertThat(CommandJson.write(CommandJson.read(act)).toString()).isEqualTo(today);
    assertThat(CommandJson.read(json.readTree("{\"do\":\"cueNext\"}")))
        .isEqualTo(Catalogue.named("cue {section}").usual());
  }

  /** Half a character cannot be sent: what is told of a text is cut between two. */
  @Test
  void whyItIsRefusedHoldsNoHalfCharacter() {
    for (int before = 0; before < 120; before++) {
      ObjectNode broken = JsonNodeFactory.instance.objectNode().put("do", "onPage");
      broken.put("what", "x".repeat(before) + "🌊".repeat(60));
      assertThatThrownBy(() -> CommandJson.read(broken))
          .isInstanceOf(Refusal.class)
          .satisfies(
              why ->
                  assertThat(why.getMessage().codePoints())
                      .noneMatch(c -> c >= 0xD800 && c <= 0xDFFF));
    }
  }

  /** What is written down about the protocol is how it is. */
  @Test
  void theProtocolShowsEachCommandAsItIsRead() throws IOException {
    List<Class<?>> shown = new ArrayList<>();
    for (JsonNode example : ProtocolExamples.all()) {
      if (example.has("do")) {
        Command command = CommandJson.read(example);
        assertThat(CommandJson.write(command).toString()).isEqualTo(example.toString());
        shown.add(command instanceof Addressed of ? of.of() : command.getClass());
      }
    }
    assertThat(shown).containsExactlyInAnyOrderElementsOf(Commands.kinds().toList());
  }

  /** A journal is written by hand too: what an edit does not say is as usual. */
  @Test
  void anEditSaysOnlyWhatIsNotAsUsual() throws JacksonException {
    String text =
        "{\"do\":\"editNotes\",\"part\":3,\"clip\":7,\"edits\":["
            + "{\"by\":\"move\",\"notes\":\"all\",\"ticks\":60},"
            + "{\"by\":\"toGrid\",\"notes\":{\"pitch\":42},\"grid\":\"1/16\"},"
            + "{\"by\":\"length\",\"notes\":[5],\"toNext\":true}]}";
    assertThat(CommandJson.read(json.readTree(text)))
        .isEqualTo(
            new EditCommand.EditNotes(
                PART,
                CLIPS,
                WhichTakes.HEARD,
                List.of(
                    new Edit.Move(new Chosen.All(), 60, 0),
                    new Edit.ToGrid(
                        new Chosen.OfPitch(42),
                        Optional.of(Grid.SIXTEENTH),
                        100,
                        50,
                        false,
                        Optional.empty()),
                    new Edit.Length(
                        new Chosen.Ids(List.of(5L)),
                        OptionalLong.empty(),
                        OptionalDouble.empty(),
                        true))));
  }

  /** Journals of before have no word for what has come since. */
  @Test
  void whatHasComeLaterIsAsUsualWhereItIsLacking() throws JacksonException {
    assertThat(CommandJson.read(json.readTree("{\"do\":\"undo\"}")))
        .isEqualTo(new UndoCommand.Undo(false));
    assertThat(CommandJson.read(json.readTree("{\"do\":\"act\",\"action\":\"UNDO\",\"number\":0}")))
        .isEqualTo(new UndoCommand.Undo(false));
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "{}",
        "{\"do\":7}",
        "{\"do\":\"explode\"}",
        "{\"do\":\"setTempo\"}",
        "{\"do\":\"setTempo\",\"bpm\":\"fast\"}",
        "{\"do\":\"setTempo\",\"bpm\":401}",
        "{\"do\":\"setTempo\",\"bpm\":1e300}",
        "{\"do\":\"setMeter\",\"beats\":4,\"unit\":3}",
        "{\"do\":\"setMeter\",\"beats\":4.5,\"unit\":4}",
        "{\"do\":\"keyDown\",\"device\":\"x\",\"channel\":0,\"pitch\":128,\"velocity\":1}",
        "{\"do\":\"keyDown\",\"device\":\"x\",\"channel\":16,\"pitch\":12,\"velocity\":1}",
        "{\"do\":\"keyDown\",\"device\":\"\",\"channel\":1,\"pitch\":12,\"velocity\":1}",
        "{\"do\":\"keyDown\",\"device\":\"x\",\"channel\":1,\"pitch\":99999999999,\"velocity\":1}",
        "{\"do\":\"chooseSound\",\"part\":1,\"drums\":true,\"program\":7,\"evenWithMusic\":false}",
        "{\"do\":\"setInputGrid\",\"part\":1,\"grid\":\"1/7\",\"strength\":1,\"swing\":50,\"endsToo\":false}",
        "{\"do\":\"setClick\",\"on\":true,\"when\":\"NEVER\",\"sound\":\"CLAVES\",\"level\":0,\"dotted\":false}",
        "{\"do\":\"editNotes\",\"part\":1,\"clip\":7,\"edits\":[]}",
        "{\"do\":\"editNotes\",\"part\":1,\"clip\":[],\"edits\":[{\"by\":\"delete\",\"notes\":\"all\"}]}",
        "{\"do\":\"editNotes\",\"part\":1,\"clip\":7,\"edits\":[{\"by\":\"delete\",\"notes\":\"most\"}]}",
        "{\"do\":\"editNotes\",\"part\":1,\"clip\":7,\"edits\":[{\"by\":\"delete\",\"notes\":[1.5]}]}",
        "{\"do\":\"editNotes\",\"part\":1,\"clip\":7,\"edits\":[{\"by\":\"explode\",\"notes\":\"all\"}]}",
        "{\"do\":\"editNotes\",\"part\":1,\"clip\":7,\"edits\":[{\"by\":\"velocity\",\"notes\":\"all\"}]}",
        "{\"do\":\"rename\",\"title\":\"\"}",
        "{\"do\":\"cueClip\",\"part\":\"first\",\"clip\":\"next\"}",
        "{\"do\":\"cueClip\",\"part\":\"armed\"}",
        "{\"do\":\"takes\",\"on\":\"perhaps\"}",
        "{\"do\":\"keep\",\"ofLoopLength\":\"toggle\",\"cue\":false}",
        "{\"do\":\"setBalance\",\"part\":1,\"level\":{\"knob\":[0]}}",
        "{\"do\":\"shiftTempo\",\"by\":{\"knob\":[40,240],\"at\":2}}",
        "{\"do\":\"shiftTempo\",\"by\":\"+9999\"}",
        "{\"do\":\"sequence\",\"name\":\"\",\"commands\":[{\"do\":\"peel\"}]}",
        "{\"do\":\"act\",\"action\":\"FLY\",\"number\":0}",
        "{\"do\":\"reportDelay\",\"micros\":null}"
      })
  void whatIsNoCommandIsRefusedInASentence(String text) {
    assertThatThrownBy(
            () -> {
              Command command = CommandJson.read(json.readTree(text));
              ancora.core.engine.Engine engine =
                  ancora.core.engine.Engine.of(ancora.core.show.Show.named("x"));
              if (engine.apply(command, 0, 0)
                  instanceof ancora.core.engine.Outcome.Refused refused) {
                throw new Refusal(refused.why());
              }
            })
        .isInstanceOf(Refusal.class)
        .hasMessageMatching("(?s).{10,160}[.]");
  }
}
