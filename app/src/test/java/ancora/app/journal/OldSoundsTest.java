package ancora.app.journal;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ancora.core.show.Balance;
import ancora.core.show.Click;
import ancora.core.show.Master;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.Show;
import ancora.core.sound.Sound;
import java.util.List;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.node.ObjectNode;

/** Sounds as they were kept before there were banks, second sounds, tones and held peaks. */
class OldSoundsTest {

  /** What the page raises all sounds by since then, in dB (player/instrument.js). */
  private static final double MAKEUP = 5;

  @Test
  void anOldShowIsAsLoudAsItWas() {
    Show show = Show.named("Old night").withNewPart("Keys", Sound.of(4));
    for (double level : new double[] {-3, 6, -20, -60}) {
      ObjectNode old =
          (ObjectNode) CoreJson.write(show.withMaster(Master.DEFAULT.withLevel(level)));
      ((ObjectNode) old.get("master")).remove("limited");
      Master now = CoreJson.read(old, Show.class).master();
      double gain = now.gain() * Math.pow(10, MAKEUP / 20);
      double before = level == -60 ? 0 : Math.pow(10, level / 20);
      assertThat(gain).as("%s dB", level).isCloseTo(before, within(1e-9));
      assertThat(now.limited()).isTrue();
      // read once more it is what it has become
      assertThat(CoreJson.read(CoreJson.write(now), Master.class)).isEqualTo(now);
    }
  }

  @Test
  void whatIsLackingIsAsUsual() {
    Part part = Part.of(new PartId(1), "Keys", Sound.of(4));
    ObjectNode old = (ObjectNode) CoreJson.write(part);
    ObjectNode balance = (ObjectNode) old.get("balance");
    balance.remove("low");
    balance.remove("high");
    balance.remove("echoTime");
    assertThat(old.get("sound").propertyNames())
        .as("what it has not is not written")
        .containsExactly("drums", "program");
    Show show = Show.named("Old night").withParts(List.of(part));
    ObjectNode kept = (ObjectNode) CoreJson.write(show);
    ((ObjectNode) kept.get("parts").get(0)).set("balance", balance);
    ObjectNode click = (ObjectNode) kept.get("click");
    click.remove("divided");
    click.remove("accent");
    click.remove("own");
    Show read = CoreJson.read(kept, Show.class);
    assertThat(read.part(new PartId(1)).balance()).isEqualTo(Balance.DEFAULT);
    assertThat(read.click()).isEqualTo(Click.DEFAULT);
  }
}
