package ancora.app.store;

import ancora.app.start.Given;
import ancora.core.Refusal;
import java.io.IOException;
import java.io.PrintStream;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.List;
import java.util.Set;

/** {@code ./ancora doctor}: looks at all that a start needs, says what it found, and what to do. */
public final class DoctorCommand {

  private static final String USAGE = "usage: ./ancora doctor [--data=FOLDER] [--port=N]";
  private static final String USUAL_PORT = "8111";
  private static final int OLDEST_JAVA = 17;
  private static final long LEAST_MEMORY = 200L << 20;
  private static final int ILL = 1;
  private static final int BAD_INPUT = 2;

  /** No shows were kept before, in milliseconds: 2020. */
  private static final long OLDEST_CLOCK = 1_577_836_800_000L;

  private final PrintStream out;
  private boolean ill;

  private DoctorCommand(PrintStream out) {
    this.out = out;
  }

  public static void main(String[] arguments) {
    System.exit(run(List.of(arguments), System.out, System.err));
  }

  /**
   * Runs the command.
   *
   * @return the exit code: 0, or 1 if something is wrong, or 2 if the words are
   */
  static int run(List<String> arguments, PrintStream out, PrintStream err) {
    Path data;
    int port;
    try {
      Given given = Given.of(arguments, USAGE, Set.of("port"));
      String named = given.value("port").orElse(USUAL_PORT);
      Refusal.unless(given.words().isEmpty() && named.matches("\\d{1,5}"), USAGE);
      data = given.data();
      port = Integer.parseInt(named);
    } catch (Refusal refusal) {
      err.println(refusal.getMessage());
      return BAD_INPUT;
    }
    DoctorCommand doctor = new DoctorCommand(out);
    doctor.machine(port);
    doctor.folder(data);
    out.println(doctor.ill ? "Something is wrong: see above." : "All is well.");
    return doctor.ill ? ILL : 0;
  }

  private void machine(int port) {
    int version = Runtime.version().feature();
    say(version >= OLDEST_JAVA, "Java " + version, "install a JDK of 17 or later");
    long memory = Runtime.getRuntime().maxMemory();
    say(
        memory >= LEAST_MEMORY,
        "memory for Ancora: " + (memory >> 20) + " MB",
        "end other programs, or start it with more (-Xmx256m)");
    say(
        System.currentTimeMillis() > OLDEST_CLOCK,
        "the clock of this machine: " + LocalDate.now(),
        "set it");
    boolean free = isFree(port);
    say(
        true,
        "port " + port + (free ? " is free" : " is in use, by Ancora or another program"),
        "");
  }

  private static boolean isFree(int port) {
    try (ServerSocket socket = new ServerSocket(port, 1, InetAddress.getLoopbackAddress())) {
      return socket.isBound();
    } catch (IOException taken) {
      return false;
    }
  }

  private void folder(Path data) {
    if (!Files.exists(data)) {
      say(true, "the folder " + data + " is not there yet: it is made at the first start", "");
      return;
    }
    say(
        Files.isDirectory(data) && Files.isWritable(data),
        "the folder " + data + " can be written",
        "change its permissions, or choose another (--data=FOLDER)");
    DiskRoom room = new DiskRoom(data);
    say(
        room.isEnough(),
        "room on the disk: " + (room.left() >> 20) + " MB",
        "free some: under " + (DiskRoom.LEAST >> 20) + " MB only journals are written");
    database(new DatabaseFile(data), data);
    journals(data);
  }

  private void database(DatabaseFile file, Path data) {
    if (!Files.exists(data.resolve("ancora.mv.db"))) {
      say(true, "no database yet", "");
      return;
    }
    try {
      boolean opens = file.opens(Database.url(data), Database.USER, Database.NEWEST);
      say(opens, "the database opens", "start Ancora: it puts it aside and takes the newest copy");
    } catch (Refusal refusal) {
      say(true, "the database: " + refusal.getMessage(), "");
    }
    int copies = file.copies().size();
    say(true, copies + (copies == 1 ? " copy of it" : " copies of it"), "");
  }

  private void journals(Path data) {
    Journals journals = new Journals(data);
    long[] lines = {0};
    long damaged = 0;
    for (long show : journals.shows()) {
      damaged += journals.damaged(show);
      journals.after(show, 0, row -> lines[0]++);
    }
    say(
        damaged == 0,
        "journals of %s shows, %s lines, %s of them damaged"
            .formatted(journals.shows().size(), lines[0], damaged),
        "nothing can be done for damaged lines: the others are played all the same; look at the disk");
  }

  private void say(boolean well, String found, String todo) {
    out.println((well ? "well   " : "WRONG  ") + found + (well ? "" : ": " + todo));
    ill |= !well;
  }
}
