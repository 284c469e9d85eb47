package app.uprightwarden.server.floor;

import app.uprightwarden.core.audit.FactsBuilder;
import app.uprightwarden.core.calendar.Occurrences;
import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.meeting.Occurrence;
import app.uprightwarden.core.session.SessionPlan;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.audit.AuditRun;
import app.uprightwarden.server.audit.ContinuousAudit;
import app.uprightwarden.server.audit.FindingQueries;
import app.uprightwarden.server.bridge.SessionHolder;
import app.uprightwarden.server.bridge.SessionHolders;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.register.ControlsJson;
import app.uprightwarden.server.register.HeldMeeting;
import app.uprightwarden.server.register.RegisterService;
import app.uprightwarden.server.register.StoredMeeting;
import app.uprightwarden.server.rulebook.RulebookService;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.dao.DataIntegrityViolationException;
import org.springframework.stereotype.Service;
import org.springframework.transaction.support.TransactionTemplate;

/** Opens sessions: stores them first, then has the conference service hold them. */
@Service
public class FloorOpening {
  private static final Logger LOG = LoggerFactory.getLogger(FloorOpening.class);
  private static final Duration DOOR_OPENS = Duration.ofMinutes(5);
  private static final Duration STARTED_BEFORE = Duration.ofHours(12);
  private static final Duration LONGEST_EARLY = Duration.ofHours(1);
  private static final Duration LOOK_AHEAD = Duration.ofDays(400);
  private static final int MAX_AT_ONCE = 500;

  private final FloorStore store;
  private final RegisterService register;
  private final FloorRoster roster;
  private final RulebookService rulebook;
  private final ContinuousAudit audit;
  private final FindingQueries audits;
  private final SessionHolders holders;
  private final TransactionTemplate transaction;
  private final Clock clock;

  FloorOpening(
      FloorStore store,
      RegisterService register,
      FloorRoster roster,
      RulebookService rulebook,
      ContinuousAudit audit,
      FindingQueries audits,
      SessionHolders holders,
      TransactionTemplate transaction,
      Clock clock) {
    this.store = store;
    this.register = register;
    this.roster = roster;
    this.rulebook = rulebook;
    this.audit = audit;
    this.audits = audits;
    this.holders = holders;
    this.transaction = transaction;
    this.clock = clock;
  }

  /**
   * A practice session.
   *
   * @param meeting whose next time it is held as
   * @param script {@code usual}, {@code strangers}, {@code storm} or {@code crowd}
   * @param speed how fast its clock runs
   * @param strangers how many come who were not asked; the script may have more
   */
  public record PracticeAsked(String meeting, String script, double speed, int strangers) {}

  /**
   * Opens a practice session.
   *
   * @return its id
   */
  public String practice(PracticeAsked asked, SignedIn by) {
    StoredMeeting stored = register.get(asked.meeting(), by);
    Meeting meeting = stored.meeting();
    Instant now = clock.instant();
    List<Occurrence> coming =
        Occurrences.between(meeting, now.minus(Duration.ofHours(1)), now.plus(LOOK_AHEAD));
    Occurrence next =
        coming.isEmpty()
            ? new Occurrence(meeting.start(), now, now.plus(Duration.ofMinutes(meeting.minutes())))
            : coming.get(0);
    Instant from = next.start().minus(DOOR_OPENS);
    FloorSession session =
        new FloorSession(
            "s-" + UUID.randomUUID(),
            meeting.id(),
            next.at().toString(),
            meeting.title(),
            meeting.host(),
            meeting.coHosts(),
            next.start(),
            next.end(),
            from,
            now,
            asked.speed(),
            true,
            asked.script(),
            asked.strangers(),
            rulebook.inForce().number(),
            meeting.kind(),
            judged(meeting, next.at().toString()),
            "asked",
            0,
            by.email(),
            heldBy(stored, true),
            null);
    transaction.executeWithoutResult(status -> store.add(session));
    try {
      openAtTheService(session);
    } catch (SessionHolder.Away e) {
      LOG.info("a session waits for the conference service: {}", e.getMessage());
    }
    return session.id();
  }

  /** The values of one date as they are judged. */
  private static ControlValues judged(Meeting meeting, String occurrence) {
    return FactsBuilder.judged(FloorFollow.valuesAt(meeting, occurrence), meeting.passcode());
  }

  /**
   * How long before its start a date's door opens: as its early entry says. At any time is an hour,
   * and who may not come early may still be waiting at the door five minutes before.
   */
  private static Duration opensBefore(Meeting meeting, Occurrence occurrence) {
    ControlValues values = FloorFollow.valuesAt(meeting, occurrence.at().toString());
    Object early = Control.EARLY_ENTRY.plain(values.effective(Control.EARLY_ENTRY));
    if (early instanceof Integer minutes) {
      Duration wanted = Duration.ofMinutes(minutes);
      return wanted.compareTo(DOOR_OPENS) < 0
          ? DOOR_OPENS
          : wanted.compareTo(LONGEST_EARLY) > 0 ? LONGEST_EARLY : wanted;
    }
    return LONGEST_EARLY;
  }

