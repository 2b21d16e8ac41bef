package ancora.app.journal;

import ancora.core.Refusal;
import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.clip.LoopWindow;
import ancora.core.clip.Manner;
import ancora.core.clip.Reshaping;
import ancora.core.control.Control;
import ancora.core.edit.Chosen;
import ancora.core.edit.Clips;
import ancora.core.edit.Edit;
import ancora.core.edit.WhichTakes;
import ancora.core.history.Change;
import ancora.core.history.Step;
import ancora.core.note.Controller;
import ancora.core.note.ControllerMove;
import ancora.core.note.Grid;
import ancora.core.note.Note;
import ancora.core.record.LoopRecording;
import ancora.core.rules.Command;
import ancora.core.run.Passage;
import ancora.core.run.Round;
import ancora.core.run.RunEdit;
import ancora.core.run.RunNote;
import ancora.core.show.Address;
import ancora.core.show.Adjustment;
import ancora.core.show.Balance;
import ancora.core.show.Click;
import ancora.core.show.Master;
import ancora.core.show.PartId;
import ancora.core.show.PartInput;
import ancora.core.show.RecordingSettings;
import ancora.core.show.SectionId;
import ancora.core.sound.Sound;
import ancora.core.stage.Erase;
import ancora.core.stage.Hands;
import ancora.core.stage.HeldKey;
import ancora.core.stage.Kept;
import ancora.core.stage.PartStage;
import ancora.core.stage.Transport;
import ancora.core.time.Forgiveness;
import ancora.core.time.Tempo;
import ancora.core.vamp.Cue;
import ancora.core.vamp.Vamp;
import ancora.core.vamp.WindowChange;
import com.fasterxml.jackson.annotation.JsonAutoDetect.Visibility;
import com.fasterxml.jackson.annotation.JsonInclude;
import com.fasterxml.jackson.annotation.JsonSetter;
import com.fasterxml.jackson.annotation.JsonSubTypes;
import com.fasterxml.jackson.annotation.JsonTypeInfo;
import com.fasterxml.jackson.annotation.Nulls;
import com.fasterxml.jackson.annotation.PropertyAccessor;
import java.lang.reflect.Type;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.function.Function;
import tools.jackson.core.JacksonException;
import tools.jackson.core.JsonGenerator;
import tools.jackson.core.JsonParser;
import tools.jackson.databind.DeserializationContext;
import tools.jackson.databind.DeserializationFeature;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.KeyDeserializer;
import tools.jackson.databind.MapperFeature;
import tools.jackson.databind.SerializationContext;
import tools.jackson.databind.ValueDeserializer;
import tools.jackson.databind.ValueSerializer;
import tools.jackson.databind.cfg.CoercionAction;
import tools.jackson.databind.cfg.CoercionInputShape;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.module.SimpleModule;
import tools.jackson.databind.node.BooleanNode;
import tools.jackson.databind.node.JsonNodeFactory;
import tools.jackson.databind.node.ObjectNode;
import tools.jackson.databind.type.LogicalType;

/**
 * Values of the core as JSON: components by their names, numbers for what has an id, quarter notes
 * a minute for a tempo, ms for a forgiveness, grids and controllers as the performer reads them,
 * and notes as rows: [id, pitch, velocity, played, meant, length, 1 if held].
 */
public final class CoreJson {

  private static final String ALL = "all";
  private static final long MOST_SOUNDED = 2_000_000;
  private static final String BEND = "bend";
  private static final String PRESSURE = "pressure";

  private static final JsonSetter.Value NO_NOTHING = JsonSetter.Value.forContentNulls(Nulls.FAIL);

  /** Values as they are today. */
  private static final JsonMapper TODAYS = mapper(values());

  /** Shows and parts of today and before. */
  private static final JsonMapper SHOWS = mapper(settings(values()));

