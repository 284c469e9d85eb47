package app.uprightwarden.core.passcode;

import app.uprightwarden.core.meeting.Weakness;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Objects;
import java.util.function.IntUnaryOperator;

/**
 * Makes passcodes that are hard to guess and easy to say: words that sound apart, a number, and a
 * hyphen between, so that a symbol, digits and both cases are in it.
 */
public final class PasscodeMaker {
  /** At 20 tries a minute all of them take nine years. */
  public static final int PHONE_DIGITS = 8;

  private static final List<String> WORDS = words();
  private static final int SHORTEST = 8;
  private static final int LONGEST = 64;

  private PasscodeMaker() {}

  /**
   * A fresh passcode such as {@code Heron-basil-kettle-47}. Each word adds the logarithm of the
   * list's size (8.4 bits at 350 words), the number 6.6 bits more.
   *
   * @param atLeast how long it must be, in characters; up to 64
   * @param below gives an even random number from 0 up to, and without, its argument
   */
  public static String make(int atLeast, IntUnaryOperator below) {
    int wanted = Math.max(SHORTEST, Math.min(LONGEST, atLeast));
    StringBuilder made = new StringBuilder();
    int used = 0;
    while (used < 3 || made.length() + 2 < wanted) {
      String word = WORDS.get(below.applyAsInt(WORDS.size()));
      if (made.isEmpty()) {
        made.append(Character.toUpperCase(word.charAt(0))).append(word.substring(1));
      } else {
        made.append(word);
      }
      made.append('-');
      used++;
    }
    int number = below.applyAsInt(100);
    return made.append(number / 10).append(number % 10).toString();
  }

  /**
   * A passcode that is typed on a telephone's keys: digits, none that is soon guessed.
   *
   * @param below gives a number from 0 up to what it is given, from a source nobody can foresee
   */
  public static String makeDigits(IntUnaryOperator below) {
    StringBuilder made = new StringBuilder();
    do {
      made.setLength(0);
      while (made.length() < PHONE_DIGITS) {
        made.append(below.applyAsInt(10));
      }
    } while (PasscodeJudge.weakness(made.toString(), "", "") != Weakness.NONE);
    return made.toString();
  }

  /** How many words there are to choose from. */
  public static int choices() {
    return WORDS.size();
  }

  private static List<String> words() {
    try (BufferedReader in =
        new BufferedReader(
            new InputStreamReader(
                Objects.requireNonNull(
                    PasscodeMaker.class.getResourceAsStream("sayable-words.txt")),
                StandardCharsets.UTF_8))) {
      return in.lines().filter(line -> !line.isBlank() && !line.startsWith("#")).toList();
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }
}
