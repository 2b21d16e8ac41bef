package ancora.core.replay;

import ancora.core.clip.Clip;
import ancora.core.plan.Plan;
import ancora.core.plan.Span;
import ancora.core.player.Sounded;
import ancora.core.record.FirstRecording;
import ancora.core.run.From;
import ancora.core.run.Passage;
import ancora.core.run.Run;
import ancora.core.run.RunPart;
import ancora.core.run.Transcript;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.Section;
import ancora.core.show.SectionId;
import ancora.core.show.Show;
import ancora.core.sound.Sound;
import ancora.core.stage.Stage;
import ancora.core.time.TempoMap;
import ancora.core.time.Ticks;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;

/** Takes down what sounds from a start of the transport to its stop, as a {@link Run}. */
final class RunTaking {

  /** A span as it was planned last, and what its clip was called. */
  private record Known(PartId part, Span span, String letter, String name, long gone) {
    long until() {
      return Math.min(span.until(), gone);
    }
  }

  /** What there is to know of a part, even if it is deleted meanwhile. */
  private static final class PartTaking {
    Part part;
    final List<From.OfSound> sounds = new ArrayList<>();
    final List<From.OfBalance> balances = new ArrayList<>();

    PartTaking(Part part) {
      this.part = part;
    }
  }

  private final TreeMap<Long, TempoMap.Anchor> anchors = new TreeMap<>();
  private final Map<PartId, PartTaking> parts = new LinkedHashMap<>();
  private final Map<String, Known> spans = new LinkedHashMap<>();
  private final Transcript heard = new Transcript();
  private final List<From.OfSection> sections = new ArrayList<>();
  private final boolean goesOn;
  private TempoMap map;
  private Stage stage;

  /**
   * Begins where the transport has started, or in its midst.
   *
   * @param goesOn whether it goes on with a run: then of a part that is silent from there on it is
   *     known too where it left
   */
  RunTaking(Stage stage, Plan plan, boolean goesOn) {
    this.goesOn = goesOn;
    follow(stage, plan, Long.MIN_VALUE);
  }

  /** Something sounds. */
  void hear(Sounded sounded, Optional<String> span) {
    heard.hear(sounded, span);
  }

  /**
   * The stage, and what is to sound, have become these.
   *
   * @param micros the instant
   */
  void follow(Stage next, Plan plan, long micros) {
    boolean moved = stage == null || stage != next;
    stage = next;
    if (!moved) {
      return;
    }
    TempoMap now = next.map().orElseThrow();
    if (now != map) {
      map = now;
      for (TempoMap.Anchor anchor : now.anchors()) {
        if (anchors.isEmpty() || anchor.tick() >= anchors.lastKey()) {
          anchors.put(anchor.tick(), anchor);
        }
      }
    }
    long tick = micros == Long.MIN_VALUE ? Long.MIN_VALUE : map.tickAt(micros);
    next.show().parts().forEach(part -> followPart(next.show(), part, tick));
    plan.parts().forEach(part -> followSounds(parts.get(part.part()), part, tick));
    followSpans(plan, tick);
    next.form().now().ifPresent(id -> followSection(next, id));
  }

  private void followPart(Show show, Part part, long tick) {
    PartTaking taking = parts.computeIfAbsent(part.id(), id -> new PartTaking(part));
    taking.part = part;
    boolean isHeard = show.isHeard(part);
    List<From.OfBalance> balances = taking.balances;
    if (balances.isEmpty()
        || last(balances).heard() != isHeard
        || !last(balances).balance().equals(part.balance())) {
      balances.removeIf(from -> from.tick() == tick);
      balances.add(new From.OfBalance(tick, part.balance(), isHeard));
    }
  }

  /** A part turns to the sounds of its clips; what was to come is said anew. */
  private static void followSounds(PartTaking taking, Plan.PartPlan plan, long tick) {
    List<From.OfSound> sounds = taking.sounds;
    sounds.removeIf(from -> from.tick() > tick && from != sounds.get(0));
    List<Plan.SoundChange> past =
        plan.changes().stream().filter(change -> change.tick() <= tick).toList();
    Sound now = past.isEmpty() ? plan.sound() : last(past).sound();
    turn(sounds, tick, now);
    plan.changes().stream()
        .filter(change -> change.tick() > tick)
        .forEach(change -> turn(sounds, change.tick(), change.sound()));
  }

  private static void turn(List<From.OfSound> sounds, long tick, Sound sound) {
    if (sounds.isEmpty() || !last(sounds).sound().equals(sound)) {
      sounds.add(new From.OfSound(tick, sound));
    }
  }

  private static <T> T last(List<T> list) {
    return list.get(list.size() - 1);
  }

