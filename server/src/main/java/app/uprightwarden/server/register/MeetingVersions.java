package app.uprightwarden.server.register;

import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.vault.Vault;
import java.time.Clock;
import java.time.Instant;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** What meetings were before they were changed, who changed them, and those that were cancelled. */
@Service
public class MeetingVersions {
  private static final int MAX = 500;

  private final MeetingVersionRepository versions;
  private final Vault vault;
  private final JsonMapper json;
  private final Clock clock;

  MeetingVersions(MeetingVersionRepository versions, Vault vault, JsonMapper json, Clock clock) {
    this.versions = versions;
    this.vault = vault;
    this.json = json;
    this.clock = clock;
  }

  /**
   * A version that was replaced, or the end of a meeting.
   *
   * @param document the meeting without its passcode; null where it was cancelled
   */
  public record Version(
      long id,
      String meeting,
      String title,
      String host,
      Instant at,
      String by,
      String act,
      @Nullable String remark,
      @Nullable JsonNode document) {}

  /** A meeting that was cancelled and not put back. */
  public record Cancelled(String id, String title, String host, Instant at, String by) {}

  /** Keeps what is stored now, inside the change that replaces it. */
  @Transactional(propagation = Propagation.MANDATORY)
  void keep(List<MeetingVersionEntity> replaced) {
    versions.insertAll(replaced);
  }

  /** The row of a version that is replaced. */
  MeetingVersionEntity version(StoredMeeting stored, byte @Nullable [] cipher) {
    Map<String, @Nullable Object> document =
        MeetingDocument.of(new Scheduled(stored.meeting(), stored.details(), null));
    MeetingVersionEntity row = new MeetingVersionEntity();
    row.meeting = stored.meeting().id();
    row.version = stored.version();
    row.title = stored.meeting().title();
    row.host = stored.meeting().host();
    row.at = stored.changedAt();
    row.changedBy = stored.changedBy();
    row.act = stored.act();
    row.remark = stored.remark();
    row.document = json.writeValueAsString(document);
    row.passcodeCipher = cipher;
    return row;
  }

  @Transactional(propagation = Propagation.MANDATORY)
  void cancelled(StoredMeeting stored, String by, @Nullable String remark) {
    MeetingVersionEntity row = new MeetingVersionEntity();
    row.meeting = stored.meeting().id();
    row.version = stored.version() + 1;
    row.title = stored.meeting().title();
    row.host = stored.meeting().host();
    row.at = clock.instant();
    row.changedBy = by;
    row.act = "cancelled";
    row.remark = remark;
    versions.insert(row);
  }

  @Transactional(propagation = Propagation.MANDATORY)
  void forget(List<String> ids) {
    versions.forget(ids);
  }

  /** The versions that were kept last of meetings: what they were before their last change. */
  @Transactional(readOnly = true)
  public Map<String, Long> lastKept(Collection<String> meetings) {
    Map<String, Long> last = new HashMap<>();
    if (!meetings.isEmpty()) {
      versions.lastKept(meetings).forEach(row -> last.put(row.meeting(), row.id()));
    }
    return last;
  }

  /** The versions that were replaced, newest first. */
  @Transactional(readOnly = true)
  public List<Version> of(String meeting) {
    return versions.of(meeting, MAX).stream()
        .map(
            row ->
                new Version(
                    row.id,
                    row.meeting,
                    row.title,
                    row.host,
                    row.at,
                    row.changedBy,
                    row.act,
                    row.remark,
                    row.document == null ? null : json.readTree(row.document)))
        .toList();
  }

  /** One version of a meeting; there is none without a document. */
  @Transactional(readOnly = true)
  public Version get(String meeting, long id) {
    return of(meeting).stream()
        .filter(v -> v.id() == id && v.document() != null)
        .findFirst()
        .orElseThrow(() -> ProblemException.notFound("There is no such version of it."));
  }

  /** Who hosted a meeting last, of one that was cancelled too; empty where there never was one. */
  @Transactional(readOnly = true)
  public String lastHost(String meeting) {
    return versions.lastHost(meeting).orElse("");
  }

  /** The passcode a version had, or null. */
  @Transactional(readOnly = true)
  public @Nullable String passcode(Version version) {
    byte[] cipher = versions.find(version.id()).map(row -> row.passcodeCipher).orElse(null);
    return cipher == null ? null : vault.open(version.meeting(), cipher);
  }

  /** Meetings that were cancelled, last first. */
  @Transactional(readOnly = true)
  public List<Cancelled> cancelled(int most) {
    return versions.cancelled(most).stream()
        .map(row -> new Cancelled(row.meeting, row.title, row.host, row.at, row.changedBy))
        .toList();
  }

  /** Somebody's change of a meeting. */
  public record Change(String by, Instant at, String act) {}

  /**
   * Who changed meetings last.
   *
   * @param until not later than this; null for up to now
   */
  @Transactional(readOnly = true)
  public Map<String, Change> lastChanges(Collection<String> meetings, @Nullable Instant until) {
    Map<String, Change> last = new HashMap<>();
    if (meetings.isEmpty()) {
      return last;
    }
    for (MeetingVersionRepository.Change each : versions.changes(meetings)) {
      Change before = last.get(each.meeting());
      boolean inTime = until == null || !each.at().isAfter(until);
      if (inTime && (before == null || each.at().isAfter(before.at()))) {
        last.put(each.meeting(), new Change(each.by(), each.at(), each.act()));
      }
    }
    return last;
  }
}
