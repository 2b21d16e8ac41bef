package ancora.core.engine;

import static org.assertj.core.api.Assertions.assertThat;

import ancora.core.rules.Command;
import java.util.stream.Stream;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** No command that is permitted is without a rule. */
class RulesTest {

  static Stream<Class<?>> kinds() {
    return kinds(Command.class);
  }

  private static Stream<Class<?>> kinds(Class<?> type) {
    return type.isSealed()
        ? Stream.of(type.getPermittedSubclasses()).flatMap(RulesTest::kinds)
        : Stream.of(type);
  }

  @ParameterizedTest
  @MethodSource("kinds")
  void eachPermittedCommandHasARule(Class<?> kind) {
    // what a control stands for is looked up first: it is another command by then
    assertThat(Rules.has(kind)).isEqualTo(kind != Command.Act.class);
  }
}
