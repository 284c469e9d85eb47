package app.uprightwarden.server.judging;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.Scale;
import app.uprightwarden.server.problem.Wording;
import java.util.List;
import java.util.Locale;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * What is declared in the core, in one language. English stands where each thing is declared; the
 * others in {@code wording/catalogue_LANGUAGE.properties}. A text that is missing there is English.
 */
public final class DeclaredTexts {
  private final @Nullable Wording texts;

  public DeclaredTexts(Locale language) {
    texts = language.equals(Locale.ENGLISH) ? null : Wording.of("catalogue", language);
  }

  /** The text of a key such as {@code control.chat.title}, or else the English one. */
  public String text(String key, String english) {
    return texts != null && texts.has(key) ? texts.text(key) : english;
  }

  public String title(Control control) {
    return text("control." + control.id() + ".title", control.title());
  }

  public String risk(Control control) {
    return text("control." + control.id() + ".risk", control.risk());
  }

  /** A plain value as people read it; see {@link Control#label}. */
  public String label(Control control, Object plain) {
    String key = "control." + control.id();
    if (plain instanceof String word) {
      return text(key + ".value." + word, control.label(control.parse(plain)));
    }
    if (plain instanceof Number number && control.scale() instanceof Scale.Numbers numbers) {
      return number.intValue() == 0
          ? text(key + ".zero", String.valueOf(numbers.zero()))
          : number + " " + text(key + ".unit", String.valueOf(numbers.unit()));
    }
    if (plain instanceof List<?> names) {
      boolean isAll = control.scale() instanceof Scale.Sets sets && sets.emptyIsAll();
      return names.isEmpty()
          ? text(isAll ? "set.all" : "set.none", isAll ? "all" : "none")
          : names.stream().map(String::valueOf).collect(Collectors.joining(", "));
    }
    return control.label(control.parse(plain));
  }
}
