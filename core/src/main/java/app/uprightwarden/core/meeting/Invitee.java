package app.uprightwarden.core.meeting;

import app.uprightwarden.core.people.Directory;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
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
  private Invitee withTaskOf(Invitee other) {
    return new Invitee(email, need, other.task, other.language);
  }

  /**
   * People as somebody told who knows nothing of tasks: who is still among them keeps the one they
   * had.
   *
   * @param told who is invited now, with or without a task
   * @param before who was, with theirs
   */
  public static List<Invitee> keepingTasks(List<Invitee> told, List<Invitee> before) {
    Map<String, Invitee> named = new HashMap<>();
    before.stream().filter(i -> i.task != null).forEach(i -> named.put(Directory.fold(i.email), i));
    return named.isEmpty()
        ? told
        : told.stream()
            .map(
                i -> {
                  Invitee was = named.get(Directory.fold(i.email));
                  return was == null || i.task != null ? i : i.withTaskOf(was);
                })
            .toList();
  }
}
