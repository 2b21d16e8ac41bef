package ancora.core.file;

import ancora.core.Names;
import ancora.core.Refusal;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.CharBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.zip.GZIPInputStream;

/**
 * Reads a Standard MIDI File (Standard MIDI Files 1.0), of type 0 or 1, within bounds; what is not
 * one is refused in a sentence. The JDK's own reader loses a track that is cut off, and misreads
 * what follows a system exclusive message, without a word.
 */
final class MidiReader {

  /** No file is read that is longer, in bytes. */
  static final int MOST_BYTES = 4 << 20;

  static final int MOST_TRACKS = 64;
  static final int MOST_EVENTS = 100_000;

  private static final String TOO_LARGE = "That file is larger than 4 MB: send a part of it.";

  /** "RIFF", "RMID" and "data", read with the lowest byte first. */
  private static final int RIFF = 0x46464952;

  private static final int RMID = 0x44494d52;
  private static final int DATA = 0x61746164;

  private static final int HEADER = 0x4d546864;
  private static final int TRACK = 0x4d54726b;
  private static final int HEADER_LENGTH = 6;
  private static final int META = 0xff;
  private static final int SYSEX = 0xf0;
  private static final int SYSEX_GOES_ON = 0xf7;
  private static final int END_OF_TRACK = 0x2f;

  /**
   * Something in a track.
   *
   * @param tick in the file's own division
   * @param status of a channel message with its channel, 0x80 to 0xef; 0xff for a meta event
   * @param data1 the first data byte; of a meta event its type
   * @param data2 the second data byte, or 0
   * @param meta what a meta event holds; else empty
   */
  record Event(long tick, int status, int data1, int data2, byte[] meta) {
    boolean isMeta() {
      return status == META;
    }

    int command() {
      return status & 0xf0;
    }

    int channel() {
      return status & 0x0f;
    }
  }

  /**
   * What a file holds.
   *
   * @param ticksAQuarter its division; 0 where it counts frames
   * @param ticksASecond where it counts frames; else 0
   * @param tracks the events of each, by rising tick
   * @param exclusive how many system exclusive messages were passed over
   */
  record Read(int ticksAQuarter, double ticksASecond, List<List<Event>> tracks, int exclusive) {}

  private final ByteBuffer in;
  private int events;
  private int exclusive;

  private MidiReader(byte[] bytes) {
    in = ByteBuffer.wrap(bytes);
  }

  /** Reads a file. */
  static Read read(byte[] bytes) {
    byte[] plain = isPacked(bytes) ? unpacked(bytes) : bytes;
    Refusal.unless(plain.length <= MOST_BYTES, TOO_LARGE);
    return new MidiReader(unwrapped(plain)).file();
  }

  /** Of gzip (RFC 1952): its first two bytes. */
  private static boolean isPacked(byte[] bytes) {
    return bytes.length > 2 && bytes[0] == 0x1f && bytes[1] == (byte) 0x8b;
  }

  private static byte[] unpacked(byte[] bytes) {
    try (InputStream in = new GZIPInputStream(new ByteArrayInputStream(bytes))) {
      return in.readNBytes(MOST_BYTES + 1);
    } catch (IOException broken) {
      throw new Refusal("That packed file is broken: send it again.");
    }
  }

  /** A file in RIFF, of form RMID (RP-29, from memory): the MIDI file is its chunk "data". */
  private static byte[] unwrapped(byte[] bytes) {
    ByteBuffer in = ByteBuffer.wrap(bytes).order(ByteOrder.LITTLE_ENDIAN);
    if (bytes.length < 12 || in.getInt(0) != RIFF || in.getInt(8) != RMID) {
      return bytes;
    }
    in.position(12);
    while (in.remaining() >= 8) {
      int kind = in.getInt();
      long length = in.getInt() & 0xffffffffL;
      if (kind == DATA || length > in.remaining()) {
        int there = (int) Math.min(length, in.remaining());
        return Arrays.copyOfRange(bytes, in.position(), in.position() + there);
      }
      // chunks begin on even bytes
      in.position((int) Math.min(bytes.length, in.position() + length + length % 2));
    }
    return new byte[0];
  }

  private Read file() {
    Refusal.unless(
        in.remaining() >= 14 && in.getInt() == HEADER,
        "That is no MIDI file: choose one that ends in .mid.");
    long length = in.getInt() & 0xffffffffL;
    Refusal.unless(
        length >= HEADER_LENGTH && length <= in.remaining(),
        "That MIDI file is broken at its beginning: save it anew.");
    int type = in.getShort() & 0xffff;
    int tracks = in.getShort() & 0xffff;
    int division = in.getShort();
    in.position(in.position() + (int) length - HEADER_LENGTH);
    Refusal.unless(
        type <= 1,
        "That MIDI file is of type %s: save it as type 0 or 1, with one song in it.",
        type);
    Refusal.unless(tracks >= 1, "That MIDI file has no tracks: nothing is in it.");
    Refusal.unless(
        tracks <= MOST_TRACKS,
        "That MIDI file has %s tracks: %s are the most.",
        tracks,
        MOST_TRACKS);
    List<List<Event>> read = new ArrayList<>();
    while (read.size() < tracks) {
      read.add(track(read.size() + 1));
    }
    int ticksAQuarter = Math.max(0, division);
    double ticksASecond = division < 0 ? framesASecond(-(division >> 8)) * (division & 0xff) : 0;
    Refusal.unless(
        ticksAQuarter > 0 || ticksASecond > 0,
        "That MIDI file counts no ticks to the quarter note: save it anew.");
    return new Read(ticksAQuarter, ticksASecond, read, exclusive);
  }

