package ancora.core.player;

import ancora.core.note.Controller;
import ancora.core.note.Note;
import ancora.core.plan.PlannedNote;
import ancora.core.plan.Span;
import ancora.core.player.Sounded.Kind;
import ancora.core.show.PartId;
import ancora.core.time.Ticks;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import java.util.function.Predicate;

/**
 * One voice for each part and pitch, held by the loop, by the hand, or by both (rule 16.2). An
 * attack by either attacks it anew, off before on; it ends when neither holds it. The sustain pedal
 * is a voice too, with the greater of loop and foot: what is down is not pressed again.
 */
final class Voices {

  private record Key(PartId part, int pitch) {}

  /**
   * A note that holds a voice.
   *
   * @param span the span that it belongs to
   * @param note its id
   * @param place where it lies in the clip's material: one that is moved meanwhile is another
   * @param attack tick of its attack
   * @param end tick of its end; {@link Ticks#OPEN} for a drone
   */
  record Hold(Span span, long note, long place, long attack, long end) {}

  private record Voice(PartId part, int pitch, Optional<Hold> loop, boolean hand) {}

  private final Map<Key, Voice> sounding = new HashMap<>();
  private final Map<Key, Long> handAttacks = new HashMap<>();
  private final Ear out;

  Voices(Ear out) {
    this.out = out;
  }

  void handDown(long tick, long micros, PartId part, int pitch, int velocity) {
    Optional<Hold> loop = Optional.ofNullable(at(part, pitch)).flatMap(Voice::loop);
    attack(tick, micros, new Voice(part, pitch, loop, true), velocity, Optional.empty());
    handAttacks.put(new Key(part, pitch), micros);
  }

  void handUp(long tick, long micros, PartId part, int pitch) {
    Voice voice = at(part, pitch);
    if (voice != null && voice.hand()) {
      keepOrEnd(tick, micros, new Voice(part, pitch, voice.loop(), false));
    }
  }

  /**
   * A note of a loop is due.
   *
   * @param struck whether the sound dies by itself, as a drum's: then a hand's stroke just before
   *     is the same gesture even though the key is up again
   * @param sameGestureMicros this soon after a hand attack it takes hold without attacking
   */
  void loopDown(
      long tick,
      long micros,
      PartId part,
      PlannedNote note,
      Hold hold,
      boolean struck,
      long sameGestureMicros) {
    Voice voice = at(part, note.pitch());
    Voice held = new Voice(part, note.pitch(), Optional.of(hold), voice != null && voice.hand());
    Long byHand = handAttacks.get(new Key(part, note.pitch()));
    boolean sameGesture = byHand != null && micros - byHand <= sameGestureMicros;
    if (voice != null && (sameGesture || note.tied() || note.pitch() == Note.PEDAL)) {
      put(held);
    } else if (!sameGesture || !struck) {
      attack(tick, micros, held, note.velocity(), Optional.of(hold.span().id()));
    }
  }

  /** Whether a loop's note holds its voice already. */
  boolean isHeldBy(PartId part, int pitch, long noteId) {
    Voice voice = at(part, pitch);
    return voice != null && voice.loop().filter(hold -> hold.note() == noteId).isPresent();
  }

  /** A loop takes hold of a voice that sounds. */
  void takeOver(PartId part, int pitch, Hold hold) {
    Voice voice = at(part, pitch);
    if (voice != null) {
      put(new Voice(part, pitch, Optional.of(hold), voice.hand()));
    }
  }

  /** Lets a loop's hold on each voice of a span go over to another, stay, or go. */
  void pass(long tick, long micros, String span, Function<PlayedHold, Optional<Hold>> next) {
    for (Voice voice : heldByLoops()) {
      Hold hold = voice.loop().orElseThrow();
      if (hold.span().id().equals(span)) {
        Optional<Hold> then = next.apply(new PlayedHold(voice.pitch(), hold));
        Voice passed = new Voice(voice.part(), voice.pitch(), then, voice.hand());
        if (then.isPresent()) {
          put(passed);
        } else {
          keepOrEnd(tick, micros, passed);
        }
      }
    }
  }

