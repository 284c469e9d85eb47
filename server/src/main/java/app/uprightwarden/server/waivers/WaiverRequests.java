package app.uprightwarden.server.waivers;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.server.access.AccessService;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.live.Signals;
import app.uprightwarden.server.outbox.OutboxService;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.register.RegisterService;
import app.uprightwarden.server.register.StoredMeeting;
import app.uprightwarden.server.schema.Plain;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.json.JsonMapper;

/** What hosts ask for that the rulebook does not allow them. */
@Service
public class WaiverRequests {
  /** Each writes to every administrator. */
  private static final int MAX_ASKED = 50;

  private final WaiverRequestRepository requests;
  private final OutboxService outbox;
  private final AccessService access;
  private final UnitWaivers unitWaivers;
  private final RegisterService register;
  private final JsonMapper json;
  private final Signals signals;
  private final Clock clock;

  WaiverRequests(
      WaiverRequestRepository requests,
      OutboxService outbox,
      AccessService access,
      UnitWaivers unitWaivers,
      RegisterService register,
      JsonMapper json,
      Signals signals,
      Clock clock) {
    this.signals = signals;
    this.requests = requests;
    this.outbox = outbox;
    this.access = access;
    this.unitWaivers = unitWaivers;
    this.register = register;
    this.json = json;
    this.clock = clock;
  }

  /**
   * A request.
   *
   * @param title of the meeting; null where it is gone
   * @param wanted the value's plain form
   * @param state {@code open}, {@code granted} or {@code refused}
   */
  public record WaiverRequest(
      long id,
      String meeting,
      @Nullable String title,
      String control,
      @Plain Object wanted,
      String reason,
      String askedBy,
      Instant askedAt,
      String state,
      @Nullable String answeredBy,
      @Nullable Instant answeredAt,
      @Nullable String answer) {}

  /**
   * Asks, and writes to every administrator.
   *
   * @return how many were written to
   * @throws ProblemException 409 where they have asked for the same and it waits for an answer, or
   *     where {@value #MAX_ASKED} of their requests do
   */
  @Transactional
  public int ask(
      StoredMeeting meeting, Control control, Value wanted, String reason, SignedIn who) {
    String plain = json.writeValueAsString(control.plain(wanted));
    checkNotAsked(meeting.meeting().id(), control, plain, who);
    WaiverRequestEntity row = new WaiverRequestEntity();
    row.meeting = meeting.meeting().id();
    row.control = control.id();
    row.wanted = plain;
    row.reason = reason;
    row.askedBy = who.email();
    row.askedAt = clock.instant();
    requests.insert(row);
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

  private void checkNotAsked(String meeting, Control control, String wanted, SignedIn who) {
    boolean isAsked =
        requests.lockedOpen(meeting).stream()
            .anyMatch(
                row ->
                    row.control.equals(control.id())
                        && row.wanted.equals(wanted)
                        && row.askedBy.equals(who.email()));
    if (isAsked) {
      throw ProblemException.conflict(
          "already-asked",
          "You have asked for this already, and it waits for an answer. Nothing was sent again.");
    }
    if (requests.countOpen(who.email()) >= MAX_ASKED) {
      throw ProblemException.conflict(
          "too-many-requests",
          "You have "
              + MAX_ASKED
              + " requests that wait for an answer. Ask again once some are answered. Nothing was"
              + " sent.");
    }
  }

  /** What was asked for a meeting, the last first. */
  @Transactional(readOnly = true)
  public List<WaiverRequest> of(String meeting) {
    return views(requests.of(meeting));
  }

  private static final int MAX_OPEN = 200;

  /** What waits for an answer and concerns somebody, the first asked first. */
  @Transactional(readOnly = true)
  public List<WaiverRequest> openFor(SignedIn who) {
    return views(requests.open(MAX_OPEN)).stream()
        .filter(each -> unitWaivers.concerns(who, each.meeting(), null))
        .toList();
  }

  /** What somebody asked for, the last first. */
  @Transactional(readOnly = true)
  public List<WaiverRequest> by(String email, int most) {
    return views(requests.by(email, most));
  }

  /**
   * Answers a request and tells whoever asked.
   *
   * @throws ProblemException 409 where it was answered already
   */
  @Transactional
  public WaiverRequest answer(long id, boolean granted, String answer, SignedIn by) {
    WaiverRequestEntity row =
        requests
            .locked(id)
            .orElseThrow(() -> ProblemException.notFound("There is no such request."));
    WaiverRequest request = views(List.of(row)).get(0);
    if (!request.state().equals("open")) {
      throw ProblemException.conflict(
          "answered", "Somebody else has answered this request meanwhile.");
    }
    row.state = granted ? "granted" : "refused";
    row.answeredBy = by.email();
    row.answeredAt = clock.instant();
    row.answer = answer;
    requests.update(row);
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

  private List<WaiverRequest> views(List<WaiverRequestEntity> rows) {
    Map<String, String> titles =
        register.titles(rows.stream().map(row -> row.meeting).distinct().toList());
    return rows.stream().map(row -> request(row, titles.get(row.meeting))).toList();
  }

  private WaiverRequest request(WaiverRequestEntity row, @Nullable String title) {
    return new WaiverRequest(
        row.id,
        row.meeting,
        title,
        row.control,
        json.readValue(row.wanted, Object.class),
        row.reason,
        row.askedBy,
        row.askedAt,
        row.state,
        row.answeredBy,
        row.answeredAt,
        row.answer);
  }
}