  /**
   * All values, of today and before. An edit is completed before it is known of which kind it is.
   */
  private static final JsonMapper JSON =
      mapper(
              settings(values())
                  .addDeserializer(Step.class, completed(CameLater.STEP, Step.class, SHOWS))
                  .addDeserializer(Hands.class, completed(CameLater.HANDS, Hands.class, SHOWS))
                  .addDeserializer(
                      PartStage.class, completed(CameLater.PART_STAGE, PartStage.class, SHOWS))
                  .addDeserializer(Edit.class, completed(CameLater.EDIT, Edit.class, TODAYS))
                  .addSerializer(Edit.class, writing(CoreJson::writeEdit)))
          .rebuild()
          .removeMixIn(Edit.class)
          .build();

  private static SimpleModule settings(SimpleModule module) {
    return module
        .addDeserializer(
            RecordingSettings.class,
            completed(CameLater.RECORDING, RecordingSettings.class, TODAYS))
        .addDeserializer(Control.class, completed(CameLater.CONTROL, Control.class, TODAYS))
        .addDeserializer(PartInput.class, completed(CameLater.INPUT, PartInput.class, TODAYS))
        .addDeserializer(Sound.class, completed(CameLater.SOUND, Sound.class, TODAYS))
        .addDeserializer(Click.class, completed(CameLater.CLICK, Click.class, TODAYS))
        .addDeserializer(Balance.class, completed(CameLater.BALANCE, Balance.class, TODAYS))
        .addDeserializer(Master.class, completed(CameLater.MASTER, Master.class, TODAYS))
        .addDeserializer(Clip.class, completed(CameLater.CLIP, Clip.class, TODAYS))
        .addDeserializer(Kept.class, completed(CameLater.KEPT, Kept.class, TODAYS))
        .addDeserializer(Manner.class, completed(CameLater.MANNER, Manner.class, TODAYS))
        .addDeserializer(
            LoopRecording.class, completed(CameLater.LOOP_RECORDING, LoopRecording.class, TODAYS))
        .addDeserializer(Vamp.class, completed(CameLater.VAMP, Vamp.class, TODAYS))
        .addDeserializer(Cue.class, completed(CameLater.CUE, Cue.class, TODAYS))
        .addDeserializer(HeldKey.class, completed(CameLater.HELD_KEY, HeldKey.class, TODAYS))
        .addDeserializer(Erase.class, completed(CameLater.ERASE, Erase.class, TODAYS))
        .addDeserializer(
            WindowChange.class, completed(CameLater.WINDOW_CHANGE, WindowChange.class, TODAYS));
  }

  private static JsonMapper mapper(SimpleModule module) {
    return JsonMapper.builder()
        .changeDefaultVisibility(
            visible ->
                visible
                    .withVisibility(PropertyAccessor.ALL, Visibility.NONE)
                    .withVisibility(PropertyAccessor.FIELD, Visibility.ANY)
                    .withVisibility(PropertyAccessor.CREATOR, Visibility.ANY))
        // as the components of a record are declared
        .disable(MapperFeature.SORT_PROPERTIES_ALPHABETICALLY)
        .disable(MapperFeature.ALLOW_COERCION_OF_SCALARS)
        .disable(DeserializationFeature.ACCEPT_FLOAT_AS_INT)
        .disable(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES)
        .enable(DeserializationFeature.FAIL_ON_NULL_FOR_PRIMITIVES)
        .enable(DeserializationFeature.FAIL_ON_NULL_CREATOR_PROPERTIES)
        .enable(DeserializationFeature.FAIL_ON_MISSING_CREATOR_PROPERTIES)
        // in a list nothing is no value
        .withConfigOverride(List.class, list -> list.setNullHandling(NO_NOTHING))
        .withConfigOverride(Set.class, set -> set.setNullHandling(NO_NOTHING))
        // a number, or yes or no, is no text
        .withCoercionConfig(
            LogicalType.Textual,
            text ->
                text.setCoercion(CoercionInputShape.Integer, CoercionAction.Fail)
                    .setCoercion(CoercionInputShape.Float, CoercionAction.Fail)
                    .setCoercion(CoercionInputShape.Boolean, CoercionAction.Fail))
        .addMixIn(Sound.class, WithoutWhatIsNone.class)
        .addMixIn(Reshaping.class, AnyReshaping.class)
        .addMixIn(Edit.class, AnyEdit.class)
        .addMixIn(Transport.class, AnyTransport.class)
        .addMixIn(RunEdit.class, AnyRunEdit.class)
        .addModule(module)
        .build();
  }

