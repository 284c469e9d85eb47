package app.uprightwarden.server.waivers;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.server.access.AccessService;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.live.Signals;
import app.uprightwarden.server.outbox.OutboxService;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.register.Stored;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.json.JsonMapper;

/** What hosts ask for that the rulebook does not allow them. */
@Service
public class WaiverRequests {
  private static final String COLUMNS =
      "select id, meeting, control, wanted, reason, asked_by, asked_at, state, answered_by,"
          + " answered_at, answer from waiver_request ";

  private final JdbcClient jdbc;
  private final OutboxService outbox;
  private final AccessService access;
  private final JsonMapper json;
  private final Signals signals;
  private final Clock clock;

  WaiverRequests(
      JdbcClient jdbc,
      OutboxService outbox,
      AccessService access,
      JsonMapper json,
      Signals signals,
      Clock clock) {
    this.signals = signals;
    this.jdbc = jdbc;
    this.outbox = outbox;
    this.access = access;
    this.json = json;
    this.clock = clock;
  }

  /**
   * A request.
   *
   * @param wanted the value's plain form
   * @param state {@code open}, {@code granted} or {@code refused}
   */
  public record WaiverRequest(
      long id,
      String meeting,
      String control,
      Object wanted,
      String reason,
      String askedBy,
      Instant askedAt,
      String state,
      @Nullable String answeredBy,
      @Nullable Instant answeredAt,
      @Nullable String answer) {}

  /** Asks, and writes to every administrator. */
  @Transactional
  public int ask(Stored meeting, Control control, Value wanted, String reason, SignedIn who) {
    jdbc.sql(
            "insert into waiver_request (meeting, control, wanted, reason, asked_by, asked_at)"
                + " values (?, ?, ?, ?, ?, ?)")
        .params(
            meeting.meeting().id(),
            control.id(),
            json.writeValueAsString(control.plain(wanted)),
            reason,
            who.email(),
            now())
        .update();
    signals.send(Signals.Topic.WAIVERS);
    String body =
        """
        %s asks for a waiver.

        Meeting:  %s
        Control:  %s
        Wanted:   %s
        Reason:   %s

        Nothing was changed. Open the meeting in Upright Warden to set it, with your reason.
        """
            .formatted(
                who.name(),
                meeting.meeting().title(),
                control.title(),
                control.label(wanted),
                reason);
    return outbox.write(
        access.wardens().stream()
            .map(
                email ->
                    new OutboxService.Letter(
                        email,
                        "A waiver is asked for: " + meeting.meeting().title(),
                        "meeting:" + meeting.meeting().id(),
                        body))
            .toList(),
        who.email());
  }

  /** What was asked for a meeting, the last first. */
  @Transactional(readOnly = true)
  public List<WaiverRequest> of(String meeting) {
    return jdbc.sql(COLUMNS + "where meeting = ? order by id desc")
        .param(meeting)
        .query(this::request)
        .list();
  }

  /** What waits for an answer, the first asked first. */
  @Transactional(readOnly = true)
  public List<WaiverRequest> open(int most) {
    return jdbc.sql(COLUMNS + "where state = 'open' order by id limit ?")
        .param(most)
        .query(this::request)
        .list();
  }

  /** What somebody asked for, the last first. */
  @Transactional(readOnly = true)
  public List<WaiverRequest> by(String email, int most) {
    return jdbc.sql(COLUMNS + "where lower(asked_by) = lower(?) order by id desc limit ?")
        .params(email, most)
        .query(this::request)
        .list();
  }

  /**
   * Answers a request and tells whoever asked.
   *
   * @throws ProblemException 409 where it was answered already
   */
  @Transactional
  public WaiverRequest answer(long id, boolean granted, String answer, SignedIn by) {
    WaiverRequest request =
        jdbc.sql(COLUMNS + "where id = ? for update")
            .param(id)
            .query(this::request)
            .optional()
            .orElseThrow(() -> ProblemException.notFound("There is no such request."));
    if (!request.state().equals("open")) {
      throw ProblemException.conflict(
          "answered", "Somebody else has answered this request meanwhile.");
    }
    jdbc.sql(
            "update waiver_request set state = ?, answered_by = ?, answered_at = ?, answer = ?"
                + " where id = ?")
        .params(granted ? "granted" : "refused", by.email(), now(), answer, id)
        .update();
    outbox.write(
        List.of(
            new OutboxService.Letter(
                request.askedBy(),
                granted ? "Your waiver is granted" : "Your waiver is refused",
                "meeting:" + request.meeting(),
                by.name() + (granted ? " granted" : " refused") + " it.\n\n" + answer + "\n")),
        by.email());
    signals.send(Signals.Topic.WAIVERS);
    return request;
  }

  private LocalDateTime now() {
    return LocalDateTime.ofInstant(clock.instant(), ZoneOffset.UTC);
  }

  private WaiverRequest request(ResultSet r, int n) throws SQLException {
    LocalDateTime answered = r.getObject(10, LocalDateTime.class);
    return new WaiverRequest(
        r.getLong(1),
        r.getString(2),
        r.getString(3),
        json.readValue(r.getString(4), Object.class),
        r.getString(5),
        r.getString(6),
        r.getObject(7, LocalDateTime.class).toInstant(ZoneOffset.UTC),
        r.getString(8),
        r.getString(9),
        answered == null ? null : answered.toInstant(ZoneOffset.UTC),
        r.getString(11));
  }
}
