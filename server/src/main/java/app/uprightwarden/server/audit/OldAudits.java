package app.uprightwarden.server.audit;

import app.uprightwarden.server.retention.Retention;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Audits that were kept long enough; the baseline, the standing and the last one stay. */
@Component
class OldAudits implements Retention {
  private final AuditRunRepository runs;
  private final FindingRepository findings;

  OldAudits(AuditRunRepository runs, FindingRepository findings) {
    this.runs = runs;
    this.findings = findings;
  }

  @Override
  public String what() {
    return "audits";
  }

  @Override
  @Transactional
  public int letGo(Instant before, int most) {
    Optional<AuditRunEntity> old = runs.old(before);
    if (old.isEmpty()) {
      return 0;
    }
    long id = old.get().id;
    // from the first row that goes it is no longer the audit it was, and must not pass for it
    runs.lettingGo(id);
    // its rows first, some at a time: deleting with their audit they would all go at once
    List<Long> some = findings.someFindings(id, most);
    List<String> meetings = findings.meetingsAfter(id, "", most);
    if (some.isEmpty() && meetings.isEmpty()) {
      runs.delete(id);
      return 1;
    }
    return (some.isEmpty() ? 0 : findings.deleteFindings(some))
        + (meetings.isEmpty() ? 0 : findings.deleteMeetings(id, meetings));
  }
}
