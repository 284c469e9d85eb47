package app.uprightwarden.server.exchange;

import app.uprightwarden.server.calendars.CalendarReader;
import app.uprightwarden.server.people.OrganisationService;
import app.uprightwarden.server.register.Details;
import app.uprightwarden.server.register.RegisterService;
import app.uprightwarden.server.register.Scheduled;
import app.uprightwarden.server.register.StoredMeeting;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Calendars that come in, as a file or from where they are kept. */
@Service
public class CalendarImport {
  private final CalendarReader calendars;
  private final OrganisationService organisation;
  private final RegisterService register;
  private final MeetingImport meetings;
  private final ImportRuns runs;

  CalendarImport(
      CalendarReader calendars,
      OrganisationService organisation,
      RegisterService register,
      MeetingImport meetings,
      ImportRuns runs) {
    this.calendars = calendars;
    this.organisation = organisation;
    this.register = register;
    this.meetings = meetings;
    this.runs = runs;
  }

  @Transactional(propagation = Propagation.MANDATORY)
  ImportReport take(String text, ImportJob job, ZoneId zone, String host) {
    CalendarReader.Reading reading = read(List.of(text), zone, host).get(0);
    ImportRun run = runs.begin("calendar", job);
    reading.notes().forEach(run.tally()::note);
    meetings.take(reading.entries().stream().map(CalendarImport::candidate).toList(), run);
    return runs.end(run);
  }

  /**
   * A calendar object that a source holds, or no longer holds.
   *
   * @param name by which the source knows it
   * @param text an iCalendar stream; null where it is gone there
   * @param before the ids of the meetings that it was here
   */
  public record Kept(String name, @Nullable String text, List<String> before) {}

  /**
   * What became of one.
   *
   * @param meetings the ids of the meetings that it is here
   * @param also the ids of meetings that it is as well, and another source has brought
   * @param refused why it, or some of it, is no meeting; null where all of it is
   */
  public record Taken(
      String name,
      String title,
      List<String> meetings,
      List<String> also,
      @Nullable String refused) {}

  /**
   * Takes in what a source holds, in the caller's transaction. What it was and is no more is
   * cancelled. A meeting that was made here, or that a conference service holds, stays as it is:
   * what somebody writes into a calendar elsewhere must not reach it.
   *
   * @param zone of times that have none
   * @param host of events that have no organiser
   * @param by what the source is called
   * @param others the ids, of those given, of meetings that other sources have brought
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public List<Taken> take(
      List<Kept> some,
      ZoneId zone,
      String host,
      String by,
      Function<Collection<String>, Set<String>> others) {
    List<Kept> told = some.stream().filter(each -> each.text() != null).toList();
    List<CalendarReader.Reading> readings =
        read(told.stream().map(each -> String.valueOf(each.text())).toList(), zone, host);
    List<String> ids = ids(some, readings);
    Set<String> brought = others.apply(ids); // first: it may wait for who changes them
    Map<String, StoredMeeting> stored = register.among(ids);
    ImportRun run = runs.begin("source", ImportJob.unlisted(false, by));
    List<MeetingImport.Candidate> candidates = new ArrayList<>();
    List<Taken> taken = new ArrayList<>();
    for (int i = 0; i < told.size(); i++) {
      taken.add(take(told.get(i), readings.get(i), stored, brought, candidates));
    }
    for (Kept each : some) {
      List<String> now =
          taken.stream()
              .filter(t -> t.name().equals(each.name()))
              .findFirst()
              .map(Taken::meetings)
              .orElse(List.of());
      each.before().stream()
          .filter(id -> !now.contains(id))
          .map(stored::get)
          .filter(was -> was != null && was.service() == null)
          .map(was -> MeetingImport.Candidate.cancelled(scheduled(was), ImportTally.Place.UNKNOWN))
          .forEach(candidates::add);
      if (each.text() == null) {
        taken.add(new Taken(each.name(), "", List.of(), List.of(), null));
      }
    }
    meetings.take(candidates, run);
    Map<String, String> refused = new HashMap<>();
    runs.end(run).rows().stream()
        .filter(row -> row.outcome().equals("refused") && !row.id().isEmpty())
        .forEach(row -> refused.put(row.id(), String.join("; ", row.remarks())));
    Map<String, List<String>> before = new HashMap<>();
    some.forEach(each -> before.put(each.name(), each.before()));
    return taken.stream()
        .map(each -> told(each, refused, before.getOrDefault(each.name(), List.of())))
        .toList();
  }

  private static Taken told(Taken of, Map<String, String> refused, List<String> before) {
    List<String> left =
        of.meetings().stream()
            .filter(id -> !refused.containsKey(id) || before.contains(id))
            .toList();
    String why =
        of.meetings().stream().map(refused::get).filter(Objects::nonNull).findFirst().orElse(null);
    return new Taken(
        of.name(), of.title(), left, of.also(), of.refused() == null ? why : of.refused());
  }

  private static List<String> ids(List<Kept> some, List<CalendarReader.Reading> readings) {
    List<String> ids = new ArrayList<>();
    some.forEach(each -> ids.addAll(each.before()));
    readings.forEach(
        reading ->
            reading.entries().stream()
                .map(CalendarReader.Entry::meeting)
                .filter(Objects::nonNull)
                .forEach(meeting -> ids.add(meeting.meeting().id())));
    return ids;
  }

  private static Taken take(
      Kept kept,
      CalendarReader.Reading reading,
      Map<String, StoredMeeting> stored,
      Set<String> brought,
      List<MeetingImport.Candidate> candidates) {
    List<String> is = new ArrayList<>();
    Set<String> also = new LinkedHashSet<>();
    String title = "";
    String refused = reading.entries().isEmpty() ? "it holds no event" : null;
    for (CalendarReader.Entry entry : reading.entries()) {
      title = title.isEmpty() ? entry.title() : title;
      Scheduled meeting = entry.meeting();
      if (meeting == null) {
        refused = entry.isCancelledThere() ? refused : entry.refused();
        continue;
      }
      String id = meeting.meeting().id();
      StoredMeeting was = stored.get(id);
      if (was != null && (isElsewhere(was) || brought.contains(id))) {
        if (!isElsewhere(was) && entry.act() != CalendarReader.Act.CANCEL) {
          also.add(id);
        }
        continue; // it is known from where it is held
      }
      if (entry.act() != CalendarReader.Act.CANCEL) {
        is.add(id);
      }
      candidates.add(candidate(entry));
    }
    if (refused != null) {
      // what cannot be read, or is older, is no cancellation: the meeting stays as it was
      kept.before().stream().filter(id -> !is.contains(id)).forEach(is::add);
    }
    return new Taken(kept.name(), title, List.copyOf(is), List.copyOf(also), refused);
  }

  /** Whether a meeting was made here, or is held by a service: a calendar only repeats it. */
  private static boolean isElsewhere(StoredMeeting was) {
    return was.service() != null || was.details().uid() == null;
  }

