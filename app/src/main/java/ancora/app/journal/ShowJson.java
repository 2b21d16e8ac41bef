package ancora.app.journal;

import ancora.core.Refusal;
import ancora.core.clip.ClipId;
import ancora.core.note.Grid;
import ancora.core.show.PartId;
import ancora.core.show.Show;
import ancora.core.time.Tempo;
import com.fasterxml.jackson.annotation.JsonAutoDetect.Visibility;
import com.fasterxml.jackson.annotation.PropertyAccessor;
import com.fasterxml.jackson.core.JsonGenerator;
import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.DeserializationContext;
import com.fasterxml.jackson.databind.DeserializationFeature;
import com.fasterxml.jackson.databind.JsonDeserializer;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.JsonSerializer;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.SerializerProvider;
import com.fasterxml.jackson.databind.json.JsonMapper;
import com.fasterxml.jackson.databind.module.SimpleModule;
import java.io.IOException;

/**
 * A show as JSON: its components by their names, numbers for parts and clips, quarter notes a
 * minute for the tempo, and grids as the performer reads them.
 */
public final class ShowJson {

  private static final ObjectMapper JSON =
      JsonMapper.builder()
          .visibility(PropertyAccessor.ALL, Visibility.NONE)
          .visibility(PropertyAccessor.FIELD, Visibility.ANY)
          .visibility(PropertyAccessor.CREATOR, Visibility.ANY)
          .enable(DeserializationFeature.FAIL_ON_NULL_FOR_PRIMITIVES)
          .enable(DeserializationFeature.FAIL_ON_MISSING_CREATOR_PROPERTIES)
          .addModule(
              new SimpleModule()
                  .addSerializer(PartId.class, writing((id, out) -> out.writeNumber(id.value())))
                  .addDeserializer(PartId.class, reading(in -> new PartId(in.getIntValue())))
                  .addSerializer(ClipId.class, writing((id, out) -> out.writeNumber(id.value())))
                  .addDeserializer(ClipId.class, reading(in -> new ClipId(in.getIntValue())))
                  .addSerializer(Tempo.class, writing((t, out) -> out.writeNumber(t.bpm())))
                  .addDeserializer(Tempo.class, reading(in -> Tempo.of(in.getDoubleValue())))
                  .addSerializer(Grid.class, writing((g, out) -> out.writeString(g.words())))
                  .addDeserializer(Grid.class, reading(in -> Grid.named(in.getText()))))
          .build();

  private ShowJson() {}

  @FunctionalInterface
  private interface Writing<T> {
    void write(T value, JsonGenerator out) throws IOException;
  }

  @FunctionalInterface
  private interface Reading<T> {
    T read(JsonParser in) throws IOException;
  }

  public static JsonNode write(Show show) {
    return JSON.valueToTree(show);
  }

  /** The show that some JSON describes; refuses what describes none. */
  public static Show read(JsonNode node) {
    try {
      return JSON.treeToValue(node, Show.class);
    } catch (JsonProcessingException | IllegalArgumentException wrong) {
      for (Throwable cause = wrong; cause != null; cause = cause.getCause()) {
        if (cause instanceof Refusal refusal) {
          throw refusal;
        }
      }
      String where =
          wrong instanceof JsonProcessingException json
              ? json.getOriginalMessage()
              : wrong.getMessage();
      throw new Refusal("The show cannot be read: " + where.lines().findFirst().orElse("") + ".");
    }
  }

  private static <T> JsonSerializer<T> writing(Writing<T> writing) {
    return new JsonSerializer<>() {
      @Override
      public void serialize(T value, JsonGenerator out, SerializerProvider provider)
          throws IOException {
        writing.write(value, out);
      }
    };
  }

  private static <T> JsonDeserializer<T> reading(Reading<T> reading) {
    return new JsonDeserializer<>() {
      @Override
      public T deserialize(JsonParser in, DeserializationContext context) throws IOException {
        return reading.read(in);
      }
    };
  }
}
