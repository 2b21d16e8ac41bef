package ancora.app.journal;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ancora.app.ProtocolExamples;
import ancora.core.Refusal;
import ancora.core.catalogue.Catalogue;
import ancora.core.clip.ClipId;
import ancora.core.edit.Chosen;
import ancora.core.edit.Clips;
import ancora.core.edit.Edit;
import ancora.core.edit.WhichTakes;
import ancora.core.engine.Commands;
import ancora.core.note.Controller;
import ancora.core.note.Grid;
import ancora.core.rules.Command;
import ancora.core.rules.address.Addressed;
import ancora.core.rules.editing.EditCommand;
import ancora.core.rules.settings.SettingCommand;
import ancora.core.rules.undo.UndoCommand;
import ancora.core.show.Balance;
import ancora.core.show.Components;
import ancora.core.show.PartId;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.OptionalInt;
import java.util.OptionalLong;
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

  private final JsonMapper json = JsonMapper.shared();

  /** Each edit with what it may say, and no more. */
  @Test
  void editsAreWrittenAndReadAgain() throws JacksonException {
    Command edits = new EditCommand.EditNotes(PART, CLIPS, WhichTakes.HEARD, EDITS);
    String text = CommandJson.write(edits).toString();
    assertThat(CommandJson.read(json.readTree(text))).isEqualTo(edits);
    assertThat(EDITS.stream().map(Object::getClass).distinct())
        .containsExactlyInAnyOrder(Edit.class.getPermittedSubclasses());
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
