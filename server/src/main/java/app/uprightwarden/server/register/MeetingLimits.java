package app.uprightwarden.server.register;

import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.server.problem.Fault;
import app.uprightwarden.server.problem.ProblemException;
import java.util.ArrayList;
import java.util.List;

/**
 * How much one meeting holds, whichever way it comes in: a form, a bundle, a calendar or a table.
 * What one host saves, everybody's week, availability and audit have to go through again.
 */
public final class MeetingLimits {
  /** People invited by their own address. */
  public static final int INVITEES = 1000;

  /** Co-hosts. */
  public static final int CO_HOSTS = 50;

  /** Presenters by name. */
  public static final int PRESENTERS = 500;

  /** Lists that are invited. */
  public static final int LISTS = 100;

  /** Dates added to a series, and dates dropped from one. */
  public static final int DATES = 1000;

  /** Dates of a series that differ from it. */
  public static final int CHANGES = 1000;

  /** Breakout groups, and members of one. */
  public static final int GROUPS = 200;

  /** Characters of all foreign calendar lines together. */
  public static final int FOREIGN = 100_000;

  private MeetingLimits() {}

  /** What of a meeting is more than that. */
  public static List<Fault> faults(Meeting meeting, Details details) {
    List<Fault> faults = new ArrayList<>();
    most(faults, "/invitees", meeting.invitees().size(), INVITEES);
    most(faults, "/coHosts", meeting.coHosts().size(), CO_HOSTS);
    most(faults, "/presenters", meeting.presenters().size(), PRESENTERS);
    most(faults, "/lists", meeting.lists().size(), LISTS);
    most(faults, "/exDates", meeting.exDates().size(), DATES);
    most(faults, "/rDates", meeting.rDates().size(), DATES);
    most(faults, "/occurrences", meeting.changes().size(), CHANGES);
    most(faults, "/groups", details.groups().size(), GROUPS);
    int members = details.groups().stream().mapToInt(g -> g.members().size()).sum();
    most(faults, "/groups", members, INVITEES);
    int foreign = details.foreign().stream().mapToInt(String::length).sum();
    most(faults, "/foreign", foreign, FOREIGN);
    return faults;
  }

  private static void most(List<Fault> faults, String where, int there, int most) {
    if (there > most) {
      faults.add(new Fault(where, "has " + there + "; " + most + " are the most"));
    }
  }

  /**
   * Refuses a meeting that holds more.
   *
   * @throws ProblemException 422 with what is too much
   */
  static void check(Meeting meeting, Details details) {
    List<Fault> faults = faults(meeting, details);
    if (!faults.isEmpty()) {
      throw ProblemException.invalid(
          "The meeting holds more than one meeting may. Nothing was saved.", faults);
    }
  }
}
