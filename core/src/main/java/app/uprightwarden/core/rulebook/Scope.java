package app.uprightwarden.core.rulebook;

import java.util.Locale;
import org.jspecify.annotations.Nullable;

/**
 * What a layer applies to.
 *
 * @param id of the unit or kind; null for the organisation
 */
public record Scope(Level level, @Nullable String id) {
  /** The kinds of layers, in the order in which they apply. */
  public enum Level {
    ORGANISATION,
    UNIT,
    KIND;

    /** As it is written in files and answers, stable for ever. */
    public String id() {
      return name().toLowerCase(Locale.ROOT);
    }
  }

  public static final Scope ORGANISATION = new Scope(Level.ORGANISATION, null);

  /** What applies to a unit and those below it. */
  public static Scope unit(String id) {
    return new Scope(Level.UNIT, id);
  }

  /** What applies to meetings of a kind. */
  public static Scope kind(String id) {
    return new Scope(Level.KIND, id);
  }

  /**
   * Reads what {@link #toString} writes.
   *
   * @throws IllegalArgumentException where it is neither the organisation nor a unit or kind
   */
  public static Scope parse(String text) {
    if (text.equals(ORGANISATION.toString())) {
      return ORGANISATION;
    }
    int colon = text.indexOf(':');
    String id = text.substring(colon + 1);
    if (colon > 0 && !id.isEmpty()) {
      switch (text.substring(0, colon)) {
        case "unit":
          return unit(id);
        case "kind":
          return kind(id);
        default:
      }
    }
    throw new IllegalArgumentException("a layer is organisation, unit:… or kind:…, not " + text);
  }

  /** As written in findings and traces: {@code organisation}, {@code unit:pilotage}. */
  @Override
  public String toString() {
    return id == null ? level.id() : level.id() + ":" + id;
  }
}
