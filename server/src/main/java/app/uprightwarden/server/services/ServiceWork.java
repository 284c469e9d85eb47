package app.uprightwarden.server.services;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.session.SessionEvent;
import app.uprightwarden.server.bridge.SessionEvents;
import app.uprightwarden.server.jobs.JobKind;
import app.uprightwarden.server.live.Signals;
import app.uprightwarden.server.persistence.DatabaseClock;
import app.uprightwarden.server.register.HeldMeeting;
import app.uprightwarden.server.register.HeldMeetings;
import app.uprightwarden.server.register.HeldReadings;
import app.uprightwarden.server.register.MeetingDocument;
import app.uprightwarden.server.register.RegisterService;
import app.uprightwarden.server.register.Scheduled;
import app.uprightwarden.server.register.StoredMeeting;
import java.net.URI;
import java.time.Duration;
import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Speaks with a service: reads what was changed there, writes what was decided here, and reads that
 * back, one after the other by one thread of one server, so that nothing older is taken for newer.
 * Stopped anywhere, whoever goes on reads from the last page that was stored and sends again, under
 * the same number, what was not answered.
 */
@Component
class ServiceWork {
  private static final int PAGE = 250;
  private static final int WRITES = 100;
  private static final Duration TURN = Duration.ofSeconds(20);
  private static final Duration WRITING = Duration.ofSeconds(2);
  private static final Duration POLL = Duration.ofSeconds(1);

  private final ServiceLinks links;
  private final ServiceReading reading;
  private final HeldMeetings held;
  private final HeldReadings readings;
  private final ServiceDefaults defaults;
  private final Registrations registrations;
  private final RegisterService register;
  private final Signals signals;
  private final TransactionTemplate transaction;
  private final DatabaseClock clock;
  private final Duration longestPause;
  private final SessionEvents sessions;
  private final Paces paces;
  private final ServiceHooks hooks;

  ServiceWork(
      ServiceLinks links,
      ServiceReading reading,
      HeldMeetings held,
      HeldReadings readings,
      ServiceDefaults defaults,
      Registrations registrations,
      RegisterService register,
      Signals signals,
      TransactionTemplate transaction,
      DatabaseClock clock,
      SessionEvents sessions,
      Paces paces,
      ServiceHooks hooks,
      @Value("${warden.services.pause:30s}") Duration longestPause) {
    this.links = links;
    this.reading = reading;
    this.held = held;
    this.readings = readings;
    this.defaults = defaults;
    this.registrations = registrations;
    this.register = register;
    this.signals = signals;
    this.transaction = transaction;
    this.clock = clock;
    this.sessions = sessions;
    this.paces = paces;
    this.hooks = hooks;
    this.longestPause = longestPause;
  }

  /**
   * Speaks with a service for a while.
   *
   * @throws JobKind.Later for when to go on; without, nobody is to speak with it any more
   */
  void speak(String service) {
    long id = Long.parseLong(service);
    ServiceLinks.Link link = links.begin(id);
    if (link == null) {
      return;
    }
    Paces.Pace pace = paces.of(id);
    pace.speaks(link.turn());
    long end = System.nanoTime() + TURN.toNanos();
    try {
      if (pace.isToBeAsked()) {
        pace.await(link.about().perSecond());
        links.learned(link, link.service().about());
        pace.asked();
      }
      if (link.about().hooks() && !pace.isHooked()) {
        sayWhereToTell(link, pace);
      }
      boolean busy = true;
      while (busy && System.nanoTime() < end && !Thread.currentThread().isInterrupted()) {
        busy = readSome(link, pace);
        askSessions(link, pace);
        defaults.step(link, () -> pace.await(link.about().perSecond()));
        if (!link.level().equals("read")) {
          busy |= writeSome(link, pace);
          busy |= registrations.tell(link, () -> pace.await(link.about().perSecond()));
        }
      }
      links.inTouch(link);
      pace.answered();
      throw JobKind.Later.goingOn(busy ? Duration.ZERO : POLL);
    } catch (ServiceTrouble trouble) {
      links.inTrouble(link, trouble);
      signals.send(Signals.Topic.SERVICES);
      throw JobKind.Later.goingOn(pause(trouble, pace));
    }
  }

  private Duration pause(ServiceTrouble trouble, Paces.Pace pace) {
    Duration said = trouble.pause();
    Duration ours =
        trouble.kind() == ServiceTrouble.Kind.BUSY ? Duration.ZERO : pace.pause(longestPause);
    return said == null || said.compareTo(ours) < 0 ? ours : said;
  }

