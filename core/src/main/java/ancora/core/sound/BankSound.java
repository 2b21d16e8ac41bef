package ancora.core.sound;

import ancora.core.Names;
import ancora.core.Refusal;
import java.util.regex.Pattern;

/**
 * One of the sounds of a sound bank that a musician has brought.
 *
 * @param bank which bank it is: the SHA-256 of its file, as 64 hexadecimal digits
 * @param file what the bank is called
 * @param number the number of its bank select, 0 to 16 383: 128 times control change 0, and 32
 * @param name what the bank calls it
 */
public record BankSound(String bank, String file, int number, String name) {

  private static final Pattern DIGEST = Pattern.compile("[0-9a-f]{64}");
  private static final int MOST = 16_383;

  public BankSound {
    Refusal.unless(
        DIGEST.matcher(bank).matches(), "A sound bank is known by its digest: choose it anew.");
    file = Names.checked("sound bank", file);
    name = Names.checked("sound", name);
    Refusal.unless(number >= 0 && number <= MOST, "A bank is a number from 0 to 16 383.");
  }
}
