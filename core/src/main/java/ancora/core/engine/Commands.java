package ancora.core.engine;

import ancora.core.rules.Command;
import ancora.core.rules.OnPage;
import ancora.core.rules.Sequence;
import ancora.core.rules.cues.CueCommand;
import ancora.core.rules.editing.EditCommand;
import ancora.core.rules.hands.HandCommand;
import ancora.core.rules.keeping.KeepCommand;
import ancora.core.rules.mending.MendCommand;
import ancora.core.rules.press.PressCommand;
import ancora.core.rules.settings.SettingCommand;
import ancora.core.rules.shelf.ShelfCommand;
import ancora.core.rules.undo.UndoCommand;
import java.util.List;
import java.util.stream.Stream;

/** All commands that there are, by their topics. */
public final class Commands {

  private static final List<Class<? extends Command>> TOPICS =
      List.of(
          HandCommand.class,
          PressCommand.class,
          KeepCommand.class,
          MendCommand.class,
          CueCommand.class,
          UndoCommand.class,
          ShelfCommand.class,
          EditCommand.class,
          SettingCommand.class);

  private Commands() {}

  /** The records that are commands. */
  public static Stream<Class<?>> kinds() {
    return Stream.concat(
        TOPICS.stream().flatMap(topic -> Stream.of(topic.getPermittedSubclasses())),
        Stream.of(Sequence.class, OnPage.class, Instead.class));
  }
}
