package app.uprightwarden.server.door;

import app.uprightwarden.server.judging.AssessmentView;
import app.uprightwarden.server.judging.FindingView;
import app.uprightwarden.server.problem.Worded;
import app.uprightwarden.server.schema.Plain;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * A rehearsal's answer.
 *
 * @param meeting its id; null for one that is not saved yet
 * @param version of the meeting, to change it by; null for one that is not saved yet
 * @param occurrences the original starts of the series' occurrences that have values of their own
 * @param values as they are, by control; what is not evidenced counts as the loosest and is not
 *     here
 * @param allowed of each control that a rule binds, what it allows
 * @param beyond pencilled values looser than a rule allows, or off a fix
 * @param matrix persona → right → level as it is; {@code then} with the pencilled values
 */
record DoorView(
    @Nullable String meeting,
    String title,
    String host,
    @Nullable String start,
    @Nullable String zone,
    int minutes,
    @Nullable Long version,
    boolean mayChange,
    List<String> occurrences,
    @Plain Map<String, Object> values,
    @Worded Map<String, String> allowed,
    List<BeyondRule> beyond,
    AssessmentView.Scores exposure,
    AssessmentView.Scores exposureThen,
    Map<String, Map<String, String>> matrix,
    Map<String, Map<String, String>> then,
    List<Comer> comers) {

  /** A pencilled value that the rule does not allow, in words. */
  record BeyondRule(String control, boolean isFix, @Worded String words) {}

  /**
   * Somebody at the door.
   *
   * @param key the persona's id, or the person's address
   * @param phrase of a persona, to stand behind "someone who"; of a person their name
   * @param now what the door answers; {@code then} with the pencilled values
   */
  record Comer(
      String key,
      String phrase,
      boolean persona,
      boolean invited,
      String standing,
      String tie,
      String route,
      boolean holdsPasscode,
      Answered now,
      Answered then) {}

  /**
   * The door's answer to one joiner.
   *
   * @param step where refused or held; null where in
   * @param role once in, also of somebody held
   * @param rights held once in; none where refused
   * @param keepers who may let them in where they are held: {@code hosts}, {@code presenters} or
   *     {@code anyone-inside}
   */
  record Answered(
      String outcome,
      @Nullable String step,
      @Nullable String role,
      List<String> rights,
      @Nullable String keepers,
      List<FindingView.TrailStep> trail) {}

  /**
   * One of the least ways to let somebody in or keep them out.
   *
   * @param beside personas for whom it changes the wrong way too: invited ones kept out, uninvited
   *     ones let in
   * @param beyond the changes among these that a rule does not allow, in words
   */
  record AdmissionWay(
      List<AssessmentView.Change> changes,
      int friction,
      double exposure,
      List<String> beside,
      List<BeyondRule> beyond) {}

  /**
   * What it would take.
   *
   * @param already whether it is so
   * @param ways the least changes of controls; none where no three controls do it
   * @param acts what else would do it without any change: {@code unlock}, {@code host-in}, {@code
   *     invite}, {@code give-passcode}, {@code by-app}, {@code lock}
   */
  record Admission(boolean already, List<AdmissionWay> ways, List<String> acts) {}
}
