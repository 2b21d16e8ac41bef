package ancora.app.demo;

import ancora.app.options.Options;
import ancora.app.store.RunStore;
import ancora.app.store.ShowStore;
import ancora.app.time.HouseClock;
import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.clip.Take;
import ancora.core.replay.PerformedConcert;
import ancora.core.run.RunHistory;
import ancora.core.show.Balance;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.Section;
import ancora.core.show.SectionId;
import ancora.core.show.Show;
import ancora.core.sound.Sound;
import ancora.core.time.Meter;
import ancora.core.time.Tempo;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.beans.factory.InitializingBean;
import org.springframework.stereotype.Component;

/** The demo shows: a solo performer's night at a lighthouse, in two pieces. */
@Component
class LighthouseNight implements InitializingBean {

  private static final PartId KIT = new PartId(1);
  private static final PartId BASS = new PartId(2);
  private static final PartId KEYS = new PartId(3);
  private static final PartId CHOIR = new PartId(4);
  private static final PartId BELLS = new PartId(5);

  private static final int KICK = 36;
  private static final int RIM = 37;
  private static final int SNARE = 38;
  private static final int CLOSED_HAT = 42;
  private static final int OPEN_HAT = 46;
  private static final int RIDE = 51;

  private final ShowStore store;
  private final RunStore runs;
  private final HouseClock clock;
  private final boolean wanted;

  LighthouseNight(ShowStore store, RunStore runs, HouseClock clock, Options options) {
    this.store = store;
    this.runs = runs;
    this.clock = clock;
    this.wanted = options.demo();
  }

  /** Done before the doors open, so that the first visitor finds it. */
  @Override
  public void afterPropertiesSet() {
    if (wanted && !store.hasDemo()) {
      Show song = lanternSong();
      long id = store.add(song, true);
      runs.add(id, 1, clock.micros(), "", RunHistory.of(PerformedConcert.of(song)));
      store.add(swell(), true);
    }
  }

  /** The first piece: in 4/4 at 96, five parts and four sections. */
  static Show lanternSong() {
    List<Part> parts =
        List.of(
            part(KIT, "Kit", Sound.kit(8), balance(-3, 0, 0, 18), kit()),
            part(BASS, "Bass", Sound.of(33), balance(-2, 0, 0, 6), bass()),
            part(KEYS, "Keys", Sound.of(4), balance(-6, -22, 14, 22), keys()),
            part(CHOIR, "Choir", Sound.of(52), balance(-11, 18, 0, 45), choir()),
            part(BELLS, "Bells", Sound.of(14), balance(-8, 34, 32, 30), bells()));
    return Show.named("Lighthouse Night")
        .withTempo(Tempo.of(96))
        .withParts(parts)
        .withForm(
            List.of(
                section(61, "A", "Quay", line(KIT, 13, BASS, 0, KEYS, 31, CHOIR, 0, BELLS, 0)),
                section(62, "B", "Lamp", line(KIT, 11, BASS, 21, KEYS, 31, CHOIR, 0, BELLS, 51)),
                section(63, "C", "Squall", line(KIT, 12, BASS, 22, KEYS, 32, CHOIR, 41, BELLS, 0)),
                section(64, "D", "Lull", line(KIT, 13, BASS, 0, KEYS, 31, CHOIR, 41, BELLS, 51))))
        .withNextId(10_000);
  }

  /** The second piece: in 7/8. */
  static Show swell() {
    Clip kit =
        new Phrase(1000)
            .hits(KICK, 104, 0, 3.5, 5)
            .hits(RIM, 84, 1, 2, 4.5, 5.5)
            .layer()
            .hits(RIDE, 66, 0, 0.5, 1, 1.5, 2, 2.5, 3, 3.5, 4, 4.5, 5, 5.5, 6, 6.5)
            .clip(11, "a", "seven", 7);
    Clip bass =
        new Phrase(1100)
            .notes(98, "E2 0 0.9, E2 1 0.4, B2 2 0.9, D3 3 0.4, G2 3.5 0.9, G2 4.5 0.4, A2 5.5 1.4")
            .clip(21, "a", "", 7);
    Clip keys = new Phrase(1200).notes(70, "E4+G4+B4 0 3.5, D4+G4+B4 3.5 3.4").clip(31, "a", "", 7);
    return Show.named("Lighthouse Night: Swell")
        .withTempo(Tempo.of(132))
        .withMeter(Meter.of(7, 8))
        .withParts(
            List.of(
                part(KIT, "Kit", Sound.kit(0), balance(-3, 0, 0, 15), List.of(kit)),
                part(BASS, "Bass", Sound.of(32), balance(-2, 0, 0, 6), List.of(bass)),
                part(KEYS, "Organ", Sound.of(16), balance(-10, 20, 20, 25), List.of(keys))))
        .withForm(
            List.of(
                section(61, "A", "Rocks", line(KIT, 11, BASS, 0, KEYS, 0)),
                section(62, "B", "Swell", line(KIT, 11, BASS, 21, KEYS, 31))))
        .withNextId(10_000);
  }

