package app.uprightwarden.server.register;

import app.uprightwarden.server.retention.Retention;
import java.time.Instant;
import java.util.List;
import org.springframework.stereotype.Component;

/** What meetings once were, with whom was invited; those cancelled long ago among them. */
@Component
class OldVersions implements Retention {
  private final MeetingVersionRepository versions;

  OldVersions(MeetingVersionRepository versions) {
    this.versions = versions;
  }

  @Override
  public String what() {
    return "versions";
  }

  @Override
  public int letGo(Instant before, int most) {
    List<Long> old = versions.old(before, most);
    return old.isEmpty() ? 0 : versions.delete(old);
  }
}
