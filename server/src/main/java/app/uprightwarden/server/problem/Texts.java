package app.uprightwarden.server.problem;

import org.jspecify.annotations.Nullable;

/**
 * Texts that stay whole: no half of a character that takes two, wherever one is cut or comes in.
 */
public final class Texts {
  private static final char REPLACEMENT = '\ufffd';

  private Texts() {}

  /**
   * At most so many characters of a text.
   *
   * @param most in UTF-16 code units; a character that would be cut in two is left out
   */
  public static String cut(String text, int most) {
    if (text.length() <= most) {
      return text;
    }
    boolean inTwo = most > 0 && Character.isHighSurrogate(text.charAt(most - 1));
    return text.substring(0, inTwo ? most - 1 : most);
  }

  /** Whether every surrogate has its other half (Unicode 16, section 3.9, D84 and D89). */
  public static boolean isWellFormed(String text) {
    for (int i = 0; i < text.length(); i++) {
      char c = text.charAt(i);
      if (Character.isHighSurrogate(c)
          && i + 1 < text.length()
          && Character.isLowSurrogate(text.charAt(i + 1))) {
        i++;
      } else if (Character.isSurrogate(c)) {
        return false;
      }
    }
    return true;
  }

  /** The text with U+FFFD in the place of each half character, as decoders of UTF-8 do. */
  public static String wellFormed(String text) {
    if (isWellFormed(text)) {
      return text;
    }
    StringBuilder made = new StringBuilder(text.length());
    for (int i = 0; i < text.length(); i++) {
      char c = text.charAt(i);
      boolean isPair =
          Character.isHighSurrogate(c)
              && i + 1 < text.length()
              && Character.isLowSurrogate(text.charAt(i + 1));
      if (isPair) {
        made.append(c).append(text.charAt(++i));
      } else {
        made.append(Character.isSurrogate(c) ? REPLACEMENT : c);
      }
    }
    return made.toString();
  }

  /**
   * The text without what no page, mail or table can hold: control characters but tab and line
   * breaks, and U+FFFE and U+FFFF (XML 1.0, production 2).
   */
  public static String printable(String text) {
    int bad = 0;
    while (bad < text.length() && !isUnprintable(text.charAt(bad))) {
      bad++;
    }
    if (bad == text.length()) {
      return text;
    }
    StringBuilder made = new StringBuilder(text.length()).append(text, 0, bad);
    for (int i = bad; i < text.length(); i++) {
      if (!isUnprintable(text.charAt(i))) {
        made.append(text.charAt(i));
      }
    }
    return made.toString();
  }

  private static boolean isUnprintable(char c) {
    return c < ' ' && c != '\t' && c != '\n' && c != '\r' || c == '\ufffe' || c == '\uffff';
  }

  /** A text for one line of a log or an entry: white space folded, cut, well-formed. */
  public static String oneLine(@Nullable String text, int most) {
    return text == null ? "" : cut(wellFormed(text).replaceAll("\\s+", " "), most);
  }
}
