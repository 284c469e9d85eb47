package app.uprightwarden.server.scheduling;

import app.uprightwarden.server.judging.AssessmentView;
import app.uprightwarden.server.judging.FindingView;
import app.uprightwarden.server.problem.Fault;
import app.uprightwarden.server.problem.Worded;
import app.uprightwarden.server.schema.Plain;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * All that is to be said of a meeting before it is saved.
 *
 * @param faults what must be put right first; the rest is then of the meeting without those parts
 * @param starts the values a new meeting of this host and kind begins with
 * @param controls the values as they are judged
 * @param exposure before and after: before is the stored meeting, or the starts
 * @param matrix persona → right → level, and likewise {@code matrixBefore}
 * @param beyond what a host may not save
 * @param idle controls that do nothing here, and what would make each matter
 * @param numbers those the host uses again and again
 * @param choices the values of the control in hand, each with what it would do
 * @param hints what will probably not go as it is meant, in words
 * @param services where a new meeting can be made; empty for one that is there
 */
record SchedulingPreview(
    List<Fault> faults,
    @Nullable String unit,
    @Plain Map<String, Object> starts,
    Map<String, AssessmentView.Resolved> resolved,
    @Plain Map<String, Object> controls,
    AssessmentView.Scores exposure,
    AssessmentView.Scores exposureBefore,
    Map<String, Map<String, String>> matrix,
    Map<String, Map<String, String>> matrixBefore,
    List<FindingView> findings,
    List<BeyondView> beyond,
    List<Idle> idle,
    List<Turned> turned,
    @Nullable PasscodeView passcode,
    SeriesDateList dates,
    int invited,
    List<NamedPerson> people,
    List<String> numbers,
    List<Choice> choices,
    List<ServiceOption> services,
    @Worded List<String> hints) {

  /**
   * A conference service that a new meeting can be made in.
   *
   * @param usual the one that is taken where nobody chooses
   * @param cannot the controls of which it can hold neither the value nor a stricter one
   */
  record ServiceOption(long id, String name, boolean usual, List<String> cannot) {}

  /** What a host may not save; {@code fixed} where it may not be changed at all. */
  record BeyondView(
      String control,
      @Nullable String occurrence,
      boolean fixed,
      boolean looser,
      @Worded String words) {}

  /** A control without effect, and the single changes that would make it matter. */
  record Idle(String control, List<Mend> by) {}

  /** A change that would make an idle control matter. */
  record Mend(String control, @Plain Object to) {}

  /** A control that does more, or nothing any more, because of this change. */
  record Turned(String control, String how) {}

  /** What is known of the passcode; never itself. */
  record PasscodeView(
      int length,
      String makeup,
      String weakness,
      boolean leaked,
      double tries,
      double minutesToGuess,
      int triesAMinute) {}

  /**
   * When it is.
   *
   * @param ends null where it never does
   * @param total how many there are, at most {@code counted}
   */
  record SeriesDateList(List<SeriesDate> coming, int total, boolean endless, boolean more) {}

  /**
   * One occurrence.
   *
   * @param at its original local start, which names it
   * @param state {@code plain}, {@code moved}, {@code changed}, {@code dropped} or {@code added}
   * @param clashes what the host, or the room, has at the same time
   */
  record SeriesDate(
      String at,
      Instant start,
      Instant end,
      String localStart,
      int minutes,
      String state,
      List<String> clashes) {}

  /** Somebody named in it, as the directory has them. */
  record NamedPerson(String email, @Nullable String name, String standing, @Nullable String zone) {}

  /**
   * A value the control in hand could have.
   *
   * @param allowed within what a host may choose
   * @param score the exposure it would give
   * @param opened how many cells of the matrix it would open further than now; {@code closed}
   *     likewise
   * @param findings how many there would be
   * @param idle whether it would do nothing
   */
  record Choice(
      @Plain Object value,
      boolean allowed,
      double score,
      int opened,
      int closed,
      int findings,
      int worst,
      boolean idle) {}
}
