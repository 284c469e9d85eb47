package app.uprightwarden.server.sources;

import app.uprightwarden.server.calendars.CalendarSplitter;
import app.uprightwarden.server.live.Signals;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.problem.Texts;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/**
 * Reads a calendar: asks what was changed since, and takes that in, some at a time. Stopped
 * anywhere, whoever goes on asks again and passes over what is known in the state that it has.
 */
@Component
class SourceWork {
  private final Sources sources;
  private final SourceHttp http;
  private final MeetingReading meetings;
  private final BusyReading busy;
  private final Signals signals;

  SourceWork(
      Sources sources,
      SourceHttp http,
      MeetingReading meetings,
      BusyReading busy,
      Signals signals) {
    this.sources = sources;
    this.http = http;
    this.meetings = meetings;
    this.busy = busy;
    this.signals = signals;
  }

  /** Reads one, if its time has come. */
  void read(String item) {
    Sources.Link link = sources.begin(Long.parseLong(item));
    if (link == null) {
      return;
    }
    String before = link.row().state;
    String state;
    try {
      state = read(link) ? "asks" : "read";
      sources.ended(link, state, null);
    } catch (SourceTrouble e) {
      state = e.kind() == SourceTrouble.Kind.REFUSED ? "refused" : "away";
      sources.ended(link, state, Texts.cut(e.words(), 500));
    } catch (ProblemException e) {
      state = "away";
      sources.ended(
          link, state, Texts.cut("cannot be read: " + String.valueOf(e.getMessage()), 500));
    }
    if (!before.equals(state)) {
      signals.send(Signals.Topic.SERVICES);
    }
  }

  /**
   * @return whether somebody is asked
   */
  private boolean read(Sources.Link link) throws SourceTrouble {
    if (link.purpose().equals("busy")) {
      busy.readBusy(link);
      return false;
    }
    return link.kind().equals("caldav")
        ? meetings.readCollection(link)
        : meetings.readAddress(link);
  }

  /**
   * What is at an address.
   *
   * @param kind {@code icalendar} or {@code caldav}
   * @param calendars what may be read there
   */
  record Tried(String kind, List<CalDav.Collection> calendars, int events) {}

  /** Looks what is at an address, and keeps nothing. */
  Tried attempt(java.net.URI address, SourceHttp.@Nullable Account account) {
    SourceTrouble first = null;
    try {
      List<CalDav.Collection> found = new CalDav(http, address, account).collections();
      if (!found.isEmpty()) {
        return new Tried("caldav", found, 0);
      }
    } catch (SourceTrouble e) {
      first = e;
    }
    try {
      SourceHttp.Answer answer =
          http.send("GET", address, account, Map.of("Accept", "text/calendar, */*;q=0.1"), null);
      int events = CalendarSplitter.split(SourceFeed.checked(answer)).size();
      return new Tried("icalendar", List.of(), events);
    } catch (SourceTrouble e) {
      SourceTrouble said = first != null && first.kind() == SourceTrouble.Kind.REFUSED ? first : e;
      throw ProblemException.conflict("calendar-not-read", "The calendar " + said.words() + ".");
    }
  }
}
