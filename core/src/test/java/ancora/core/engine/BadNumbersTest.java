package ancora.core.engine;

import static org.assertj.core.api.Assertions.assertThat;

import ancora.core.Refusal;
import ancora.core.rules.Command;
import ancora.core.rules.address.Addressed;
import ancora.core.rules.cues.CueCommand;
import ancora.core.rules.cues.Forms;
import ancora.core.search.Search;
import ancora.core.show.Show;
import ancora.core.show.WholeShow;
import ancora.core.sound.Sound;
import ancora.core.stage.Stage;
import java.lang.reflect.Constructor;
import java.lang.reflect.InvocationTargetException;
import java.lang.reflect.RecordComponent;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import org.junit.jupiter.api.Test;

/**
 * Every number of every command as small and as great as can be, every list empty and huge: it is
 * refused in a sentence, or done, and the show is one that could have been made.
 */
class BadNumbersTest {

  private static final int PERFORMANCES = Search.samples(12);
  private static final int ACTS = 120;
  private static final int HUGE = 20_000;

  private static final List<Long> LONGS =
      List.of(Long.MIN_VALUE, Long.MIN_VALUE + 1, -1L, 0L, Long.MAX_VALUE - 1, Long.MAX_VALUE);
  private static final List<Integer> INTS =
      List.of(Integer.MIN_VALUE, -1, 0, Integer.MAX_VALUE - 1, Integer.MAX_VALUE);
  private static final List<Double> DOUBLES =
      List.of(-Double.MAX_VALUE, Double.MAX_VALUE, Double.NaN, Double.NEGATIVE_INFINITY, 0.0);

  /** All that a value may be instead, with one number or list of it another. */
  private static List<Object> otherwise(Object value) {
    List<Object> others = new ArrayList<>();
    if (value instanceof Long) {
      others.addAll(LONGS);
    } else if (value instanceof Integer) {
      others.addAll(INTS);
    } else if (value instanceof Double) {
      others.addAll(DOUBLES);
    } else if (value instanceof Optional<?> some && some.isPresent()) {
      otherwise(some.get()).forEach(other -> others.add(Optional.of(other)));
    } else if (value instanceof List<?> list) {
      others.add(List.of());
      if (!list.isEmpty()) {
        others.add(Collections.nCopies(HUGE, list.get(0)));
        otherwise(list.get(0)).forEach(other -> others.add(List.of(other)));
      }
    } else if (value instanceof Map<?, ?> map) {
      map.forEach(
          (key, one) ->
              otherwise(one)
                  .forEach(
                      other -> {
                        Map<Object, Object> changed = new TreeMap<>(map);
                        changed.put(key, other);
                        others.add(changed);
                      }));
    } else if (value instanceof Record record) {
      addOthers(others, record);
    }
    return others;
  }

  private static void addOthers(List<Object> others, Record record) {
    RecordComponent[] components = record.getClass().getRecordComponents();
    Object[] values = new Object[components.length];
    Class<?>[] types = new Class<?>[components.length];
    for (int i = 0; i < components.length; i++) {
      types[i] = components[i].getType();
      values[i] = read(record, components[i]);
    }
    for (int i = 0; i < values.length; i++) {
      for (Object other : otherwise(values[i])) {
        Object[] changed = values.clone();
        changed[i] = other;
        made(record.getClass(), types, changed).ifPresent(others::add);
      }
    }
  }

  private static Object read(Record record, RecordComponent component) {
    try {
      component.getAccessor().setAccessible(true);
      return component.getAccessor().invoke(record);
    } catch (ReflectiveOperationException impossible) {
      throw new IllegalStateException(impossible);
    }
  }

  /** A value, unless it is refused already as it is made. */
  private static Optional<Object> made(Class<?> type, Class<?>[] types, Object[] values) {
    try {
      Constructor<?> constructor = type.getDeclaredConstructor(types);
      constructor.setAccessible(true);
      return Optional.of(constructor.newInstance(values));
    } catch (InvocationTargetException refused) {
      assertThat(refused.getCause())
          .as("%s of %s", type.getSimpleName(), Arrays.toString(values))
          .isInstanceOfAny(Refusal.class, IllegalArgumentException.class);
      return Optional.empty();
    } catch (ReflectiveOperationException impossible) {
      throw new IllegalStateException(impossible);
    }
  }

  private static void check(Stage stage, Command command, long now) {
    Engine engine = Engine.of(stage);
    engine.advance(now);
    Stage before = engine.stage();
    try {
      Outcome outcome = engine.apply(command, now, now);
      if (outcome instanceof Outcome.Refused refused) {
        assertThat(refused.why()).isNotBlank();
        assertThat(engine.stage()).isSameAs(before);
        return;
      }
      engine.plan();
      engine.advance(now + 3_000_000);
      engine.plan();
      engine.apply(new CueCommand.Stop(), now + 3_000_000, now + 3_000_000);
      WholeShow.check(engine.stage().show());
    } catch (RuntimeException | Error fault) {
      String told = command.toString();
      throw new AssertionError(told.substring(0, Math.min(600, told.length())), fault);
    }
  }

  @Test
  void noNumberAndNoListBreaksAnything() {
    Set<String> kinds = new TreeSet<>();
    for (int i = 0; i < PERFORMANCES; i++) {
      Random random = new Random(Search.SEED + i);
      Engine engine =
          Engine.of(
              Show.named("random")
                  .withNewPart("Kit", Sound.STANDARD_KIT)
                  .withNewPart("Bass", Sound.of(33)));
      long now = 5_000_000;
      for (int act = 0; act < ACTS; act++) {
        now += random.nextInt(700_000);
        engine.advance(now);
        Wish wish =
            new Wish(random.nextInt(Wish.KINDS), random.nextInt(20), random.nextInt(16_384));
        Command command = wish.on(engine.stage());
        if (kinds.add(i + command.getClass().getName()) || random.nextInt(12) == 0) {
          for (Object other : otherwise(command)) {
            check(engine.stage(), (Command) other, now);
          }
        }
        engine.apply(command, now, now);
      }
    }
  }

  /** The random performer knows every command there is. */
  @Test
  void everyCommandIsWishedFor() {
    Random random = new Random(1);
    Set<Class<?>> wished = new HashSet<>();
    Stage stage = Stage.of(Show.named("all").withNewPart("Kit", Sound.STANDARD_KIT));
    stage = Forms.make(stage, "Quay");
    for (int i = 0; i < 60_000; i++) {
      Wish wish = new Wish(random.nextInt(Wish.KINDS), random.nextInt(20), random.nextInt(16_384));
      Command command = wish.on(stage);
      wished.add(command instanceof Addressed addressed ? addressed.of() : command.getClass());
    }
    assertThat(wished).containsAll(Commands.kinds().toList());
  }
}
