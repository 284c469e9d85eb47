package app.uprightwarden.server.problem;

import com.ibm.icu.text.MessageFormat;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.ResourceBundle;

/**
 * Sentences with numbers and names in them, from a bundle of patterns (ICU's MessageFormat, whose
 * plural rules are those of Unicode's CLDR).
 */
public final class Wording {
  private final ResourceBundle patterns;

  private Wording(ResourceBundle patterns) {
    this.patterns = patterns;
  }

  /** The patterns of {@code wording/NAME.properties}. */
  public static Wording of(String name) {
    return new Wording(ResourceBundle.getBundle("wording/" + name, Locale.ENGLISH));
  }

  /**
   * A sentence.
   *
   * @param key of its pattern
   * @param values name → number or text, one after the other
   */
  public String say(String key, Object... values) {
    Map<String, Object> named = new HashMap<>();
    for (int i = 0; i < values.length; i += 2) {
      named.put(String.valueOf(values[i]), values[i + 1]);
    }
    return new MessageFormat(patterns.getString(key), Locale.ENGLISH).format(named);
  }

  /** Several in a row: a, b and c. */
  public String row(List<String> parts) {
    if (parts.size() < 2) {
      return String.join("", parts);
    }
    int last = parts.size() - 1;
    return say("last-and", "a", String.join(", ", parts.subList(0, last)), "b", parts.get(last));
  }
}
