package app.uprightwarden.server.register;

import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.vault.Vault;
import java.time.Clock;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.util.Arrays;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.RowCallbackHandler;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** What meetings were before they were changed, who changed them, and those that were cancelled. */
@Service
public class MeetingVersions {
  private final JdbcClient jdbc;
  private final Vault vault;
  private final JsonMapper json;
  private final Clock clock;

  MeetingVersions(JdbcClient jdbc, Vault vault, JsonMapper json, Clock clock) {
    this.jdbc = jdbc;
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
  void keep(Stored stored) {
    Map<String, @Nullable Object> document =
        MeetingDocument.of(new Scheduled(stored.meeting(), stored.details(), null));
    jdbc.sql(
            "insert into meeting_version (meeting, version, title, host, at, changed_by, act,"
                + " remark, document, passcode_cipher) select public_id, version, title, host,"
                + " changed_at, changed_by, act, remark, ?, passcode_cipher from meeting where id = ?")
        .params(json.writeValueAsString(document), stored.row())
        .update();
  }

  @Transactional(propagation = Propagation.MANDATORY)
  void cancelled(Stored stored, String by, @Nullable String remark) {
    jdbc.sql(
            "insert into meeting_version (meeting, version, title, host, at, changed_by, act,"
                + " remark) values (?, ?, ?, ?, ?, ?, 'cancelled', ?)")
        .params(
            Arrays.asList(
                stored.meeting().id(),
                stored.version() + 1,
                stored.meeting().title(),
                stored.meeting().host(),
                LocalDateTime.ofInstant(clock.instant(), ZoneOffset.UTC),
                by,
                remark))
        .update();
  }

  @Transactional(propagation = Propagation.MANDATORY)
  void forget(String id) {
    jdbc.sql("delete from meeting_version where meeting = ?").param(id).update();
  }

  /** The versions that were replaced, newest first. */
  @Transactional(readOnly = true)
  public List<Version> of(String meeting) {
    return jdbc.sql(
            "select id, meeting, title, host, at, changed_by, act, remark, document from"
                + " meeting_version"
                + " where meeting = ? order by id desc limit 500")
        .param(meeting)
        .query(
            (r, n) -> {
              String document = r.getString(9);
              return new Version(
                  r.getLong(1),
                  r.getString(2),
                  r.getString(3),
                  r.getString(4),
                  r.getObject(5, LocalDateTime.class).toInstant(ZoneOffset.UTC),
                  r.getString(6),
                  r.getString(7),
                  r.getString(8),
                  document == null ? null : json.readTree(document));
            })
        .list();
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
    return jdbc.sql("select host from meeting_version where meeting = ? order by id desc limit 1")
        .param(meeting)
        .query(String.class)
        .optional()
        .orElse("");
  }

  /** The passcode a version had, or null. */
  @Transactional(readOnly = true)
  public @Nullable String passcode(Version version) {
    return jdbc.sql("select passcode_cipher from meeting_version where id = ?")
        .param(version.id())
        .query((r, n) -> Optional.ofNullable(r.getBytes(1)))
        .optional()
        .flatMap(c -> c)
        .map(cipher -> vault.open(version.meeting(), cipher))
        .orElse(null);
  }

  /** Meetings that were cancelled, last first. */
  @Transactional(readOnly = true)
  public List<Cancelled> cancelled(int most) {
    return jdbc.sql(
            "select v.meeting, v.title, v.host, v.at, v.changed_by from meeting_version v where"
                + " v.act = 'cancelled' and v.id = (select max(w.id) from meeting_version w where"
                + " w.meeting = v.meeting) and not exists (select 1 from meeting m where"
                + " m.public_id = v.meeting) order by v.id desc limit ?")
        .param(most)
        .query(
            (r, n) ->
                new Cancelled(
                    r.getString(1),
                    r.getString(2),
                    r.getString(3),
                    r.getObject(4, LocalDateTime.class).toInstant(ZoneOffset.UTC),
                    r.getString(5)))
        .list();
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
    jdbc.sql(
            "select public_id, changed_by, changed_at, act from meeting where public_id in (:ids)"
                + " union all select meeting, changed_by, at, act from meeting_version where meeting"
                + " in (:ids)")
        .param("ids", meetings)
        .query(
            (RowCallbackHandler)
                r -> {
                  Instant at = r.getObject(3, LocalDateTime.class).toInstant(ZoneOffset.UTC);
                  Change known = last.get(r.getString(1));
                  boolean inTime = until == null || !at.isAfter(until);
                  if (inTime && (known == null || at.isAfter(known.at()))) {
                    last.put(r.getString(1), new Change(r.getString(2), at, r.getString(4)));
                  }
                });
    return last;
  }
}
