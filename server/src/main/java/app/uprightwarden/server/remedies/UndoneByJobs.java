package app.uprightwarden.server.remedies;

import app.uprightwarden.server.audit.UndoneRemedies;
import java.time.Instant;
import java.util.Collection;
import java.util.HashMap;
import java.util.Map;
import org.springframework.stereotype.Component;

/** Tells the audit which remedies were undone of late. */
@Component
class UndoneByJobs implements UndoneRemedies {
  private final RemedyRepository remedies;

  UndoneByJobs(RemedyRepository remedies) {
    this.remedies = remedies;
  }

  @Override
  public Map<String, Instant> askedAt(Collection<String> meetings, Instant since) {
    Map<String, Instant> asked = new HashMap<>();
    remedies.undone(meetings, since).forEach(row -> asked.put(row.meeting(), row.at()));
    return asked;
  }
}
