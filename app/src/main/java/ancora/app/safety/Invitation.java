package ancora.app.safety;

import java.io.PrintStream;
import java.nio.charset.Charset;
import java.util.List;
import java.util.Optional;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;

/** How others in the room come in: said where Ancora was started, and on its list of shows. */
@Component
public class Invitation {

  private final Room room;

  Invitation(Room room) {
    this.room = room;
  }

  /**
   * What is said.
   *
   * @param address where others come in
   * @param others where they come in if that does not do
   * @param code the address for a camera
   * @param perform the pass phrase of who plays
   * @param watch the pass phrase of who watches
   * @param fingerprint of the certificate; empty without one
   */
  public record Card(
      String address,
      List<String> others,
      QrCode code,
      String perform,
      String watch,
      String fingerprint) {

    /** So many modules wide and high is its code. */
    public int size() {
      return code.size();
    }

    /** The dark squares of its code, for an SVG path. */
    public String path() {
      return code.path();
    }
  }

  /** Whether others are let in. */
  public boolean isOpen() {
    return room.isOpen();
  }

  /** The port at which they come in. */
  public int port() {
    return room.port();
  }

  /** How they come in; empty where this machine is on no network. */
  public Optional<Card> card() {
    List<String> all = room.isOpen() ? room.addresses() : List.of();
    return all.stream()
        .findFirst()
        .map(
            address ->
                new Card(
                    address,
                    all.subList(1, all.size()),
                    QrCode.of(address),
                    room.phrases().perform(),
                    room.phrases().watch(),
                    room.certificate().map(Certificate::fingerprint).orElse("")));
  }

  @Order(2)
  @EventListener(ApplicationReadyEvent.class)
  void say() {
    if (room.isOpen()) {
      say(System.out);
    }
  }

  private void say(PrintStream out) {
    Optional<Card> card = card();
    if (card.isEmpty()) {
      out.println("Nobody else can come in: this machine is on no network.");
      return;
    }
    out.println();
    out.println("Others in the room come in at " + card.get().address());
    card.get().others().forEach(other -> out.println("  or at " + other));
    out.println("  to play:  " + card.get().perform());
    out.println("  to watch: " + card.get().watch());
    if (!card.get().fingerprint().isEmpty()) {
      out.println("A browser asks once whether to trust this certificate (SHA-256):");
      out.println("  " + card.get().fingerprint());
    }
    if (Charset.defaultCharset().newEncoder().canEncode('█')) {
      out.println(card.get().code().inLetters());
    }
  }
}
