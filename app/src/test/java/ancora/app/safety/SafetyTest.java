package ancora.app.safety;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ancora.app.options.Options;
import ancora.core.Refusal;
import com.google.zxing.BinaryBitmap;
import com.google.zxing.RGBLuminanceSource;
import com.google.zxing.common.GlobalHistogramBinarizer;
import com.google.zxing.qrcode.QRCodeReader;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.SecureRandom;
import java.time.Duration;
import java.util.HashSet;
import java.util.List;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class SafetyTest {

  @TempDir Path folder;

  private Options options(String listen, boolean plain, String names) {
    return new Options(folder, 8111, listen, plain, names, Duration.ofDays(1), false, false, false);
  }

  @ParameterizedTest
  @ValueSource(strings = {"8111", "70000", "-1", "999999999999", "tablet"})
  void aPortThatIsNoneIsRefused(String listen) {
    assertThatThrownBy(() -> options(listen, false, ""))
        .isInstanceOf(Refusal.class)
        .hasMessageStartingWith("'" + listen + "' is not a port to listen on: ");
  }

  @Test
  void nobodyIsLetInUnlessItIsSaid() {
    assertThat(options("", false, "").listenPort()).isEmpty();
    assertThat(options("8112", false, " lamp.house , foh").names())
        .containsExactly("lamp.house", "foh");
    assertThatThrownBy(() -> options("", true, "")).hasMessageContaining("add --listen");
  }

  @Test
  void phrasesAreFourWordsOfManyAndKept() throws IOException {
    List<String> words = PassPhrases.words();
    assertThat(new HashSet<>(words)).hasSize(256);
    assertThat(words).allMatch(word -> word.matches("[a-z]{3,8}"));
    PassPhrases first = PassPhrases.of(folder);
    assertThat(List.of(first.perform().split(" "))).hasSize(4).isSubsetOf(words);
    assertThat(PassPhrases.of(folder)).isEqualTo(first);
    assertThat(Files.getPosixFilePermissions(folder.resolve(PassPhrases.FILE))).hasSize(2);
    assertThat(PassPhrases.drawn(new SecureRandom())).isNotEqualTo(first);
  }

  @Test
  void aPhraseMayBeTypedAsAPhoneTypesIt() {
    PassPhrases phrases = new PassPhrases("lantern oar mist bell", "gull rope tide fog");
    assertThat(phrases.role(" Lantern  oar-mist\tBELL ")).contains(Role.PERFORM);
    assertThat(phrases.role("gull rope tide fog")).contains(Role.WATCH);
    for (String wrong :
        List.of("", "lantern oar mist", "lantern oar mist bell bell", "lanternoarmistbell")) {
      assertThat(phrases.role(wrong)).isEmpty();
    }
  }

  @ParameterizedTest
  @ValueSource(
      strings = {"", "perform: one two three four", "perform: a b c d\nwatch: a b c d", "watch: x"})
  void phrasesThatCannotBeReadAreSaid(String text) throws IOException {
    Files.writeString(folder.resolve(PassPhrases.FILE), text);
    assertThatThrownBy(() -> PassPhrases.of(folder))
        .isInstanceOf(Refusal.class)
        .hasMessageContaining("delete that file");
  }

  @Test
  void fiveWrongTriesCostTheirAddressAMinuteAndTwentyEverybody() {
    long[] now = {0};
    Tries tries = new Tries(() -> now[0]);
    for (int i = 1; i < Tries.FROM_ONE; i++) {
      assertThat(tries.wrong("a")).isFalse();
    }
    assertThat(tries.secondsLeft("a")).isZero();
    assertThat(tries.wrong("a")).isTrue();
    assertThat(tries.secondsLeft("a")).isEqualTo(60);
    assertThat(tries.secondsLeft("b")).isZero();
    now[0] = TimeUnit.SECONDS.toNanos(59) + 1;
    assertThat(tries.secondsLeft("a")).isEqualTo(1);
    now[0] = TimeUnit.SECONDS.toNanos(60);
    assertThat(tries.secondsLeft("a")).isZero();
    // after its minute it has five again
    assertThat(tries.wrong("a")).isFalse();
    // whoever has many addresses gets no further
    long wrong = 1;
    for (int address = 0; tries.secondsLeft("z") == 0; address++) {
      tries.wrong("many " + address);
      wrong++;
    }
    assertThat(wrong).isEqualTo(Tries.FROM_ALL);
    assertThat(tries.secondsLeft("z")).isEqualTo(60);
  }

  @Test
  void whoIsRightHasFiveTriesAgain() {
    Tries tries = new Tries(() -> 0);
    for (int i = 0; i < 4; i++) {
      tries.wrong("a");
    }
    tries.right("a");
    assertThat(tries.wrong("a")).isFalse();
    assertThat(tries.secondsLeft("a")).isZero();
  }

  @Test
  void aCertificateIsKeptAndMadeAnewInAnotherHall() {
    Addresses home = new Addresses(List.of("192.0.2.7"), "lamp");
    Certificate first = Certificate.of(folder, home);
    assertThat(Certificate.of(folder, home)).isEqualTo(first);
    Addresses hall = new Addresses(List.of("198.51.100.9", "2001:db8:0:0:0:0:0:5"), "lamp");
    Certificate other = Certificate.of(folder, hall);
    assertThat(other).isNotEqualTo(first);
    // it is good in both, so that going home makes no other
    assertThat(Certificate.of(folder, home)).isEqualTo(other);
    assertThat(Certificate.of(folder, hall)).isEqualTo(other);
  }

  @Test
  void aBrokenCertificateIsMadeAnew() throws IOException {
    Files.writeString(folder.resolve(Certificate.FILE), "none");
    Certificate made = Certificate.of(folder, new Addresses(List.of(), "lamp"));
    assertThat(made.fingerprint()).matches("([0-9A-F]{2}:){31}[0-9A-F]{2}");
    assertThat(Files.getPosixFilePermissions(folder.resolve(Certificate.FILE))).hasSize(2);
  }

  /** The letters of a terminal, as a camera would see them, read by the library's own reader. */
  @Test
  void anAddressIsReadFromItsCode() throws Exception {
    String address = "https://192.168.100.200:18112/";
    List<String> lines = QrCode.of(address).inLetters().lines().toList();
    int module = 4;
    int wide = lines.get(0).length() * module;
    int high = lines.size() * 2 * module;
    int[] picture = new int[wide * high];
    for (int y = 0; y < high; y++) {
      for (int x = 0; x < wide; x++) {
        char letter = lines.get(y / module / 2).charAt(x / module);
        boolean upper = y / module % 2 == 0;
        boolean light = letter == '█' || letter == (upper ? '▀' : '▄');
        picture[y * wide + x] = light ? 0xffffff : 0;
      }
    }
    BinaryBitmap seen =
        new BinaryBitmap(new GlobalHistogramBinarizer(new RGBLuminanceSource(wide, high, picture)));
    assertThat(new QRCodeReader().decode(seen).getText()).isEqualTo(address);
  }

  @Test
  void aHostThatIsANumberIsNobodyElses() {
    assertThat(List.of("192.168.1.20", "[2001:db8::5]", "127.0.0.2")).allMatch(Addresses::isNumber);
    assertThat(List.of("lamp", "1.2.3.4.example", "1.2.3", "0x7f000001"))
        .noneMatch(Addresses::isNumber);
  }
}
