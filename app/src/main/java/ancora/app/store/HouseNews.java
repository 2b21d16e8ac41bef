package ancora.app.store;

import java.util.ArrayList;
import java.util.List;
import org.springframework.stereotype.Component;

/** What the list of shows has to say: what was wrong at the start, in sentences. */
@Component
public class HouseNews {

  private static final int MOST = 20;

  private final List<String> sentences = new ArrayList<>();

  /** Something is to be said. */
  synchronized void say(String sentence) {
    if (sentences.size() < MOST && !sentences.contains(sentence)) {
      sentences.add(sentence);
    }
  }

  /** What there is to say. */
  public synchronized List<String> sentences() {
    return List.copyOf(sentences);
  }
}
