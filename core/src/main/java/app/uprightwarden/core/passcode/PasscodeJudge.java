package app.uprightwarden.core.passcode;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.meeting.PasscodeFacts;
import app.uprightwarden.core.meeting.Weakness;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Judges passcodes. Words are compared without case and with simple look-alikes undone ({@code 0}
 * for o, {@code 1} for i and l, {@code $} for s …), which is what people who guess try first.
 */
public final class PasscodeJudge {
  private static final int SHORTEST_WORD = 3;
  private static final Pattern WORDS = Pattern.compile("[\\p{L}\\p{N}]+");

  private PasscodeJudge() {}

  /**
   * What the audit may know of a passcode.
   *
   * @param fingerprint equal for equal passcodes; the caller keys it
   */
  public static PasscodeFacts judge(
      String passcode, String title, String description, String host, String fingerprint) {
    return new PasscodeFacts(
        passcode.codePointCount(0, passcode.length()),
        makeup(passcode),
        weakness(passcode, title, host),
        leaked(passcode, title) || leaked(passcode, description),
        fingerprint);
  }

  /** {@code digits}, {@code letters-digits}, or {@code mixed} where there is a symbol too. */
  public static Value makeup(String passcode) {
    boolean symbol = passcode.codePoints().anyMatch(c -> !Character.isLetterOrDigit(c));
    boolean digitsOnly = passcode.codePoints().allMatch(Character::isDigit);
    return Control.PASSCODE_MAKEUP.parse(
        symbol ? "mixed" : digitsOnly ? "digits" : "letters-digits");
  }

  /**
   * What makes a passcode in clear easy to guess: the first that applies of a repeat, a run, a
   * common one, and a word of the title or of the host's address.
   */
  public static Weakness weakness(String passcode, String title, String host) {
    String lower = passcode.toLowerCase(Locale.ROOT);
    if (repeated(lower)) {
      return Weakness.REPEAT;
    }
    if (run(lower)) {
      return Weakness.RUN;
    }
    if (CommonPasscodes.contains(passcode)) {
      return Weakness.COMMON;
    }
    String folded = fold(passcode);
    if (words(title).contains(folded)) {
      return Weakness.TITLE_WORD;
    }
    return words(host).contains(folded) ? Weakness.HOST_WORD : Weakness.NONE;
  }

  /** Without case, and with look-alikes undone. */
  static String fold(String text) {
    StringBuilder folded = new StringBuilder();
    for (char c : text.toLowerCase(Locale.ROOT).toCharArray()) {
      folded.append(
          switch (c) {
            case '0' -> 'o';
            case '1', '!', '|', 'i' -> 'l';
            case '3' -> 'e';
            case '4', '@' -> 'a';
            case '5', '$' -> 's';
            case '7' -> 't';
            case '8' -> 'b';
            case '9' -> 'g';
            default -> c;
          });
    }
    return folded.toString();
  }

  private static List<String> words(String text) {
    List<String> words = new ArrayList<>();
    Matcher matcher = WORDS.matcher(text);
    while (matcher.find()) {
      if (matcher.group().length() >= SHORTEST_WORD) {
        words.add(fold(matcher.group()));
      }
    }
    return words;
  }

  private static boolean repeated(String passcode) {
    return !passcode.isEmpty() && passcode.chars().distinct().count() == 1;
  }

  /** Each character next to the one before, all up or all down: 1234, abcd, 9876. */
  private static boolean run(String passcode) {
    if (passcode.length() < SHORTEST_WORD) {
      return false;
    }
    int step = passcode.charAt(1) - passcode.charAt(0);
    if (step != 1 && step != -1) {
      return false;
    }
    for (int i = 1; i < passcode.length(); i++) {
      char c = passcode.charAt(i);
      // digit keys run on from 9 to 0
      boolean wraps = step == 1 && passcode.charAt(i - 1) == '9' && c == '0';
      if (!wraps && c - passcode.charAt(i - 1) != step) {
        return false;
      }
    }
    return true;
  }

  /** Whether a text holds the passcode, by itself or inside a link. */
  static boolean leaked(String passcode, String text) {
    if (passcode.isEmpty() || text.isEmpty()) {
      return false;
    }
    String inLink = URLEncoder.encode(passcode, StandardCharsets.UTF_8);
    return standsIn(passcode, text) || standsIn(inLink, text);
  }

  private static boolean standsIn(String passcode, String text) {
    int at = text.indexOf(passcode);
    while (at >= 0) {
      int after = at + passcode.length();
      boolean begins = at == 0 || !Character.isLetterOrDigit(text.charAt(at - 1));
      boolean ends = after == text.length() || !Character.isLetterOrDigit(text.charAt(after));
      if (begins && ends) {
        return true;
      }
      at = text.indexOf(passcode, at + 1);
    }
    return false;
  }
}