  /**
   * A voice that a loop holds.
   *
   * @param pitch its pitch
   * @param hold the note that holds it
   */
  record PlayedHold(int pitch, Hold hold) {}

  boolean isSounding(PartId part, int pitch) {
    return at(part, pitch) != null;
  }

  boolean attackedByHandSince(double micros, PartId part, int pitch) {
    Long byHand = handAttacks.get(new Key(part, pitch));
    return byHand != null && byHand >= micros;
  }

  /** The ticks, up to one, at which holds of loops end, rising. */
  List<Long> endsUpTo(long tick) {
    return sounding.values().stream()
        .flatMap(voice -> voice.loop().stream())
        .map(Hold::end)
        .filter(end -> end <= tick)
        .distinct()
        .sorted()
        .toList();
  }

  /** Lets loops go of voices. */
  void letGo(long tick, long micros, Predicate<Hold> which) {
    for (Voice voice : heldByLoops()) {
      if (which.test(voice.loop().orElseThrow())) {
        keepOrEnd(
            tick, micros, new Voice(voice.part(), voice.pitch(), Optional.empty(), voice.hand()));
      }
    }
  }

  /** Gives holds another end, by span and note; those whose note is gone, or moved, end now. */
  void retime(long tick, long micros, Function<PlayedHold, Optional<Hold>> anew) {
    for (Voice voice : heldByLoops()) {
      Optional<Hold> hold = anew.apply(new PlayedHold(voice.pitch(), voice.loop().orElseThrow()));
      Voice next = new Voice(voice.part(), voice.pitch(), hold, voice.hand());
      if (hold.isPresent()) {
        put(next);
      } else {
        keepOrEnd(tick, micros, next);
      }
    }
  }

  void endAll(long tick, long micros) {
    for (Voice voice : inOrder()) {
      keepOrEnd(tick, micros, new Voice(voice.part(), voice.pitch(), Optional.empty(), false));
    }
  }

  private void attack(long tick, long micros, Voice voice, int velocity, Optional<String> by) {
    boolean sounding = isSounding(voice.part(), voice.pitch());
    if (sounding && voice.pitch() == Note.PEDAL) {
      put(voice);
      return;
    }
    if (sounding) {
      say(tick, micros, voice, Kind.OFF, 0, Optional.empty());
    }
    put(voice);
    say(tick, micros, voice, Kind.ON, velocity, by);
  }

  private void keepOrEnd(long tick, long micros, Voice voice) {
    if (voice.hand() || voice.loop().isPresent()) {
      put(voice);
    } else {
      sounding.remove(new Key(voice.part(), voice.pitch()));
      say(tick, micros, voice, Kind.OFF, 0, Optional.empty());
    }
  }

  private void say(
      long tick, long micros, Voice voice, Kind kind, int velocity, Optional<String> by) {
    boolean pedal = voice.pitch() == Note.PEDAL;
    out.hear(
        new Sounded(
            tick,
            micros,
            voice.part(),
            pedal ? Kind.CONTROL_CHANGE : kind,
            pedal ? Controller.SUSTAIN : voice.pitch(),
            velocity),
        by);
  }

  private List<Voice> heldByLoops() {
    return inOrder().stream().filter(voice -> voice.loop().isPresent()).toList();
  }

  /** Voices by part and pitch, so that the same performance gives the same order. */
  private List<Voice> inOrder() {
    List<Voice> voices = new ArrayList<>(sounding.values());
    voices.sort(
        Comparator.comparingInt((Voice voice) -> voice.part().value())
            .thenComparingInt(Voice::pitch));
    return voices;
  }

  private Voice at(PartId part, int pitch) {
    return sounding.get(new Key(part, pitch));
  }

  private void put(Voice voice) {
    sounding.put(new Key(voice.part(), voice.pitch()), voice);
  }
}