  /** What is none is left out. */
  @JsonInclude(JsonInclude.Include.NON_ABSENT)
  private interface WithoutWhatIsNone {}

  /** A reshaping says which it is. */
  @JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = "by")
  @JsonSubTypes({
    @JsonSubTypes.Type(value = Reshaping.ToWindow.class, name = "toWindow"),
    @JsonSubTypes.Type(value = Reshaping.Halve.class, name = "halve"),
    @JsonSubTypes.Type(value = Reshaping.Twice.class, name = "twice"),
    @JsonSubTypes.Type(value = Reshaping.Times.class, name = "times"),
    @JsonSubTypes.Type(value = Reshaping.Shift.class, name = "shift")
  })
  private interface AnyReshaping {}

  /** And an edit of notes. */
  @JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = "by")
  @JsonSubTypes({
    @JsonSubTypes.Type(value = Edit.Delete.class, name = "delete"),
    @JsonSubTypes.Type(value = Edit.Move.class, name = "move"),
    @JsonSubTypes.Type(value = Edit.Copy.class, name = "copy"),
    @JsonSubTypes.Type(value = Edit.CopyOn.class, name = "copyOn"),
    @JsonSubTypes.Type(value = Edit.Length.class, name = "length"),
    @JsonSubTypes.Type(value = Edit.Velocity.class, name = "velocity"),
    @JsonSubTypes.Type(value = Edit.Draw.class, name = "draw"),
    @JsonSubTypes.Type(value = Edit.ToGrid.class, name = "toGrid"),
    @JsonSubTypes.Type(value = Edit.AsPlayed.class, name = "asPlayed"),
    @JsonSubTypes.Type(value = Edit.DeleteMoves.class, name = "deleteMoves"),
    @JsonSubTypes.Type(value = Edit.ThinMoves.class, name = "thinMoves"),
    @JsonSubTypes.Type(value = Edit.DeletePedal.class, name = "deletePedal")
  })
  private interface AnyEdit {}

  /** And an edit of a run. */
  @JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = "by")
  @JsonSubTypes({
    @JsonSubTypes.Type(value = RunEdit.Trim.class, name = "trim"),
    @JsonSubTypes.Type(value = RunEdit.Cut.class, name = "cut"),
    @JsonSubTypes.Type(value = RunEdit.Repeat.class, name = "repeat"),
    @JsonSubTypes.Type(value = RunEdit.DeletePassage.class, name = "deletePassage"),
    @JsonSubTypes.Type(value = RunEdit.MovePassage.class, name = "movePassage"),
    @JsonSubTypes.Type(value = RunEdit.GiveClip.class, name = "giveClip")
  })
  private interface AnyRunEdit {}

  /** And a transport. */
  @JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = "is")
  @JsonSubTypes({
    @JsonSubTypes.Type(value = Transport.Standing.class, name = "standing"),
    @JsonSubTypes.Type(value = Transport.AwaitingFirstNote.class, name = "awaiting"),
    @JsonSubTypes.Type(value = Transport.Rolling.class, name = "rolling")
  })
  private interface AnyTransport {}

  private CoreJson() {}

  /** A value as JSON. */
  public static JsonNode write(Object value) {
    return JSON.valueToTree(value);
  }

  /** The value that some JSON describes; refuses, in a sentence, what describes none. */
  public static <T> T read(JsonNode node, Class<T> type) {
    try {
      return there(JSON.treeToValue(node, type));
    } catch (JacksonException | IllegalArgumentException wrong) {
      throw refusal(wrong);
    }
  }

  /** The value that a text describes; refuses, in a sentence, what describes none. */
  public static <T> T read(String text, Class<T> type) {
    try {
      return there(JSON.readValue(text, type));
    } catch (JacksonException | IllegalArgumentException wrong) {
      throw refusal(wrong);
    }
  }

  /** The value of a component's type that some JSON describes; refuses what describes none. */
  static Object read(JsonNode node, Type type) {
    // of a list by itself the mapper has no setting that keeps nothing out
    node.forEach(
        one -> Refusal.unless(!node.isArray() || !one.isNull(), "A value in a list is lacking."));
    try {
      return there(JSON.readerFor(JSON.constructType(type)).readValue(node));
    } catch (JacksonException | IllegalArgumentException wrong) {
      throw refusal(wrong);
    }
  }

  /** A text that is empty or blank may be read as nothing at all. */
  private static <T> T there(T value) {
    Refusal.unless(value != null, "A value is lacking.");
    return value;
  }

  private static Refusal refusal(Exception wrong) {
    for (Throwable cause = wrong; cause != null; cause = cause.getCause()) {
      if (cause instanceof Refusal refusal) {
        return refusal;
      }
    }
    return BrokenValue.refusal(wrong);
  }

  private static SimpleModule values() {
    SimpleModule module = new SimpleModule();
    number(module, PartId.class, PartId::value, PartId::new);
    number(module, ClipId.class, ClipId::value, ClipId::new);
    number(module, SectionId.class, SectionId::value, SectionId::new);
    number(module, Forgiveness.class, Forgiveness::millis, Forgiveness::new);
    return module
        .addKeySerializer(
            PartId.class, writing((id, out) -> out.writeName(String.valueOf(id.value()))))
        .addKeyDeserializer(PartId.class, new PartKey())
        .addSerializer(Tempo.class, writing((t, out) -> out.writeNumber(t.bpm())))
        .addDeserializer(Tempo.class, reading(in -> Tempo.of(in.getDoubleValue())))
        .addSerializer(Grid.class, writing((g, out) -> out.writeString(g.words())))
        .addDeserializer(Grid.class, reading(in -> Grid.named(in.getString())))
        .addSerializer(Controller.class, writing((c, out) -> out.writeString(name(c))))
        .addDeserializer(Controller.class, reading(in -> controller(in.getString())))
        .addSerializer(
            Change.class, writing((change, out) -> out.writeTree(ChangeJson.write(change))))
        .addDeserializer(Change.class, reading(in -> ChangeJson.read(in.readValueAsTree())))
        .addSerializer(
            Adjustment.class, writing((a, out) -> out.writeTree(AdjustmentJson.write(a))))
        .addSerializer(Address.class, writing((a, out) -> out.writeString(a.name())))
        .addSerializer(Command.class, writing((c, out) -> out.writeTree(CommandJson.write(c))))
        .addDeserializer(Command.class, reading(in -> CommandJson.read(in.readValueAsTree())))
        .addSerializer(Chosen.class, writing(CoreJson::writeChosen))
        .addDeserializer(Chosen.class, reading(in -> chosen(in.readValueAsTree())))
        .addSerializer(Clips.class, writing(CoreJson::writeClips))
        .addDeserializer(Clips.class, reading(in -> clips(in.readValueAsTree())))
        .addSerializer(
            WhichTakes.class,
            writing((t, out) -> out.writeString(t.name().toLowerCase(Locale.ROOT))))
        .addDeserializer(WhichTakes.class, reading(in -> takes(in.getString())))
        .addSerializer(RunNote.class, writing(CoreJson::writeRunNote))
        .addDeserializer(RunNote.class, reading(CoreJson::readRunNote))
        .addSerializer(Passage.class, writing(CoreJson::writePassage))
        .addDeserializer(Passage.class, reading(in -> passage(in.readValueAsTree())))
        .addSerializer(Note.class, writing(CoreJson::writeNote))
        .addDeserializer(Note.class, reading(CoreJson::readNote));
  }

  private static <T> ValueDeserializer<T> completed(
      CameLater later, Class<T> type, JsonMapper inside) {
    return reading(in -> inside.treeToValue(later.completed(in.readValueAsTree()), type));
  }

  private static String name(Controller controller) {
    return switch (controller.kind()) {
      case PITCH_BEND -> BEND;
      case CHANNEL_PRESSURE -> PRESSURE;
      case CONTROL_CHANGE -> String.valueOf(controller.number());
    };
  }

  private static Controller controller(String name) {
    if (name.equals(BEND)) {
      return Controller.BEND;
    }
    if (name.equals(PRESSURE)) {
      return Controller.PRESSURE;
    }
    Refusal.unless(name.matches("\\d{1,3}"), "There is no controller of that name: use a number.");
    return Controller.change(Integer.parseInt(name));
  }

  /** What an edit does not say is left out. */
  private static void writeEdit(Edit edit, JsonGenerator out) {
    ObjectNode node = TODAYS.valueToTree(edit);
    List<String> none = new ArrayList<>();
    node.forEachEntry(
        (name, value) -> {
          if (value.isNull() || value.equals(BooleanNode.FALSE)) {
            none.add(name);
          }
        });
    out.writeTree(node.without(none));
  }

  /** Notes are chosen by "all", a list of ids, a layer, a pitch, or a stretch. */
  private static void writeChosen(Chosen chosen, JsonGenerator out) {
    if (chosen instanceof Chosen.All) {
      out.writeString(ALL);
    } else if (chosen instanceof Chosen.Ids ids) {
      out.writeArray(ids.ids().stream().mapToLong(Long::longValue).toArray(), 0, ids.ids().size());
    } else {
      ObjectNode node = JsonNodeFactory.instance.objectNode();
      if (chosen instanceof Chosen.OfLayer of) {
        node.put("layer", of.layer());
      } else if (chosen instanceof Chosen.OfPitch of) {
        node.put("pitch", of.pitch());
      } else if (chosen instanceof Chosen.Within within) {
        node.put("from", within.from()).put("to", within.to());
      }
      out.writeTree(node);
    }
  }

  private static Chosen chosen(JsonNode node) {
    if (node.isArray()) {
      List<Long> ids = new ArrayList<>();
      node.forEach(id -> ids.add(CommandJson.wholeOf(id)));
      return new Chosen.Ids(ids);
    }
    if (node.has("layer")) {
      return new Chosen.OfLayer(CommandJson.integer(node, "layer"));
    }
    if (node.has("pitch")) {
      return new Chosen.OfPitch(CommandJson.integer(node, "pitch"));
    }
    if (node.has("from")) {
      return new Chosen.Within(CommandJson.whole(node, "from"), CommandJson.whole(node, "to"));
    }
    Refusal.unless(
        node.isString() && node.stringValue().equals(ALL),
        "Notes are “all”, a list of ids, or those of a layer, a pitch or a stretch.");
    return new Chosen.All();
  }

  private static void writeClips(Clips clips, JsonGenerator out) {
    int[] ids = clips.ids().stream().mapToInt(ClipId::value).toArray();
    if (ids.length == 1) {
      out.writeNumber(ids[0]);
    } else {
      out.writeArray(ids, 0, ids.length);
    }
  }

  private static Clips clips(JsonNode node) {
    List<ClipId> ids = new ArrayList<>();
    (node.isArray() ? node : JsonNodeFactory.instance.arrayNode().add(node))
        .forEach(id -> ids.add(new ClipId(CommandJson.integerOf(id))));
    return new Clips(ids);
  }

  private static WhichTakes takes(String name) {
    for (WhichTakes takes : WhichTakes.values()) {
      if (takes.name().toLowerCase(Locale.ROOT).equals(name)) {
        return takes;
      }
    }
    throw new Refusal("Takes are “heard” or “all”.");
  }

  private static void writeRunNote(RunNote note, JsonGenerator out) {
    long[] row = {note.place(), note.pitch(), note.velocity(), note.length()};
    out.writeArray(row, 0, row.length);
  }

  private static RunNote readRunNote(JsonParser in) {
    JsonNode row = in.readValueAsTree();
    Refusal.unless(
        row.isArray() && row.size() == 4, "A note of a run is a row of four whole numbers.");
    return new RunNote(
        CommandJson.wholeOf(row.get(0)),
        CommandJson.integerOf(row.get(1)),
        CommandJson.integerOf(row.get(2)),
        CommandJson.wholeOf(row.get(3)));
  }

  /** Passes that went round alike are written once. */
  private static void writePassage(Passage passage, JsonGenerator out) {
    ObjectNode node =
        JsonNodeFactory.instance
            .objectNode()
            .put("number", passage.number())
            .put("clip", passage.clip().value())
            .put("letter", passage.letter())
            .put("name", passage.name())
            .put("phase", passage.phase())
            .put("from", passage.from())
            .put("until", passage.until());
    node.set("window", TODAYS.valueToTree(passage.window()));
    node.set("rounds", TODAYS.valueToTree(Round.fold(passage)));
    node.set("moves", TODAYS.valueToTree(passage.moves()));
    out.writeTree(node);
  }

  private static Passage passage(JsonNode node) {
    long from = CommandJson.whole(node, "from");
    List<Round> rounds = CommandJson.list(node.get("rounds"), Round.class);
    Refusal.unless(
        rounds.stream().mapToLong(r -> (long) r.times() * r.notes().size()).sum() <= MOST_SOUNDED,
        "A passage has more notes than can sound in a night.");
    return new Passage(
        CommandJson.integer(node, "number"),
        new ClipId(CommandJson.integer(node, "clip")),
        CommandJson.text(node, "letter"),
        CommandJson.text(node, "name"),
        CommandJson.part(node, "window", LoopWindow.class),
        CommandJson.whole(node, "phase"),
        from,
        CommandJson.whole(node, "until"),
        Round.unfold(rounds, from),
        CommandJson.list(node.get("moves"), ControllerMove.class));
  }

  private static void writeNote(Note note, JsonGenerator out) {
    long[] row = {
      note.id(), note.pitch(), note.velocity(), note.played(), note.meant(), note.length(), 1
    };
    out.writeArray(row, 0, note.held() ? 7 : 6);
  }

  private static Note readNote(JsonParser in) {
    long[] row = in.readValueAs(long[].class);
    Refusal.unless(
        row.length == 6 || row.length == 7 && row[6] == 1,
        "A note is a row of six numbers, and a 1 if its key is down.");
    return new Note(
        row[0],
        Math.toIntExact(row[1]),
        Math.toIntExact(row[2]),
        row[3],
        row[4],
        row[5],
        row.length == 7);
  }

  private static <T> void number(
      SimpleModule module, Class<T> type, Function<T, Integer> value, Function<Integer, T> made) {
    module
        .addSerializer(type, writing((id, out) -> out.writeNumber(value.apply(id))))
        .addDeserializer(
            type, reading(in -> made.apply(CommandJson.integerOf(in.readValueAsTree()))));
  }

  @FunctionalInterface
  private interface Writing<T> {
    void write(T value, JsonGenerator out);
  }

  @FunctionalInterface
  private interface Reading<T> {
    T read(JsonParser in);
  }

  private static final class PartKey extends KeyDeserializer {
    @Override
    public Object deserializeKey(String key, DeserializationContext context) {
      Refusal.unless(key.matches("\\d{1,9}"), "A part is known by its number.");
      return new PartId(Integer.parseInt(key));
    }
  }

  private static <T> ValueSerializer<T> writing(Writing<T> writing) {
    return new ValueSerializer<>() {
      @Override
      public void serialize(T value, JsonGenerator out, SerializationContext provider) {
        writing.write(value, out);
      }
    };
  }

  private static <T> ValueDeserializer<T> reading(Reading<T> reading) {
    return new ValueDeserializer<>() {
      @Override
      public T deserialize(JsonParser in, DeserializationContext context) {
        return reading.read(in);
      }
    };
  }
}