  private static List<Clip> kit() {
    return List.of(
        new Phrase(1000)
            .hits(KICK, 108, 0, 1.75, 4, 4.75, 6)
            .hits(SNARE, 100, 1, 3, 5, 7)
            .hits(RIM, 60, 7.75)
            .layer()
            .hits(CLOSED_HAT, 84, 0, 1, 2, 3, 4, 5, 6, 7)
            .hits(CLOSED_HAT, 62, 0.5, 1.5, 2.5, 3.5, 4.5, 5.5, 6.5)
            .hits(OPEN_HAT, 78, 7.5)
            .clip(11, "a", "lantern beat", 8),
        new Phrase(1100)
            .hits(KICK, 112, 0, 0.5, 1.75, 2.5, 4, 4.5, 5.75, 6.25, 6.75)
            .hits(SNARE, 108, 1, 3, 5, 7, 7.5, 7.75)
            .layer()
            .hits(RIDE, 80, 0, 0.5, 1, 1.5, 2, 2.5, 3, 3.5, 4, 4.5, 5, 5.5, 6, 6.5, 7)
            .hits(49, 92, 0)
            .clip(12, "b", "squall", 8),
        new Phrase(1200).hits(KICK, 84, 0, 4).hits(RIM, 66, 2, 6, 7.5).clip(13, "c", "lull", 8));
  }

  private static List<Clip> bass() {
    return List.of(
        new Phrase(2000)
            .notes(
                100,
                "D2 0 1.4, D2 1.75 0.4, A2 2.5 0.9, Bb1 4 1.4, Bb1 5.75 0.4, F2 6.5 0.9,"
                    + "F2 8 1.4, F2 9.75 0.4, C3 10.5 0.9, C2 12 1.4, C2 13.75 0.4, E2 14.5 1.3")
            .clip(21, "a", "keel line", 16),
        new Phrase(2100)
            .notes(
                106,
                "D2 0 0.4, D2 0.5 0.4, D2 1 0.4, F2 1.5 0.4, D2 2 0.4, D2 2.5 0.4, A2 3 0.4, C3 3.5 0.4,"
                    + "Bb1 4 0.4, Bb1 4.5 0.4, Bb1 5 0.4, D2 5.5 0.4, F2 6 0.4, F2 6.5 0.4, E2 7 0.4, C2 7.5 0.4")
            .clip(22, "b", "driving", 8));
  }

  private static List<Clip> keys() {
    return List.of(
        new Phrase(3000)
            .notes(78, "D4+F4+A4 0 3.9, D4+F4+Bb4 4 3.9, C4+F4+A4 8 3.9, C4+E4+G4 12 5.5")
            .clip(31, "a", "long chords", 16),
        new Phrase(3100)
            .notes(
                84,
                "D4 0 0.9, F4 0.75 0.9, A4 1.5 0.9, D5 2.25 0.9, A4 3 0.7, F4 3.5 0.4,"
                    + "D4 4 0.9, F4 4.75 0.9, Bb4 5.5 0.9, D5 6.25 0.9, Bb4 7 0.7, E4 7.5 0.9")
            .pedal(0, 3.9)
            .pedal(4, 3.4)
            .clip(32, "b", "broken chords", 8));
  }

  /** A chord as long as the loop, and one that rings over the line. */
  private static List<Clip> choir() {
    return List.of(
        new Phrase(4000)
            .notes(74, "A3+D4 0 16.5, F4 0 7.9, E4 8 7.9")
            .layer()
            .notes(70, "A4 14 3")
            .clip(41, "a", "light", 16));
  }

  /** Three takes of one melody. */
  private static List<Clip> bells() {
    Clip far =
        new Phrase(5000)
            .notes(
                88, "A5 0 1, F5 1.5 1, D5 3 1, E5 5 1, F5 6 2, C5 8 1, F5 9.5 1, A5 11 1, G5 13 3")
            .clip(51, "a", "far bells", 16);
    Take answering =
        new Phrase(5100)
            .notes(84, "D5 0 1, F5 1 1, A5 2 2, G5 6 1, F5 7 1, E5 9 2, G5 12 1, A5 13 1, C6 14 2")
            .take(2, "answering");
    Take low =
        new Phrase(5200).notes(76, "D5 0 3, C5 4 3, A4 8 3, C5 12 1.5, E5 13.5 2").take(3, "low");
    return List.of(far.with(answering).with(low).withHeard(1));
  }

  private static Part part(PartId id, String name, Sound sound, Balance balance, List<Clip> shelf) {
    return Part.of(id, name, sound).withBalance(balance).withShelf(shelf);
  }

  private static Balance balance(double level, int pan, int echo, int room) {
    return Balance.placed(level, pan, echo, room);
  }

  private static Section section(
      int id, String letter, String name, Map<PartId, Optional<ClipId>> lineUp) {
    return new Section(new SectionId(id), letter, name, lineUp, false, Optional.empty());
  }

  /** Parts and the numbers of their clips; 0 for tacet. */
  private static Map<PartId, Optional<ClipId>> line(Object... partsAndClips) {
    Map<PartId, Optional<ClipId>> line = new java.util.HashMap<>();
    for (int i = 0; i < partsAndClips.length; i += 2) {
      int clip = (int) partsAndClips[i + 1];
      line.put(
          (PartId) partsAndClips[i], clip == 0 ? Optional.empty() : Optional.of(new ClipId(clip)));
    }
    return line;
  }
}
