package app.uprightwarden.core.drafting;

import app.uprightwarden.core.audit.Detail;
import app.uprightwarden.core.audit.Judgement;
import app.uprightwarden.core.audit.MeetingFacts;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.rulebook.ResolvedRulebook;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;

/**
 * What a rulebook finds in each cohort, remembered as a few marks: the ground that a draft is held
 * against. Thread-safe.
 */
public final class BaselineFindings {
  /**
   * A finding without its meeting.
   *
   * @param subject control or guarantee
   */
  public record Mark(String check, String subject, int severity) {}

  private final Layers layers;
  private final Map<Mark, Mark> marks = new ConcurrentHashMap<>();
  private final Map<Cohort, List<Mark>> known = new ConcurrentHashMap<>();

  /** Takes the layers in force. */
  public BaselineFindings(Layers layers) {
    this.layers = layers;
  }

  /** The layers in force. */
  public Layers layers() {
    return layers;
  }

  /** The findings of one meeting of the cohort, by the checks that look at rules. */
  public List<Mark> of(Cohort cohort) {
    return known.computeIfAbsent(cohort, this::judge);
  }

  private List<Mark> judge(Cohort cohort) {
    ResolvedRulebook rules = layers.of(cohort.unit(), cohort.kind());
    List<Mark> found = new ArrayList<>();
    List<Detail> ofSeries = details(rules, cohort, cohort.values());
    ofSeries.forEach(detail -> found.add(mark(detail)));
    Set<String> likenesses = new HashSet<>();
    ofSeries.forEach(detail -> likenesses.add(detail.likeness()));
    for (MeetingFacts.Change change : cohort.changes()) {
      if (!change.values().equals(cohort.values())) {
        for (Detail detail : details(rules, cohort, change.values())) {
          if (!likenesses.contains(detail.likeness())) {
            found.add(mark(detail));
          }
        }
      }
    }
    return List.copyOf(found);
  }

  private static List<Detail> details(ResolvedRulebook rules, Cohort cohort, ControlValues values) {
    return Judgement.of(rules, values, cohort.reach()).details().stream()
        .filter(detail -> detail.rule() != null || detail.given() != null)
        .toList();
  }

  private Mark mark(Detail detail) {
    Mark mark = new Mark(detail.check().id(), detail.subject(), detail.severity());
    Mark same = marks.putIfAbsent(mark, mark);
    return same == null ? mark : same;
  }
}
