package app.uprightwarden.core.drafting;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.rulebook.Scope;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/**
 * Something about a rulebook its author should know before it is published.
 *
 * @param layer whose rule or guarantee is meant; null where no layer has one
 * @param guarantee the id of the guarantee meant, or null
 */
public record Remark(
    Kind kind,
    Weight weight,
    @Nullable Scope layer,
    @Nullable Control control,
    @Nullable String guarantee,
    String text) {

  /** What is remarked on. */
  public enum Kind {
    /** A seal above keeps a rule from counting. */
    VOID,
    /** A start lies outside its limit. */
    START_OUTSIDE,
    /** A guarantee that no setting can keep. */
    UNKEEPABLE,
    /** A guarantee that a meeting breaks in which nothing was changed. */
    BROKEN_AT_START,
    /** A control that does nothing in a meeting in which nothing was changed. */
    IDLE,
    /** A layer that undoes what one above it says. */
    UNDONE,
    /** A limit by standing, against which a list of names may fall foul. */
    NAMES_AGAINST_STANDING,
    /** A control that no layer has a rule for. */
    GOVERNED_NOWHERE;

    /** As it is written in files and answers, stable for ever. */
    public String id() {
      return name().toLowerCase(Locale.ROOT).replace('_', '-');
    }
  }

  /** How much it asks for a change. */
  public enum Weight {
    WRONG,
    DOUBTFUL,
    NOTE;

    /** As it is written in files and answers, stable for ever. */
    public String id() {
      return name().toLowerCase(Locale.ROOT);
    }
  }
}