  /**
   * What happened in its sessions, where it does not tell by itself: of some of them, so that most
   * of its rate is left to everything else.
   */
  private void askSessions(ServiceLinks.Link link, Paces.Pace pace) throws ServiceTrouble {
    if (pace.isHooked() || !link.about().sessions()) {
      return;
    }
    List<SessionEvents.Running> running = sessions.running(link.id());
    int some = Math.min(running.size(), Math.max(1, link.about().perSecond() / 4));
    int from = pace.turnOf(running.size(), some);
    for (int i = 0; i < some; i++) {
      SessionEvents.Running each = running.get((from + i) % running.size());
      pace.await(link.about().perSecond());
      try {
        List<SessionEvent> events = link.service().events(each.session(), each.seq());
        sessions.take(
            link.id(),
            events.stream().map(event -> new SessionEvents.Told(each.session(), event)).toList());
      } catch (ServiceTrouble e) {
        if (e.kind() != ServiceTrouble.Kind.UNKNOWN) {
          throw e; // one that is not open yet, or not any more, is the floor's to look at
        }
      }
    }
  }

  /** It is read all the same where it cannot be said, or is not taken. */
  private void sayWhereToTell(ServiceLinks.Link link, Paces.Pace pace) throws ServiceTrouble {
    URI here = hooks.of(link.id(), link.address());
    if (here == null) {
      return;
    }
    pace.await(link.about().perSecond());
    try {
      link.service().tellAt(here);
      pace.hooked();
    } catch (ServiceTrouble e) {
      if (e.kind() != ServiceTrouble.Kind.REFUSED && e.kind() != ServiceTrouble.Kind.UNKNOWN) {
        throw e;
      }
    }
  }

  /** Reads a page. @return whether there is more at once */
  private boolean readSome(ServiceLinks.Link link, Paces.Pace pace) throws ServiceTrouble {
    String marker = links.markerOf(link);
    if (marker == null) {
      return false; // somebody else speaks with it by now
    }
    ConferenceService.Page page;
    pace.await(link.about().perSecond());
    try {
      page = link.service().changes(marker.isEmpty() ? null : marker, PAGE);
    } catch (ServiceTrouble e) {
      if (e.kind() != ServiceTrouble.Kind.MARKER_GONE) {
        throw e;
      }
      transaction.executeWithoutResult(status -> anew(link));
      return true;
    }
    List<HeldReadings.Told> told = reading.read(link, page.meetings());
    transaction.executeWithoutResult(status -> take(link, page, told));
    if (!told.isEmpty()) {
      signals.send(Signals.Topic.SERVICES);
    }
    return page.more();
  }

  private void anew(ServiceLinks.Link link) {
    ServiceEntity row = links.turnOf(link);
    if (row != null) {
      row.marker = null;
      row.fullSince = clock.instant();
      links.update(row);
    }
  }

  private void take(
      ServiceLinks.Link link, ConferenceService.Page page, List<HeldReadings.Told> told) {
    ServiceEntity row = links.turnOf(link);
    if (row == null) {
      return; // what another has read since is newer
    }
    readings.read(link.id(), link.name(), link.about().means(), told);
    registrations.read(link.id(), page.meetings());
    row.marker = page.marker();
    Instant since = row.fullSince;
    if (!page.more() && since != null) {
      readings.forgetUnread(link.id(), link.name(), since);
      row.fullSince = null;
      row.fullAt = clock.instant();
    }
    row.contactAt = clock.instant();
    links.update(row);
  }

  /** Writes for a short while. @return whether something was written */
  private boolean writeSome(ServiceLinks.Link link, Paces.Pace pace) throws ServiceTrouble {
    long end = System.nanoTime() + WRITING.toNanos();
    List<HeldMeetings.ToWrite> some = held.toWrite(link.id(), WRITES);
    for (HeldMeetings.ToWrite each : some) {
      if (System.nanoTime() > end || Thread.currentThread().isInterrupted()) {
        break;
      }
      pace.await(link.about().perSecond());
      if (each.isSent()) {
        readBack(link, each);
      } else {
        write(link, each);
      }
    }
    if (!some.isEmpty()) {
      signals.send(Signals.Topic.SERVICES);
    }
    return !some.isEmpty();
  }

