package app.uprightwarden.core.audit;

import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.meeting.PasscodeFacts;
import app.uprightwarden.core.meeting.Reach;
import app.uprightwarden.core.rulebook.ResolvedRulebook;
import app.uprightwarden.core.service.Held;
import app.uprightwarden.core.service.Means;
import java.time.LocalDateTime;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What an audit knows of one meeting: compact, and sharing everything that is equal among meetings.
 * Built by {@link FactsBuilder}.
 *
 * @param subject the rules in force for it, its values as judged (length and makeup are those of
 *     the actual passcode where there is one), and of whom its names reach what its rules ask of
 *     these values
 * @param reach all that can be asked of whom its names reach, under whatever values
 * @param number the number people join by, or null
 * @param minutes length of an occurrence
 * @param endless it recurs with no end
 * @param hostGone the host is missing from the directory or disabled
 * @param coHosts how many co-hosts
 * @param presenters how many listed presenters
 * @param invited how many people are invited, lists counted, each person once
 * @param listedOnly how many of them are reached only through a list or space
 * @param foreignCoHosts co-hosts who are not members
 * @param strayPresenters listed presenters who are neither invited, host nor co-host
 * @param strangers where the kind is confidential: invitees the directory does not know as its own
 * @param changes what is different about single occurrences
 * @param held the service that holds the meeting, or null where none does
 */
public record MeetingFacts(
    String id,
    String host,
    Subject subject,
    Reach reach,
    Plan plan,
    @Nullable PasscodeFacts passcode,
    @Nullable String number,
    int minutes,
    boolean endless,
    boolean hostGone,
    int coHosts,
    int presenters,
    int invited,
    int listedOnly,
    List<String> foreignCoHosts,
    List<String> strayPresenters,
    List<String> strangers,
    List<Change> changes,
    @Nullable Held held) {

  /** A meeting that no service holds. */
  public MeetingFacts(
      String id,
      String host,
      Subject subject,
      Reach reach,
      Plan plan,
      @Nullable PasscodeFacts passcode,
      @Nullable String number,
      int minutes,
      boolean endless,
      boolean hostGone,
      int coHosts,
      int presenters,
      int invited,
      int listedOnly,
      List<String> foreignCoHosts,
      List<String> strayPresenters,
      List<String> strangers,
      List<Change> changes) {
    this(
        id,
        host,
        subject,
        reach,
        plan,
        passcode,
        number,
        minutes,
        endless,
        hostGone,
        coHosts,
        presenters,
        invited,
        listedOnly,
        foreignCoHosts,
        strayPresenters,
        strangers,
        changes,
        null);
  }

  /** The rules and guarantees that are in force for the meeting. */
  public ResolvedRulebook rules() {
    return subject.rules();
  }

  /** What the service that holds it can hold; null where none does. */
  public @Nullable Means means() {
    return held == null ? null : held.means();
  }

  /** The control values of the series. */
  public ControlValues values() {
    return subject.values();
  }

  /**
   * The control values of one date.
   *
   * @param occurrence its original local start; null for the series
   */
  public ControlValues valuesAt(@Nullable LocalDateTime occurrence) {
    return changes.stream()
        .filter(change -> change.at().equals(occurrence))
        .map(Change::values)
        .findFirst()
        .orElse(values());
  }

  /** What the organisation's plan allows. */
  public record Plan(int maxParticipants, int maxMinutes) {}

  /** The values and length of an occurrence that differs from its series. */
  public record Change(LocalDateTime at, ControlValues values, int minutes) {}
}