  private static MeetingImport.Candidate candidate(CalendarReader.Entry entry) {
    List<String> remarks = entry.refused() == null ? entry.notes() : List.of(entry.refused());
    ImportTally.Place place =
        new ImportTally.Place(entry.title(), entry.line(), List.copyOf(remarks));
    Scheduled meeting = entry.meeting();
    if (meeting == null) {
      return MeetingImport.Candidate.refused("", place);
    }
    String id = meeting.meeting().id();
    return switch (entry.act()) {
      case WHOLE -> new MeetingImport.Candidate(id, meeting, place, CalendarImport::overStored);
      case PART -> new MeetingImport.Candidate(id, meeting, place, MeetingImport.AS_GIVEN);
      case CANCEL -> MeetingImport.Candidate.cancelled(meeting, place);
    };
  }

  private List<CalendarReader.Reading> read(List<String> texts, ZoneId zone, String host) {
    List<String> uids = new ArrayList<>();
    List<String> ids = new ArrayList<>();
    for (String text : texts) {
      CalendarReader.Named named = calendars.named(text);
      uids.addAll(named.uids());
      ids.addAll(named.ids());
    }
    CalendarReader.Defaults defaults =
        new CalendarReader.Defaults(
            zone, host, organisation.organisation(), known(new CalendarReader.Named(uids, ids)));
    return texts.stream().map(text -> calendars.read(text, defaults, register::judge)).toList();
  }

  /** The meetings that a calendar may mean. */
  private CalendarReader.Known known(CalendarReader.Named named) {
    Map<String, Scheduled> byUid = new HashMap<>();
    Map<String, Scheduled> byId = new HashMap<>();
    List<String> ids = new ArrayList<>(named.ids());
    named.uids().stream().map(Details::madeHere).filter(Objects::nonNull).forEach(ids::add);
    for (int i = 0; i < named.uids().size(); i += 1000) {
      register
          .byUid(named.uids().subList(i, Math.min(i + 1000, named.uids().size())))
          .forEach((uid, stored) -> byUid.put(uid, scheduled(stored)));
    }
    for (int i = 0; i < ids.size(); i += 1000) {
      register
          .among(ids.subList(i, Math.min(i + 1000, ids.size())))
          .forEach((id, stored) -> byId.put(id, scheduled(stored)));
    }
    return new CalendarReader.Known() {
      @Override
      public @Nullable Scheduled byUid(String uid) {
        Scheduled found = byUid.get(uid);
        String made = Details.madeHere(uid);
        Scheduled ours = found != null || made == null ? null : byId.get(made);
        return ours != null && ours.details().uid() == null ? ours : found;
      }

      @Override
      public @Nullable Scheduled byId(String id) {
        return byId.get(id);
      }
    };
  }

  private static Scheduled scheduled(StoredMeeting stored) {
    return new Scheduled(stored.meeting(), stored.details(), null, true);
  }

  /** A calendar says nothing of most controls, nor of kinds: what is stored of them stays. */
  private static Scheduled overStored(Scheduled given, @Nullable StoredMeeting before) {
    if (before == null) {
      return given;
    }
    var meeting = given.meeting();
    var was = before.meeting();
    var merged =
        new app.uprightwarden.core.meeting.Meeting(
            meeting.id(),
            meeting.title(),
            meeting.description(),
            meeting.kind() == null ? was.kind() : meeting.kind(),
            meeting.host(),
            meeting.coHosts().isEmpty() ? was.coHosts() : meeting.coHosts(),
            meeting.presenters().isEmpty() ? was.presenters() : meeting.presenters(),
            meeting.invitees(),
            meeting.lists(),
            meeting.space() == null ? was.space() : meeting.space(),
            meeting.start(),
            meeting.zone(),
            meeting.minutes(),
            meeting.recurrence(),
            meeting.exDates(),
            meeting.rDates(),
            meeting.number() == null ? was.number() : meeting.number(),
            meeting.passcode(),
            was.controls().overlaid(meeting.controls()),
            meeting.changes());
    return new Scheduled(merged, given.details(), given.passcode(), given.passcodeLeftOut());
  }
}