  /** Opens the sessions of meetings whose door opens now, each once, whoever finds it first. */
  void openDue() {
    Instant now = clock.instant();
    Long standing = audit.now().map(AuditRun::id).orElse(null);
    if (standing == null) {
      return;
    }
    // all of them, however many come together; who opened before is found open again
    List<FindingQueries.Audited> page;
    for (int from = 0; ; from += MAX_AT_ONCE) {
      page = audits.due(standing, now.plus(LONGEST_EARLY), from, MAX_AT_ONCE);
      Map<String, StoredMeeting> there =
          register.among(page.stream().map(FindingQueries.Audited::meeting).toList());
      for (FindingQueries.Audited due : page) {
        StoredMeeting stored = there.get(due.meeting());
        if (stored != null) {
          occurrences(stored.meeting(), now)
              .forEach(occurrence -> openDue(stored, occurrence, now));
        }
      }
      if (page.size() < MAX_AT_ONCE) {
        return;
      }
    }
  }

  /** One meeting whose rule cannot be followed keeps no other from being opened. */
  private static List<Occurrence> occurrences(Meeting meeting, Instant now) {
    try {
      return Occurrences.between(meeting, now, now.plus(LONGEST_EARLY)).stream()
          .filter(each -> !each.start().isAfter(now.plus(opensBefore(meeting, each))))
          .toList();
    } catch (IllegalArgumentException e) {
      LOG.debug("{} recurs as nobody can follow: {}", meeting.id(), e.getMessage());
      return List.of();
    }
  }

  /**
   * Opens the session of a meeting's next date before its door would open by itself.
   *
   * @return its id, of the one that is open already where there is one
   * @throws ProblemException 409 where no date begins within half a day
   */
  public String start(String id, SignedIn by) {
    StoredMeeting stored = register.get(id, by);
    Meeting meeting = stored.meeting();
    Instant now = clock.instant();
    Occurrence next =
        Occurrences.between(meeting, now, now.plus(STARTED_BEFORE)).stream()
            .findFirst()
            .orElseThrow(
                () ->
                    ProblemException.conflict(
                        "not-yet",
                        "It can be started from twelve hours before its start, until its end."));
    openDue(stored, next, now);
    return store.ofMeetings(List.of(id)).stream()
        .map(each -> each.session().id())
        .findFirst()
        .orElseThrow(
            () ->
                ProblemException.conflict(
                    "was-ended", "The session of this date has ended already."));
  }

  /** The linked service that holds its session; null where it holds none. */
  private @Nullable Long heldBy(StoredMeeting stored, boolean practice) {
    HeldMeeting held = stored.service();
    return held != null && holders.holds(held.service().id(), practice)
        ? held.service().id()
        : null;
  }

  private void openDue(StoredMeeting stored, Occurrence occurrence, Instant now) {
    Meeting meeting = stored.meeting();
    if (store.hasSession(meeting.id(), occurrence.at().toString())) {
      return;
    }
    // named by what it is, so that two who find it at once make one of it
    String name = meeting.id() + "/" + occurrence.at();
    String id = "o-" + UUID.nameUUIDFromBytes(name.getBytes(StandardCharsets.UTF_8));
    FloorSession session =
        new FloorSession(
            id,
            meeting.id(),
            occurrence.at().toString(),
            meeting.title(),
            meeting.host(),
            meeting.coHosts(),
            occurrence.start(),
            occurrence.end(),
            now,
            now,
            1,
            false,
            "usual",
            0,
            rulebook.inForce().number(),
            meeting.kind(),
            judged(meeting, occurrence.at().toString()),
            "asked",
            0,
            "upright-warden",
            heldBy(stored, false),
            null);
    try {
      transaction.executeWithoutResult(status -> store.add(session));
      openAtTheService(session);
    } catch (DataIntegrityViolationException e) {
      LOG.debug("another server has opened {}", id);
    } catch (SessionHolder.Away e) {
      LOG.debug("a session waits for the conference service: {}", e.getMessage());
    }
  }

  /**
   * Tells the service to hold a session that is stored.
   *
   * @return false where its meeting was cancelled meanwhile, or its service linked no more
   */
  boolean openAtTheService(FloorSession session) throws SessionHolder.Away {
    StoredMeeting stored = register.find(session.meeting()).orElse(null);
    if (stored == null) {
      return false;
    }
    SessionHolder holder = holders.of(session.service());
    if (holder == null) {
      return false;
    }
    HeldMeeting held = stored.service();
    holder.open(
        new SessionPlan(
            session.id(),
            session.service() == null || held == null ? session.meeting() : held.there(),
            session.title(),
            session.host(),
            session.starts(),
            session.ends(),
            session.clockFrom(),
            ControlsJson.plain(session.controls()),
            roster.comers(stored.meeting()),
            new SessionPlan.Practice(
                session.script(), session.speed(), session.strangers(), session.id().hashCode())));
    return true;
  }
}
