package app.uprightwarden.server.judging;

import app.uprightwarden.core.audit.Auditor;
import app.uprightwarden.core.audit.FactsBuilder;
import app.uprightwarden.core.audit.Judgement;
import app.uprightwarden.core.audit.MeetingFacts;
import app.uprightwarden.core.audit.Register;
import app.uprightwarden.core.calendar.Occurrences;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.meeting.Occurrence;
import app.uprightwarden.core.remedy.RemedySearch;
import app.uprightwarden.core.service.Held;
import com.fasterxml.jackson.annotation.JsonInclude;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;

/** Judges meetings without storing anything. */
@Service
public class AssessService {
  /** The parts an assessment may have. */
  public static final Set<String> FIELDS =
      Set.of("exposure", "matrix", "findings", "remedy", "resolved");

  /** All there is to say about one meeting; parts not asked for are left out. */
  @JsonInclude(JsonInclude.Include.NON_NULL)
  public record Assessment(
      String id,
      AssessmentView.@Nullable Scores exposure,
      @Nullable Map<String, Map<String, String>> matrix,
      @Nullable List<FindingView> findings,
      AssessmentView.@Nullable RemedyView remedy,
      @Nullable Map<String, AssessmentView.Resolved> resolved) {}

  /**
   * Judges meetings, each by itself and all together.
   *
   * @param from the first instant of the window whose occurrences are looked at
   * @param to the first instant after it
   * @param fields parts wanted, of {@link #FIELDS}
   * @throws IllegalArgumentException where a recurrence gives too many occurrences
   */
  public List<Assessment> assess(
      List<Meeting> meetings, FactsBuilder builder, Instant from, Instant to, Set<String> fields) {
    return assess(meetings, Map.of(), builder, from, to, fields);
  }

  /**
   * The same of meetings of which some are held by conference services.
   *
   * @param held what is known of those, by the meeting's id
   */
  public List<Assessment> assess(
      List<Meeting> meetings,
      Map<String, Held> held,
      FactsBuilder builder,
      Instant from,
      Instant to,
      Set<String> fields) {
    Auditor auditor = new Auditor();
    Map<String, List<FindingView>> findings = new LinkedHashMap<>();
    List<MeetingFacts> facts = new ArrayList<>();
    Auditor.Sink sink =
        (meeting, occurrence, detail) ->
            findings
                .computeIfAbsent(meeting.id(), id -> new ArrayList<>())
                .add(FindingView.of(detail, occurrence, meeting.valuesAt(occurrence)));
    boolean wantsFindings = fields.contains("findings");
    Register register = new Register();
    for (Meeting meeting : meetings) {
      MeetingFacts built = builder.build(meeting, held.get(meeting.id()));
      facts.add(built);
      if (wantsFindings) {
        auditor.audit(built, sink);
        addOccurrences(register, built, meeting, from, to);
      }
    }
    if (wantsFindings) {
      auditor.auditTogether(
          register, (meeting, detail) -> sink.found(facts.get(meeting), null, detail));
    }
    findings.values().forEach(AssessService::sort);
    List<Assessment> assessments = new ArrayList<>();
    for (MeetingFacts meeting : facts) {
      assessments.add(
          assessment(auditor, meeting, findings.getOrDefault(meeting.id(), List.of()), fields));
    }
    return List.copyOf(assessments);
  }

  public static void addOccurrences(
      Register register, MeetingFacts facts, Meeting meeting, Instant from, Instant to) {
    List<Occurrence> occurrences = Occurrences.between(meeting, from, to);
    int[] starts = new int[occurrences.size()];
    int[] ends = new int[starts.length];
    for (int i = 0; i < starts.length; i++) {
      starts[i] = (int) Math.floorDiv(occurrences.get(i).start().getEpochSecond(), 60);
      ends[i] = (int) Math.floorDiv(occurrences.get(i).end().getEpochSecond(), 60);
    }
    register.add(facts, starts, ends);
  }

  private static void sort(List<FindingView> findings) {
    findings.sort(Comparator.comparingInt(FindingView::severity).reversed());
  }

  private static Assessment assessment(
      Auditor auditor, MeetingFacts facts, List<FindingView> findings, Set<String> fields) {
    Judgement judgement = auditor.judge(facts);
    Judgement.Basis basis = judgement.basis();
    return new Assessment(
        facts.id(),
        fields.contains("exposure") ? AssessmentView.Scores.of(basis.exposure()) : null,
        fields.contains("matrix") ? AssessmentView.matrix(basis.matrix()) : null,
        fields.contains("findings") ? findings : null,
        fields.contains("remedy")
            ? AssessmentView.RemedyView.of(
                RemedySearch.cheapest(judgement, facts.reach(), Set.of(), facts.means()))
            : null,
        fields.contains("resolved") ? AssessmentView.resolved(facts.rules()) : null);
  }
}