  /** What it holds now, whatever it has answered. */
  private void readBack(ServiceLinks.Link link, HeldMeetings.ToWrite each) throws ServiceTrouble {
    ConferenceService.Told now = link.service().meeting(each.there());
    ConferenceService.Told told =
        now == null
            ? new ConferenceService.Told(each.there(), "", null, null, null, null, List.of(), null)
            : now;
    List<HeldReadings.Told> read = reading.read(link, List.of(told));
    transaction.executeWithoutResult(
        status -> {
          if (links.turnOf(link) != null) {
            readings.read(link.id(), link.name(), link.about().means(), read);
            registrations.read(link.id(), List.of(told));
          }
        });
  }

  private void write(ServiceLinks.Link link, HeldMeetings.ToWrite each) throws ServiceTrouble {
    ConferenceService service = link.service();
    StoredMeeting stored = each.stored();
    try {
      if (each.isCancel() || stored == null) {
        if (!each.isNew()) {
          service.cancel(each.there(), each.command(), each.by());
        }
        held.cancelled(each.meeting(), each.command());
      } else if (each.isNew()) {
        String there = service.create(each.command(), each.by(), whole(stored));
        transaction.executeWithoutResult(
            status -> {
              readings.isOneOfOurs(link.id(), link.name(), there, each.meeting());
              held.sent(each.meeting(), each.command(), there);
            });
      } else {
        Map<String, @Nullable Object> patch = patch(each, stored);
        if (!patch.isEmpty()) {
          service.change(each.there(), each.revision(), each.command(), each.by(), patch);
        }
        held.sent(each.meeting(), each.command(), null);
      }
    } catch (ServiceTrouble e) {
      switch (e.kind()) {
        case REFUSED -> held.refused(each.meeting(), each.command(), e.words());
        case CHANGED_MEANWHILE -> changedMeanwhile(link, each);
        case UNKNOWN -> readBack(link, each);
        default -> throw e;
      }
    }
  }

  /**
   * Somebody was there first: what they did is taken in and shown, and never written over unseen.
   */
  private void changedMeanwhile(ServiceLinks.Link link, HeldMeetings.ToWrite each)
      throws ServiceTrouble {
    readBack(link, each);
    boolean isSame =
        register
            .find(each.meeting())
            .map(StoredMeeting::service)
            .filter(of -> of.revision().equals(each.revision()) || !of.notes().isEmpty())
            .isPresent();
    if (isSame) {
      held.refused(
          each.meeting(), each.command(), "somebody changed the meeting there at the same time");
    }
  }

  /** The meeting as it is to be made there. */
  private Map<String, @Nullable Object> whole(StoredMeeting stored) {
    Map<String, @Nullable Object> whole = document(stored);
    whole.remove("id");
    whole.remove("number"); // numbers are the service's
    whole.put("controls", HeldMeetings.carried(stored, ""));
    whole.put("passcode", register.passcode(stored.meeting().id()));
    whole.put("phonePasscode", register.phonePasscode(stored.meeting().id()));
    return whole;
  }

  private static Map<String, @Nullable Object> document(StoredMeeting stored) {
    return new LinkedHashMap<>(
        MeetingDocument.of(new Scheduled(stored.decided(), stored.details(), null)));
  }

  private Map<String, @Nullable Object> patch(HeldMeetings.ToWrite each, StoredMeeting stored) {
    Map<String, @Nullable Object> patch = new LinkedHashMap<>();
    Map<String, @Nullable Object> controls = HeldMeetings.wanted(stored, "");
    if (!controls.isEmpty()) {
      patch.put("controls", controls);
    }
    HeldMeeting of = Objects.requireNonNull(stored.service());
    boolean hasDates =
        of.decided().keySet().stream()
            .anyMatch(date -> !date.isEmpty() && !HeldMeetings.wanted(stored, date).isEmpty());
    Map<String, @Nullable Object> document = document(stored);
    if (hasDates || each.fields().contains("occurrences")) {
      patch.put("occurrences", document.getOrDefault("occurrences", List.of()));
    }
    if (each.fields().contains("passcode")
        || controls.containsKey(Control.AUDIO_ROUTES.id())
        || controls.containsKey(Control.PASSCODE.id())) {
      patch.put("phonePasscode", register.phonePasscode(each.meeting()));
    }
    for (String field : each.fields()) {
      switch (field) {
        case "occurrences" -> {}
        case "number" -> patch.put("number", null); // the service gives another
        case "passcode" -> patch.put("passcode", register.passcode(each.meeting()));
        default -> patch.put(field, document.get(field));
      }
    }
    return patch;
  }
}