  /** SMPTE: 29 stands for 30 frames a second, drop frame. */
  private static double framesASecond(int named) {
    return switch (named) {
      case 24, 25, 30 -> named;
      case 29 -> 30_000 / 1001.0;
      default -> 0;
    };
  }

  /** The next track; chunks of other kinds are passed over, as the standard asks. */
  private List<Event> track(int number) {
    while (true) {
      Refusal.unless(in.remaining() >= 8, cutOff(number));
      int kind = in.getInt();
      long length = in.getInt() & 0xffffffffL;
      Refusal.unless(length <= in.remaining(), cutOff(number));
      int end = in.position() + (int) length;
      if (kind == TRACK) {
        List<Event> track = events(number, end);
        in.position(end);
        return track;
      }
      in.position(end);
    }
  }

  private static String cutOff(int track) {
    return "That MIDI file is cut off in track " + track + ": save it, or send it, again.";
  }

  private List<Event> events(int number, int end) {
    List<Event> track = new ArrayList<>();
    long tick = 0;
    int running = 0;
    while (in.position() < end) {
      tick += variable(number, end);
      int status = next(number, end);
      if (status == META) {
        int kind = next(number, end);
        byte[] meta = bytes(number, end);
        if (kind == END_OF_TRACK) {
          track.add(counted(new Event(tick, META, kind, 0, meta)));
          return track;
        }
        track.add(counted(new Event(tick, META, kind, 0, meta)));
      } else if (status == SYSEX || status == SYSEX_GOES_ON) {
        bytes(number, end);
        exclusive++;
      } else {
        // after what is no channel message the status should be said again; many files do not
        boolean said = status >= 0x80;
        running = said ? status : running;
        Refusal.unless(running >= 0x80 && running < SYSEX, broken(number));
        int data1 = said ? data(number, end) : status;
        int command = running & 0xf0;
        int data2 = command == 0xc0 || command == 0xd0 ? 0 : data(number, end);
        track.add(counted(new Event(tick, running, data1, data2, new byte[0])));
      }
    }
    return track;
  }

  private Event counted(Event event) {
    Refusal.unless(
        ++events <= MOST_EVENTS,
        "That MIDI file has more than %s events: send a part of it.",
        MOST_EVENTS);
    return event;
  }

  private static String broken(int track) {
    return "That MIDI file is broken in track " + track + ": save it anew.";
  }

  private int next(int number, int end) {
    Refusal.unless(in.position() < end, broken(number));
    return in.get() & 0xff;
  }

  private int data(int number, int end) {
    int data = next(number, end);
    Refusal.unless(data < 0x80, broken(number));
    return data;
  }

  /** A variable-length quantity: seven bits a byte, four bytes at most. */
  private int variable(int number, int end) {
    int value = 0;
    for (int i = 0; i < 4; i++) {
      int next = next(number, end);
      value = value << 7 | next & 0x7f;
      if (next < 0x80) {
        return value;
      }
    }
    throw new Refusal(broken(number));
  }

  private byte[] bytes(int number, int end) {
    int length = variable(number, end);
    Refusal.unless(length <= end - in.position(), broken(number));
    byte[] bytes = new byte[length];
    in.get(bytes);
    return bytes;
  }

  /** Text in UTF-8, as most write it today, or in Latin-1, as many did. */
  private static String decoded(byte[] bytes) {
    try {
      CharBuffer decoded = StandardCharsets.UTF_8.newDecoder().decode(ByteBuffer.wrap(bytes));
      return decoded.toString();
    } catch (CharacterCodingException other) {
      return new String(bytes, StandardCharsets.ISO_8859_1);
    }
  }

  /** Words as they are sung, with their spaces; a line that begins, or ends, is a slash. */
  static String written(byte[] bytes) {
    return decoded(bytes).replaceAll("[\\r\\n\\\\]", "/").replaceAll("\\p{Cntrl}", "");
  }

  /** A name, without control characters. */
  static String text(byte[] bytes) {
    StringBuilder plain = new StringBuilder();
    decoded(bytes)
        .codePoints()
        .filter(c -> !Character.isISOControl(c))
        .limit(Names.LONGEST)
        .forEach(plain::appendCodePoint);
    String name = plain.toString().strip();
    return name.length() <= Names.LONGEST ? name : name.substring(0, Names.LONGEST / 2).strip();
  }
}
