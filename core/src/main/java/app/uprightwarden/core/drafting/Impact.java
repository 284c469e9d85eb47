package app.uprightwarden.core.drafting;

import java.util.List;

/**
 * What publishing a draft would change in a register, counted in findings of the checks that look
 * at rules; the other checks look at no rule and stay as they are.
 *
 * @param meetings how many there are
 * @param touched meetings for which something changes
 * @param severities 1 to 5
 * @param checks those with findings before or after
 * @param subjects controls and guarantees with findings before or after
 * @param units those touched, most touched first; the id is empty for hosts without a unit
 * @param hosts those touched, most touched first, as many as were asked for
 * @param touchedHosts how many hosts there are behind the touched meetings
 * @param worst the touched meetings in the order in which they are best looked at, a page of them
 */
public record Impact(
    int meetings,
    int touched,
    Count total,
    List<Severity> severities,
    List<Group> checks,
    List<Group> subjects,
    List<Touched> units,
    List<Touched> hosts,
    int touchedHosts,
    List<Meeting> worst) {

  /**
   * Findings.
   *
   * @param regraded found before and after, with another severity
   */
  public record Count(int before, int appeared, int gone, int regraded) {
    /** How many there would be. */
    public int after() {
      return before + appeared - gone;
    }

    /** How many would stay as they are. */
    public int same() {
      return before - gone - regraded;
    }
  }

  /** Findings of one severity before and after. */
  public record Severity(int severity, int before, int after) {}

  /**
   * Findings of one check, control or guarantee.
   *
   * @param meetings those for which some of them change
   */
  public record Group(String id, Count count, int meetings) {}

  /** Meetings of one unit or host that are touched, and their findings. */
  public record Touched(String id, int meetings, int appeared, int gone) {}

  /**
   * A touched meeting.
   *
   * @param worst the highest severity that appears, or 0
   */
  public record Meeting(long row, int appeared, int gone, int regraded, int worst) {}
}
