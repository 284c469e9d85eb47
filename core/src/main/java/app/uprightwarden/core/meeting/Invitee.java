package app.uprightwarden.core.meeting;

import java.util.Locale;
import org.jspecify.annotations.Nullable;

/**
 * Someone invited by their own address.
 *
 * @param task what they do there besides being there, or null
 * @param language of a captioner or interpreter (a BCP 47 tag), or null where none is said
 */
public record Invitee(String email, Need need, @Nullable Task task, @Nullable String language) {
  /** How much they are needed. */
  public enum Need {
    REQUIRED,
    OPTIONAL
  }

  /** What somebody is named for. */
  public enum Task {
    /** Takes part where the others only watch. */
    CONTRIBUTOR,
    /** Writes down what is said. */
    CAPTIONER,
    /** Says it in another language, and so has to be heard where the others only watch. */
    INTERPRETER;

    /** As it is written in files and answers, stable for ever. */
    public String id() {
      return name().toLowerCase(Locale.ROOT);
    }

    /** Whether they take part although the others only watch. */
    public boolean takesPart() {
      return this != CAPTIONER;
    }
  }

  public Invitee(String email, Need need) {
    this(email, need, null, null);
  }

  /** The same person with what another is named for. */
  public Invitee withTaskOf(Invitee other) {
    return new Invitee(email, need, other.task, other.language);
  }
}
