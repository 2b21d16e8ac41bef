package ancora.app.safety;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import org.junit.jupiter.api.Test;

class SafetyTest {

  @Test
  void listeningToOthersNeedsAPassPhrase() {
    assertThatThrownBy(() -> new Safety("0.0.0.0", "", "")).hasMessageContaining("pass phrase");
    assertThatThrownBy(() -> new Safety("0.0.0.0", "", "short")).hasMessageContaining("8");
    assertThat(new Safety("0.0.0.0", "", "lantern room").asksForPhrase()).isTrue();
    assertThat(new Safety("127.0.0.1", "", "").asksForPhrase()).isFalse();
  }

  @Test
  void namesOfTheHouseAreKnown() {
    assertThat(new Safety("127.0.0.1", "stage.local, foh", "").allowedHosts())
        .contains("localhost", "stage.local", "foh");
  }
}