  private void followSpans(Plan plan, long tick) {
    Map<String, Known> before = new HashMap<>(spans);
    for (Plan.PartPlan part : plan.parts()) {
      for (Span span : part.spans()) {
        Known known = before.remove(span.id());
        if (known == null) {
          heard.goesRound(part.part(), span.id(), span.phase(), span.window().length());
        }
        if (known == null || known.span() != span) {
          spans.put(span.id(), known(part.part(), span, known));
        }
      }
    }
    // what is in the plan no more has gone; or it was called off before it came
    before.forEach(
        (id, known) -> {
          if (known.span().from() > tick && !heard.has(known.part(), id)) {
            spans.remove(id);
          } else if (known.gone() == Ticks.OPEN) {
            spans.put(
                id, new Known(known.part(), known.span(), known.letter(), known.name(), tick));
          }
        });
  }

  private Known known(PartId part, Span span, Known before) {
    Optional<Clip> clip = stage.show().part(part).clip(span.clip());
    String letter =
        clip.map(Clip::letter)
            .or(() -> stage.on(part).first().map(FirstRecording::letter))
            .orElse(before == null ? "" : before.letter());
    String name = clip.map(Clip::name).orElse(before == null ? "" : before.name());
    return new Known(part, span, letter, name, Ticks.OPEN);
  }

  private void followSection(Stage stage, SectionId id) {
    Optional<Section> section =
        stage.show().form().stream().filter(s -> s.id().equals(id)).findFirst();
    section.ifPresent(
        s -> {
          From.OfSection from = new From.OfSection(stage.form().since(), s.letter(), s.name());
          boolean known = sections.stream().anyMatch(other -> other.tick() == from.tick());
          if (!known) {
            sections.add(from);
          }
        });
  }

  /**
   * The run, if the transport stops at an instant.
   *
   * @param micros the instant, in microseconds of server time
   */
  Run stoppedAt(long micros) {
    long until = Math.max(0, map.tickAt(micros));
    Transcript ended = heard.endedAt(until);
    long from = ended.begins(stage.show().meter().barTicks());
    List<RunPart> taken = new ArrayList<>();
    int number = 1;
    for (PartTaking part : parts.values()) {
      List<Passage> passages = passages(ended, part.part.id(), number, until);
      number += passages.size();
      RunPart of = part(ended, part, passages, from, until);
      if (goesOn || !of.isSilent()) {
        taken.add(of);
      }
    }
    return new Run(map(), stage.show().meter(), from, until, taken, sections);
  }

  private RunPart part(
      Transcript ended, PartTaking taking, List<Passage> passages, long from, long until) {
    PartId id = taking.part.id();
    return new RunPart(
        id,
        taking.part.name(),
        taking.part.pennant(),
        taking.sounds.stream()
            .filter(s -> s.tick() <= until)
            .map(s -> new From.OfSound(Math.max(from, s.tick()), s.sound()))
            .toList(),
        taking.balances.stream()
            .map(b -> new From.OfBalance(Math.max(from, b.tick()), b.balance(), b.heard()))
            .toList(),
        passages,
        ended.notes(id, Optional.empty()),
        ended.moves(id, Optional.empty()));
  }

  private List<Passage> passages(Transcript ended, PartId part, int first, long end) {
    List<Map.Entry<String, Known>> those =
        spans.entrySet().stream()
            .filter(entry -> entry.getValue().part().equals(part))
            .filter(entry -> entry.getValue().span().from() < end)
            .filter(
                entry ->
                    entry.getValue().until() > entry.getValue().span().from()
                        || ended.has(part, entry.getKey()))
            .sorted(Comparator.comparingLong(entry -> entry.getValue().span().from()))
            .toList();
    List<Passage> passages = new ArrayList<>();
    for (Map.Entry<String, Known> entry : those) {
      Known known = entry.getValue();
      Span span = known.span();
      Passage bare =
          new Passage(
              first + passages.size(),
              span.clip(),
              known.letter(),
              known.name(),
              span.window(),
              span.phase(),
              span.from(),
              Math.max(span.from(), Math.min(known.until(), end)),
              List.of(),
              List.of());
      passages.add(ended.passage(bare, part, entry.getKey()));
    }
    return passages;
  }

  /** The tempo, as it was from the first to the last, counted from tick 0. */
  private TempoMap map() {
    List<TempoMap.Anchor> all = List.copyOf(anchors.values());
    double zero = new TempoMap(all).microsOf(0);
    return new TempoMap(
        all.stream()
            .map(a -> new TempoMap.Anchor(a.tick(), a.micros() - zero, a.tempo()))
            .toList());
  }
}
