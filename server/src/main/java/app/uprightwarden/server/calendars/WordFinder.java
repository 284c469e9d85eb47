package app.uprightwarden.server.calendars;

import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Finds what begins with one of many words. Tried at every character, a choice of sixty words is
 * most of what reading a large calendar takes; here it is tried where a word begins, and with a
 * letter that one of them begins with. What is found is what the pattern alone would find.
 */
final class WordFinder {
  private static final byte NO = 1;
  private static final byte AT_A_WORDS_BEGINNING = 2;
  private static final byte ANYWHERE = 3;

  private final Pattern whole;
  private final Pattern words;
  private final Pattern anywhere;

  /** What may begin with each character, as far as one was met; 0 where none was. */
  private final byte[] starts = new byte[Character.MAX_VALUE + 1];

  /**
   * @param words a choice of words that stand for themselves; each begins with a letter
   * @param anywhere a choice of words of scripts that leave no space between words
   * @param behind what follows on them
   */
  WordFinder(String words, String anywhere, String behind, int flags) {
    this.words = Pattern.compile(words, flags);
    this.anywhere = Pattern.compile(anywhere, flags);
    whole =
        Pattern.compile(
            "(?:(?<![\\p{L}\\p{N}_-])(?:" + words + ")|" + anywhere + ")" + behind, flags);
  }

  Matcher in(String text) {
    return whole.matcher(text).useTransparentBounds(true).useAnchoringBounds(false);
  }

  /**
   * Finds the next.
   *
   * @param matcher as {@link #in} gave it for the text; it knows what was found
   * @param from where to begin
   */
  boolean find(Matcher matcher, String text, int from) {
    for (int at = from; at < text.length(); at++) {
      byte start = start(text.charAt(at));
      if (start == ANYWHERE || start == AT_A_WORDS_BEGINNING && !isInAWord(text, at)) {
        matcher.region(at, text.length());
        if (matcher.lookingAt()) {
          return true;
        }
      }
    }
    return false;
  }

  private byte start(char c) {
    if (starts[c] == 0) {
      starts[c] = begins(anywhere, c) ? ANYWHERE : begins(words, c) ? AT_A_WORDS_BEGINNING : NO;
    }
    return starts[c];
  }

  /** Whether a longer text could match. */
  private static boolean begins(Pattern pattern, char c) {
    Matcher matcher = pattern.matcher(String.valueOf(c));
    return matcher.lookingAt() || matcher.hitEnd();
  }

  private static boolean isInAWord(String text, int at) {
    if (at == 0) {
      return false;
    }
    char before = text.charAt(at - 1); // what the pattern looks back at
    return before == '_' || before == '-' || Character.isLetter(before) || isNumber(before);
  }

  /** As Unicode's class N. */
  private static boolean isNumber(char c) {
    return switch (Character.getType(c)) {
      case Character.DECIMAL_DIGIT_NUMBER, Character.LETTER_NUMBER, Character.OTHER_NUMBER -> true;
      default -> false;
    };
  }
}
