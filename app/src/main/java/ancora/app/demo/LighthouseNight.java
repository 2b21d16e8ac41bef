package ancora.app.demo;

import ancora.app.store.ShowStore;
import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.clip.Layer;
import ancora.core.clip.LoopWindow;
import ancora.core.note.Note;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.Show;
import ancora.core.sound.Sound;
import ancora.core.standin.Pattern;
import ancora.core.standin.Pattern.Stroke;
import ancora.core.time.Tempo;
import java.util.ArrayList;
import java.util.List;
import org.springframework.beans.factory.InitializingBean;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Component;

/** The demo show: a solo performer's night at a lighthouse. */
@Component
class LighthouseNight implements InitializingBean {

  private final ShowStore store;
  private final boolean wanted;

  LighthouseNight(ShowStore store, @Value("${ancora.demo}") boolean wanted) {
    this.store = store;
    this.wanted = wanted;
  }

  /** Done before the doors open, so that the first visitor finds it. */
  @Override
  public void afterPropertiesSet() {
    if (wanted && !store.hasDemo()) {
      store.add(show(), true);
    }
  }

  /** A kit at 96 with one clip ready: the lantern beat, and the tide's hats in a second layer. */
  static Show show() {
    PartId kit = new PartId(1);
    List<Layer> layers = new ArrayList<>();
    long id = 10;
    for (Pattern pattern : List.of(Pattern.LANTERN_BEAT, Pattern.TIDE_HATS)) {
      List<Note> notes = new ArrayList<>();
      for (Stroke s : pattern.strokes()) {
        notes.add(Note.of(id++, s.pitch(), s.velocity(), s.tick(), s.tick(), s.length()));
      }
      layers.add(new Layer(layers.size() + 1, notes));
    }
    Clip clip =
        Clip.of(new ClipId(2), "a", new LoopWindow(0, Pattern.LANTERN_BEAT.ticks()), List.of())
            .withLayers(layers);
    Part part = Part.of(kit, "Kit", Sound.kit(8)).withClip(clip);
    return Show.named("Lighthouse Night")
        .withTempo(Tempo.of(96))
        .withParts(List.of(part))
        .withNextId(id);
  }
}
