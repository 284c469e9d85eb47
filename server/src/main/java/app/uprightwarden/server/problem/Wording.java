package app.uprightwarden.server.problem;

import com.ibm.icu.text.MessageFormat;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.ResourceBundle;
import java.util.stream.Collectors;

/**
 * Sentences with numbers and names in them, from a bundle of patterns (ICU's MessageFormat, whose
 * plural rules are those of Unicode's CLDR).
 */
public final class Wording {
  private final ResourceBundle patterns;
  private final Locale language;

  private Wording(ResourceBundle patterns, Locale language) {
    this.patterns = patterns;
    this.language = language;
  }

  /** The patterns of {@code wording/NAME.properties}. */
  public static Wording of(String name) {
    return of(name, Locale.ENGLISH);
  }

  /** The patterns of {@code wording/NAME_LANGUAGE.properties}. */
  public static Wording of(String name, Locale language) {
    // without a bundle of a language it is English, whatever the machine speaks
    ResourceBundle.Control control =
        ResourceBundle.Control.getNoFallbackControl(ResourceBundle.Control.FORMAT_DEFAULT);
    return new Wording(ResourceBundle.getBundle("wording/" + name, language, control), language);
  }

  /** Whether there is a pattern of that name. */
  public boolean has(String key) {
    return patterns.containsKey(key);
  }

  /** All texts as they stand, by their keys. */
  public Map<String, String> all() {
    return patterns.keySet().stream().collect(Collectors.toMap(key -> key, patterns::getString));
  }

  /** A text as it stands. */
  public String text(String key) {
    return patterns.getString(key);
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
    return new MessageFormat(patterns.getString(key), language).format(named);
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
