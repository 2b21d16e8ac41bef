package ancora.core.file;

import ancora.core.Names;
import ancora.core.Refusal;
import ancora.core.show.Section;
import ancora.core.time.Ticks;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * Where a song is cut: on its own bar lines, into stretches of whole bars of the show. Where the
 * song's meter is another than the show's for a while, a piece goes on to a bar line on which that
 * is so; the song is played as it is, though some bar lines of the show lie elsewhere meanwhile.
 */
final class Pieces {

  private static final String SUNG_LINE = "/";

  /** Where a clip begins and ends in the song. */
  record Piece(long from, long until, String name) {
    long length() {
      return until - from;
    }
  }

  private final MidiSong song;
  private final Choice choice;
  private final long bar;

  private Pieces(MidiSong song, Choice choice, long bar) {
    this.song = song;
    this.choice = choice;
    this.bar = bar;
  }

  /**
   * Cuts a song.
   *
   * @param bar ticks of a bar of the show
   */
  static List<Piece> of(MidiSong song, Choice choice, long bar) {
    return new Pieces(song, choice, bar).cut();
  }

  private List<Piece> cut() {
    List<Piece> all = new ArrayList<>();
    long end = song.end();
    for (long from = 0; from < end; ) {
      Refusal.unless(
          all.size() < Section.MOST,
          "That would be more than %s sections: cut it into longer clips.",
          Section.MOST);
      long until = until(from, end);
      all.add(new Piece(from, until, name(from, Math.min(until, end))));
      from = until;
    }
    return all;
  }

  private long until(long from, long end) {
    long wanted = choice.cut() > 0 ? after(from, choice.cut()) : marker(from, end);
    long longest = from + Choice.MOST_BARS * bar;
    for (long line = wanted; line <= longest; line = song.bars().lineAfter(line)) {
      if (line >= end) {
        return from + Ticks.ceil(end - from, bar);
      }
      if ((line - from) % bar == 0) {
        return line;
      }
    }
    return Math.min(longest, from + Ticks.ceil(end - from, bar));
  }

  /** The bar line some bars after one. */
  private long after(long line, int bars) {
    long next = line;
    for (int i = 0; i < bars; i++) {
      next = song.bars().lineAfter(next);
    }
    return next;
  }

  /** The bar line nearest to the next marker. */
  private long marker(long from, long end) {
    return song.markers().stream()
        .mapToLong(marker -> song.bars().nearest(marker.tick()))
        .filter(line -> line > from)
        .findFirst()
        .orElse(end);
  }

  private String name(long from, long until) {
    return sung(from, until)
        .filter(words -> choice.words())
        .or(() -> choice.cut() > 0 ? Optional.empty() : markerBy(from))
        .orElseGet(() -> bars(from, until));
  }

  private String bars(long from, long until) {
    int first = song.bars().barAt(from);
    int last = song.bars().barAt(until - 1);
    return first == last ? "bar " + first : "bars " + first + "–" + last;
  }

  /** The last marker at the beginning of a piece, or before it. */
  private Optional<String> markerBy(long from) {
    return song.markers().stream()
        .filter(marker -> song.bars().nearest(marker.tick()) <= from)
        .reduce((a, b) -> b)
        .map(MidiSong.Marker::name);
  }

  /** The first line that is sung in a piece. */
  private Optional<String> sung(long from, long until) {
    StringBuilder line = new StringBuilder();
    for (MidiSong.Marker word : song.words()) {
      boolean here = word.tick() >= from && word.tick() < until && !word.name().startsWith("@");
      if (here && word.name().startsWith(SUNG_LINE) && !line.toString().isBlank()) {
        break;
      }
      if (here) {
        line.append(word.name().replace(SUNG_LINE, " "));
      }
      if (here && word.name().endsWith(SUNG_LINE) && !line.toString().isBlank()) {
        break;
      }
    }
    String words =
        Names.cut(line.toString().strip().replaceAll("\\s+", " "), Names.LONGEST).strip();
    return Optional.of(words).filter(w -> !w.isEmpty());
  }
}
