package app.uprightwarden.server.register;

import app.uprightwarden.server.problem.Texts;
import java.text.Normalizer;
import java.util.Locale;
import java.util.regex.Pattern;

/**
 * A text as it is looked for: in one case, without accents, compatible characters (Unicode Standard
 * Annex 15, form KD) as one. Compared byte by byte so, a million are gone through in the time in
 * which a language's own rules go through a tenth of them.
 */
final class SearchText {
  /** As many as an index takes whole, in characters. */
  static final int MAX = 760;

  /**
   * Accents, and the points of Hebrew, Arabic and Japanese. Other scripts write vowels as marks:
   * those stay.
   */
  private static final Pattern MARKS =
      Pattern.compile(
          "[\\p{M}&&[\\u0300-\\u036f\\u0591-\\u05c7\\u0610-\\u061a\\u064b-\\u065f\\u0670\\u06d6-\\u06ed"
              + "\\u1ab0-\\u1aff\\u1dc0-\\u1dff\\u20d0-\\u20ff\\u3099\\u309a\\ufe00-\\ufe0f"
              + "\\ufe20-\\ufe2f]]+");

  /** Letters that have a stroke or stand for two, which form KD leaves; common practice. */
  private static final String[][] LETTERS = {
    {"ß", "ss"},
    {"æ", "ae"},
    {"œ", "oe"},
    {"ø", "o"},
    {"ł", "l"},
    {"đ", "d"},
    {"ħ", "h"},
    {"ı", "i"},
    {"ς", "σ"},
  };

  private SearchText() {}

  /** What a meeting's line is found by; what goes beyond {@link #MAX} is not. */
  static String of(String title, String host, String hostName) {
    return Texts.cut(folded(title + "\n" + hostName + "\n" + host), MAX);
  }

  static String folded(String text) {
    String plain = Normalizer.normalize(text, Normalizer.Form.NFKD);
    String folded = MARKS.matcher(plain).replaceAll("").toLowerCase(Locale.ROOT);
    for (String[] letter : LETTERS) {
      folded = folded.replace(letter[0], letter[1]);
    }
    return inOneSyllabary(folded);
  }

  /** Katakana as hiragana, which Unicode has in the same order. */
  private static String inOneSyllabary(String text) {
    StringBuilder out = new StringBuilder(text);
    for (int i = 0; i < out.length(); i++) {
      char c = out.charAt(i);
      if (c >= 'ァ' && c <= 'ヶ') {
        out.setCharAt(i, (char) (c - 'ァ' + 'ぁ'));
      }
    }
    return out.toString();
  }
}
