package ancora.app.stage;

import ancora.app.House;
import ancora.app.store.Disk;
import ancora.app.store.JournalRow;
import ancora.app.store.Journals;
import ancora.app.store.ShowStore;
import ancora.app.time.HouseClock;
import ancora.core.engine.Engine;
import ancora.core.show.Show;
import ancora.core.sound.Sound;
import ancora.core.stage.Stage;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** A folder with a show in which was played for a thousand hours. */
final class ManyLines {

  /** So many lines came after what was saved last. */
  static final int SINCE = 900;

  /** Between two lines, in microseconds. */
  private static final long APART = 60_000;

  private static final String KEY =
      "{\"do\":\"%s\",\"device\":\"keys\",\"channel\":0,\"pitch\":%d,\"velocity\":90}";

  private ManyLines() {}

  static void in(Path folder, int lines) throws IOException {
    try (House house = House.open(folder)) {
      ShowStore store = house.bean(ShowStore.class);
      long id = store.add(Show.named("Long").withNewPart("A", Sound.of(1)), false);
      Journals journals = house.bean(Disk.class).journals();
      long begun = house.bean(HouseClock.class).micros() - lines * APART;
      for (int seq = 1; seq <= lines; ) {
        List<JournalRow> some = new ArrayList<>();
        for (int i = 0; i < 1_000 && seq <= lines; i++, seq++) {
          String command = KEY.formatted(seq % 2 == 1 ? "keyDown" : "keyUp", 40 + seq / 2 % 40);
          long at = begun + seq * APART;
          some.add(new JournalRow(seq, at, at, "one", seq, command, Engine.RULES));
        }
        journals.append(id, some);
        journals.pack(id, seq - 2_000);
      }
      long saved = lines - SINCE;
      Stage stage = Stage.of(house.bean(StageHouse.class).show(id));
      store.save(id, stage, Optional.empty(), saved, Map.of("one", saved));
    }
  }
}
