package ancora.core;

/**
 * Something that was asked for and cannot be done now. Its message is one sentence for the
 * performer that says what to do; nothing has been changed.
 */
public final class Refusal extends RuntimeException {

  /**
   * What is quoted in a sentence may be of any length; a sentence that is read on a stage may not.
   */
  private static final int LONGEST = 240;

  /**
   * @param sentence what is wrong and what to do about it, in words
   */
  public Refusal(String sentence) {
    super(
        sentence.length() <= LONGEST ? sentence : sentence.substring(0, LONGEST - 1) + "…",
        null,
        false,
        false);
  }

  /**
   * Refuses unless a condition holds.
   *
   * @param holds the condition
   * @param sentence what to say if it does not hold, as for {@link String#format}
   * @param values the values that the sentence shows
   */
  public static void unless(boolean holds, String sentence, Object... values) {
    if (!holds) {
      throw new Refusal(values.length == 0 ? sentence : String.format(sentence, values));
    }
  }
}
