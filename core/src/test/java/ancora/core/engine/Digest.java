package ancora.core.engine;

import ancora.core.replay.Replay;
import ancora.core.show.Show;
import ancora.core.sound.Sound;
import ancora.core.stage.Stage;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;
import java.util.Random;

/**
 * Random performances, and for each a digest of the stage on the way, of the plan, and of all that
 * sounded: for comparing runs of the JVM.
 */
public final class Digest {

  private static final int COMMANDS = 120;
  private static final int EVERY = 10;

  private Digest() {}

  /**
   * @param arguments how many performances
   */
  public static void main(String[] arguments) {
    for (int seed = 1; seed <= Integer.parseInt(arguments[0]); seed++) {
      System.out.println(seed + " " + of(seed));
    }
  }

  private static String of(long seed) {
    Random random = new Random(seed);
    Show show =
        Show.named("random")
            .withNewPart("Kit", Sound.STANDARD_KIT)
            .withNewPart("Bass", Sound.of(33))
            .withNewPart("Keys", Sound.of(4));
    Replay replay = Replay.of(Stage.of(show));
    MessageDigest digest = sha256();
    long now = 5_000_000;
    for (int i = 0; i < COMMANDS; i++) {
      now += random.nextInt(600_000);
      long late = random.nextInt(4) == 0 ? random.nextInt(60_000) : 0;
      Wish wish = new Wish(random.nextInt(Wish.KINDS), random.nextInt(20), random.nextInt(16_384));
      replay.advance(now);
      replay.apply(wish.on(replay.stage()), now - late, now);
      if (i % EVERY == 0) {
        add(digest, replay.stage());
        add(digest, Engine.of(replay.stage()).plan());
      }
    }
    add(digest, replay.stage());
    add(digest, replay.sounded());
    return HexFormat.of().formatHex(digest.digest());
  }

  /** What it is in words, in whatever order it is held. */
  private static void add(MessageDigest digest, Object held) {
    digest.update(held.toString().getBytes(StandardCharsets.UTF_8));
  }

  private static MessageDigest sha256() {
    try {
      return MessageDigest.getInstance("SHA-256");
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException("Every JDK has SHA-256.", e);
    }
  }
}
