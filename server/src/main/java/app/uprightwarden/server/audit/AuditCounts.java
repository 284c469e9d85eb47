package app.uprightwarden.server.audit;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.server.problem.Worded;
import app.uprightwarden.server.rulebook.RulebookService;
import java.util.Collection;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** How much audits found: by severity, by check and by unit. */
@Service
public class AuditCounts {
  /** Narrows findings {@code f} to meetings of some units' hosts. */
  private static final String OF_UNITS =
      " and f.meeting in (select m.meeting from AuditedMeetingEntity m where m.audit = :id and"
          + " m.unit in :units)";

  private final AuditRuns runs;
  private final FindingRepository findings;
  private final RulebookService rulebook;
  private final Counted<Tally> tallies = new Counted<>();

  AuditCounts(AuditRuns runs, FindingRepository findings, RulebookService rulebook) {
    this.runs = runs;
    this.findings = findings;
    this.rulebook = rulebook;
  }

  private <T> List<T> of(
      String begin, String end, Class<T> type, long id, @Nullable Collection<String> units) {
    Map<String, Object> parameters = new LinkedHashMap<>();
    parameters.put("id", id);
    if (units != null) {
      parameters.put("units", units.isEmpty() ? List.of("") : units);
    }
    return findings.query(
        begin + (units == null ? "" : OF_UNITS) + end, type, parameters, 0, Integer.MAX_VALUE);
  }

  private record OfSeverity(int severity, boolean waived, long findings) {}

  /**
   * What is open and what is waived.
   *
   * @param open by severity, 5 to 1
   */
  public record Tally(Map<Integer, Integer> open, int waived) {}

  /**
   * Counts an audit's findings.
   *
   * @param units only of meetings of these units' hosts; null for all
   */
  @Transactional(readOnly = true)
  public Tally tally(long id, @Nullable Collection<String> units) {
    return tallies.get(runs.get(id), id + " " + units, () -> counted(id, units));
  }

  private Tally counted(long id, @Nullable Collection<String> units) {
    Map<Integer, Integer> open = new LinkedHashMap<>();
    for (int severity = 5; severity >= 1; severity--) {
      open.put(severity, 0);
    }
    int[] waived = new int[1];
    for (OfSeverity each :
        of(
            "select f.severity, (f.waiver is not null) as waived, count(*) from FindingEntity f"
                + " where f.audit = :id",
            " group by f.severity, waived",
            OfSeverity.class,
            id,
            units)) {
      if (each.waived()) {
        waived[0] += Math.toIntExact(each.findings());
      } else {
        open.put(each.severity(), Math.toIntExact(each.findings()));
      }
    }
    return new Tally(open, waived[0]);
  }

  /**
   * How many open findings of each check, and how many meetings have one.
   *
   * @param subject the control or guarantee that is concerned, or empty
   * @param about the same in words
   */
  public record CheckCount(
      String check, String subject, @Worded String about, int worst, int findings, int meetings) {}

  /**
   * The gravest checks first.
   *
   * @param units only of meetings of these units' hosts; null for all
   */
  @Transactional(readOnly = true)
  public List<CheckCount> byCheck(long id, @Nullable Collection<String> units) {
    Map<String, String> guarantees = guarantees(id);
    return of(
            "select f.checkId, f.subject, max(f.severity) as worst, count(*) as total,"
                + " count(distinct f.meeting) from FindingEntity f where f.audit = :id"
                + " and f.waiver is null",
            " group by f.checkId, f.subject order by worst desc, total desc, f.checkId, f.subject",
            OfCheck.class,
            id,
            units)
        .stream()
        .map(
            row ->
                new CheckCount(
                    row.check(),
                    row.subject(),
                    about(row.subject(), guarantees),
                    row.worst(),
                    Math.toIntExact(row.findings()),
                    Math.toIntExact(row.meetings())))
        .toList();
  }

  /** The sentences of the guarantees that an audit judged by. */
  private Map<String, String> guarantees(long id) {
    Map<String, String> sentences = new HashMap<>();
    rulebook.rulebook(rulebook.edition(runs.get(id).edition())).layers().stream()
        .flatMap(layer -> layer.guarantees().stream())
        .forEach(guarantee -> sentences.putIfAbsent(guarantee.id(), guarantee.sentence()));
    return sentences;
  }

  private static String about(String subject, Map<String, String> guarantees) {
    Control control = Control.byId(subject);
    return control == null ? guarantees.getOrDefault(subject, subject) : control.title();
  }

  private record OfCheck(String check, String subject, int worst, long findings, long meetings) {}

  /** Open findings by unit, severity 5 first; a host of no unit counts as "". */
  public record UnitCount(String unit, int meetings, Map<Integer, Integer> bySeverity) {}

  @Transactional(readOnly = true)
  public List<UnitCount> byUnit(long id) {
    Map<String, UnitCount> units = new LinkedHashMap<>();
    for (FindingRepository.UnitMeetings row : findings.unitMeetings(id)) {
      units.put(
          row.unit(),
          new UnitCount(row.unit(), Math.toIntExact(row.meetings()), new LinkedHashMap<>()));
    }
    for (FindingRepository.UnitSeverity row : findings.unitSeverities(id)) {
      UnitCount of = units.get(row.unit());
      if (of != null) {
        of.bySeverity().put(row.severity(), Math.toIntExact(row.findings()));
      }
    }
    return List.copyOf(units.values());
  }
}
