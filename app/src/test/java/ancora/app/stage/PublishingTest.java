package ancora.app.stage;

import static java.nio.charset.StandardCharsets.UTF_8;
import static org.assertj.core.api.Assertions.assertThat;

import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.clip.LoopWindow;
import ancora.core.engine.Engine;
import ancora.core.note.InputKey;
import ancora.core.note.Note;
import ancora.core.rules.cues.CueCommand;
import ancora.core.rules.hands.HandCommand;
import ancora.core.rules.mending.MendCommand;
import ancora.core.rules.press.PressCommand;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.Show;
import ancora.core.sound.Sound;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.JsonNodeFactory;

/** What pages are told is what has changed, however much there is besides. */
class PublishingTest {

  /** Bytes to a page for one key down and up, recorded onto a clip that has so many notes. */
  static int bytesOfANote(int notes) {
    Engine engine = sounding(notes);
    PartId part = engine.stage().show().parts().get(0).id();
    long now = 4_000_000;
    engine.apply(new PressCommand.MainPress(), now, now);
    assertThat(engine.stage().on(part).open()).as("it is recorded onto").isPresent();
    InputKey key = new InputKey("keys", 0, 60);
    now += 3_000_000;
    Publishing publishing = new Publishing(engine.stage());
    publishing.whole(engine);
    int bytes = 0;
    for (int stroke = 0; stroke < 3; stroke++) {
      bytes = 0;
      now += 300_000;
      engine.advance(now);
      publishing.changes(engine, Optional.empty());
      engine.apply(new HandCommand.KeyDown(key, 90), now, now);
      bytes += bytes(publishing, engine);
      now += 90_000;
      engine.apply(new HandCommand.KeyUp(key), now, now);
      bytes += bytes(publishing, engine);
    }
    return bytes;
  }

  /** A clip of so many notes that vamps, at 4 s. */
  private static Engine sounding(int notes) {
    long length = 3840L * Math.max(1, notes / 20);
    List<Note> there = new ArrayList<>();
    for (int i = 0; i < notes; i++) {
      there.add(Note.of(10 + i, 36 + i % 40, 90, i * length / notes, i * length / notes, 100));
    }
    Show empty = Show.named("Long").withNewPart("Keys", Sound.of(4)).withNextId(90_000);
    Part part = empty.parts().get(0);
    Clip clip = Clip.of(new ClipId(5), "a", new LoopWindow(0, length), there);
    Engine engine = Engine.of(empty.mapPart(part.id(), p -> p.withClip(clip)));
    engine.apply(new CueCommand.Start(), 0, 0);
    engine.advance(4_000_000);
    return engine;
  }

  private static int bytes(Publishing publishing, Engine engine) {
    return publishing.changes(engine, Optional.empty()).stream()
        .mapToInt(message -> message.toString().getBytes(UTF_8).length)
        .sum();
  }

  @Test
  void aNoteCostsAPageTheSameInAnEmptyClipAndAFullOne() {
    int few = bytesOfANote(10);
    int some = bytesOfANote(400);
    int many = bytesOfANote(3900);
    assertThat(List.of(few, some, many)).allMatch(bytes -> bytes > 100 && bytes <= 700);
    assertThat(many).as("beside %s and %s", few, some).isLessThan(Math.min(few, some) * 11 / 10);
  }

  @Test
  void thatEraseIsHeldIsToldAsLongAsItIs() {
    Engine engine = sounding(10);
    assertThat(hands(engine).has("erase")).isFalse();
    engine.apply(new MendCommand.EraseHeld(true), 4_100_000, 4_100_000);
    assertThat(hands(engine).has("erase")).isTrue();
    engine.apply(new MendCommand.EraseHeld(false), 4_600_000, 4_600_000);
    assertThat(hands(engine).has("erase")).isFalse();
  }

  private static JsonNode hands(Engine engine) {
    JsonNode whole = new Publishing(engine.stage()).whole(engine);
    assertThat(whole.at("/state/hands").isObject()).isTrue();
    return whole.at("/state/hands");
  }

  /** Over random lists: the edits lead from one to the other. */
  @Test
  void editsLeadFromOneListToTheOther() {
    Random random = new Random(Long.getLong("ancora.seed", 7));
    for (int i = 0; i < 5000; i++) {
      List<Integer> before = some(random);
      List<Integer> after = random.nextInt(4) == 0 ? some(random) : changed(before, random);
      ArrayNode edits =
          ListEdits.of(before, after, ArrayNode::add).orElse(JsonNodeFactory.instance.arrayNode());
      assertThat(edited(before, edits)).isEqualTo(after);
      assertThat(edits.isEmpty()).isEqualTo(before.equals(after));
    }
  }

  /** One that came into a long list is all that is told of it. */
  @Test
  void whatStaysIsNotTold() {
    List<Integer> before = new ArrayList<>();
    for (int i = 0; i < 4000; i++) {
      before.add(i);
    }
    List<Integer> after = new ArrayList<>(before);
    after.set(17, 9000);
    after.add(2000, 9001);
    after.remove(3999);
    assertThat(ListEdits.of(before, after, ArrayNode::add).orElseThrow().toString())
        .isEqualTo("[[17,1,[[9000]]],[2000,0,[[9001]]],[3998,1,[]]]");
  }

  private static List<Integer> some(Random random) {
    List<Integer> list = new ArrayList<>();
    for (int i = random.nextInt(12); i > 0; i--) {
      list.add(random.nextInt(15));
    }
    return list;
  }

  private static List<Integer> changed(List<Integer> before, Random random) {
    List<Integer> after = new ArrayList<>(before);
    for (int i = random.nextInt(3); i > 0; i--) {
      after.add(random.nextInt(after.size() + 1), random.nextInt(15));
      after.remove(random.nextInt(after.size()));
    }
    return after;
  }

  private static List<Integer> edited(List<Integer> before, ArrayNode edits) {
    List<Integer> made = new ArrayList<>();
    int place = 0;
    for (JsonNode edit : edits) {
      made.addAll(before.subList(place, edit.get(0).asInt()));
      edit.get(2).forEach(row -> made.add(row.get(0).asInt()));
      place = edit.get(0).asInt() + edit.get(1).asInt();
    }
    made.addAll(before.subList(place, before.size()));
    return made;
  }
}
