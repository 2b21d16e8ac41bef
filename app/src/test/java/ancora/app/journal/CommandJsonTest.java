package ancora.app.journal;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ancora.core.Refusal;
import ancora.core.clip.ClipId;
import ancora.core.clip.Manner;
import ancora.core.clip.Reshaping;
import ancora.core.clip.Stretch;
import ancora.core.control.Action;
import ancora.core.note.Controller;
import ancora.core.note.Grid;
import ancora.core.note.InputGrid;
import ancora.core.note.InputKey;
import ancora.core.note.NoteRepeat;
import ancora.core.rules.Command;
import ancora.core.show.Balance;
import ancora.core.show.Click;
import ancora.core.show.Leaving;
import ancora.core.show.Master;
import ancora.core.show.PartId;
import ancora.core.show.PartInput;
import ancora.core.show.PartOutput;
import ancora.core.show.RecordingSettings;
import ancora.core.show.Section;
import ancora.core.show.SectionId;
import ancora.core.sound.Sound;
import ancora.core.time.EntryUnit;
import ancora.core.time.Meter;
import ancora.core.time.Tempo;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Set;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.junit.jupiter.params.provider.ValueSource;

class CommandJsonTest {

  private static final PartId PART = new PartId(3);
  private static final ClipId CLIP = new ClipId(7);

  private final ObjectMapper json = new ObjectMapper();

  static Stream<Command> commands() {
    InputKey key = new InputKey("stand-in", 9, 36);
    return Stream.of(
        new Command.KeyDown(key, 0),
        new Command.KeyUp(key),
        new Command.DeviceGone("stand-in"),
        new Command.MainPress(),
        new Command.Start(),
        new Command.Stop(),
        new Command.Panic(),
        new Command.SetTempo(Tempo.of(97.301)),
        new Command.TapTempo(),
        new Command.SetMeter(Meter.of(7, 8)),
        new Command.SetClick(Click.DEFAULT),
        new Command.SetRecording(RecordingSettings.DEFAULT.withFixedUnits(4)),
        new Command.Rename("Lull"),
        new Command.AddPart("Choir", Sound.of(52)),
        new Command.Arm(new PartId(3)),
        new Command.ChooseSound(new PartId(3), Sound.kit(8), true),
        new Command.SetInputGrid(new PartId(3), InputGrid.of(Grid.EIGHTH_TRIPLET).withSwing(58.5)),
        new Command.Peel(),
        new Command.Restore(),
        new Command.PeelAll(),
        new Command.Clear(),
        new Command.ReportDelay(33_000),
        new Command.Sustain("keys", 0, 127),
        new Command.MoveController("keys", 0, Controller.BEND, 16_383),
        new Command.KeyPressure(key, 80),
        new Command.Undo(true),
        new Command.Redo(),
        new Command.RecordAnew(),
        new Command.Replace(true),
        new Command.Punch(0, 960),
        new Command.PunchOff(),
        new Command.PunchHere(),
        new Command.Takes(false),
        new Command.HearTake(PART, CLIP, 2, true),
        new Command.RenameTake(PART, CLIP, 2, "quiet"),
        new Command.DeleteTake(PART, CLIP, 2),
        new Command.CropTakes(PART, CLIP),
        new Command.WindowBars(Command.WindowBars.Bars.ALONE, true),
        new Command.SpreadTakes(PART, CLIP),
        new Command.LayTakesInRow(PART, CLIP),
        new Command.Comp(PART, CLIP, List.of(new Stretch(0, 960, 1), new Stretch(960, 3840, 2))),
        new Command.RedrawComp(PART, CLIP, 4, 0, 960, 2),
        new Command.Stutter(true, 4, false),
        new Command.EraseHeld(true),
        new Command.RepeatNotes(new NoteRepeat(Grid.SIXTEENTH, 60)),
        new Command.RepeatOff(),
        new Command.CueClip(PART, CLIP),
        new Command.CueTacet(PART),
        new Command.CueSection(new SectionId(9)),
        new Command.CueNext(),
        new Command.CuePrevious(),
        new Command.CallOff(PART),
        new Command.Cut(PART),
        new Command.CutAll(),
        new Command.StopAll(),
        new Command.MakeSection("Quay"),
        new Command.SetSection(
            new Section(
                new SectionId(9),
                "B",
                "Lamp",
                Map.of(PART, Optional.of(CLIP), new PartId(4), Optional.empty()),
                true,
                Optional.of(new Section.GoesOn(8, new SectionId(10))))),
        new Command.DeleteSection(new SectionId(9)),
        new Command.MoveSection(new SectionId(9), 2),
        new Command.Reshape(PART, CLIP, new Reshaping.ToWindow(960, 3840)),
        new Command.HandOff(),
        new Command.Keep(false, true),
        new Command.DuplicateClip(PART, CLIP),
        new Command.ThinClip(PART, CLIP),
        new Command.DeleteClip(PART, CLIP),
        new Command.RenameClip(PART, CLIP, ""),
        new Command.MoveClip(PART, CLIP, 1),
        new Command.SetManner(
            PART, CLIP, Manner.DEFAULT.withPickup(960).withEntersOn(EntryUnit.BEAT)),
        new Command.ArmAlongside(PART, true),
        new Command.SplitPart(PART),
        new Command.JoinParts(PART, new PartId(4)),
        new Command.SplitClip(PART, CLIP, Set.of(36)),
        new Command.RenamePart(PART, "Bass"),
        new Command.DeletePart(PART),
        new Command.MovePart(PART, 0),
        new Command.SetLeaving(PART, Leaving.LET_RING),
        new Command.SetPennant(PART, 5),
        new Command.SetBalance(PART, Balance.DEFAULT.withLevel(-7.5).withSolo(true)),
        new Command.TrimAll(-3),
        new Command.SoundOutside(
            PART, new PartOutput("box", 4, OptionalInt.of(130), OptionalInt.empty(), true)),
        new Command.SoundInside(PART),
        new Command.Act(Action.CUE_SECTION, 3),
        new Command.SetMaster(Master.DEFAULT),
        new Command.SetPartInput(
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
  void whatIsWrittenIsReadAgain(Command command) throws JsonProcessingException {
    String text = CommandJson.write(command).toString();
    assertThat(CommandJson.read(json.readTree(text))).isEqualTo(command);
    assertThat(commands().map(Object::getClass))
        .containsExactlyInAnyOrderElementsOf(
            kinds(Command.class).map(type -> (Class<? extends Object>) type).toList());
  }

  private static Stream<Class<?>> kinds(Class<?> type) {
    return type.isSealed()
        ? Stream.of(type.getPermittedSubclasses()).flatMap(CommandJsonTest::kinds)
        : Stream.of(type);
  }

  /** Journals of before have no word for what has come since. */
  @Test
  void whatHasComeLaterIsAsUsualWhereItIsLacking() throws JsonProcessingException {
    assertThat(CommandJson.read(json.readTree("{\"do\":\"undo\"}")))
        .isEqualTo(new Command.Undo(false));
    assertThat(CommandJson.read(json.readTree("{\"do\":\"act\",\"action\":\"UNDO\",\"number\":0}")))
        .isEqualTo(new Command.Act(Action.UNDO, 0, false));
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
        "{\"do\":\"rename\",\"title\":\"\"}",
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
