package app.uprightwarden.server.exchange;

import app.uprightwarden.core.people.Directory;
import app.uprightwarden.core.people.Person;
import app.uprightwarden.server.calendars.CalendarReader;
import app.uprightwarden.server.calendars.CalendarWriter;
import app.uprightwarden.server.people.Organisation;
import app.uprightwarden.server.people.OrganisationService;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.problem.Texts;
import app.uprightwarden.server.register.Details;
import app.uprightwarden.server.register.MeetingJsonParser;
import app.uprightwarden.server.register.RegisterService;
import app.uprightwarden.server.register.Scheduled;
import app.uprightwarden.server.register.StoredMeeting;
import app.uprightwarden.server.schema.BundleSchema;
import app.uprightwarden.server.schema.StrictJson;
import java.io.ByteArrayInputStream;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Files of every format that comes in, and calendars and tables on their way out. */
@Service
class FileExchange {
  private final ExchangeService bundles;
  private final CalendarReader calendars;
  private final OrganisationService organisation;
  private final RegisterService register;
  private final MeetingImport meetings;
  private final ImportDirectory directory;
  private final ImportRuns runs;
  private final StrictJson strict;
  private final MeetingTable table;
  private final Clock clock;

  FileExchange(
      ExchangeService bundles,
      CalendarReader calendars,
      OrganisationService organisation,
      RegisterService register,
      MeetingImport meetings,
      ImportDirectory directory,
      ImportRuns runs,
      StrictJson strict,
      BundleSchema schema,
      JsonMapper json,
      Clock clock) {
    this.bundles = bundles;
    this.calendars = calendars;
    this.organisation = organisation;
    this.register = register;
    this.meetings = meetings;
    this.directory = directory;
    this.runs = runs;
    this.strict = strict;
    this.table = new MeetingTable(schema, json);
    this.clock = clock;
  }

  /**
   * Takes a file in, of whichever format it is.
   *
   * @param zone of calendar times that have none
   * @param host of calendar events that have no organiser
   * @throws ProblemException 400 where it is of no format that is read here
   */
  @Transactional
  public ImportReport take(String text, ImportJob job, ZoneId zone, String host) {
    String begin = text.substring(0, Math.min(text.length(), 4000)).stripLeading();
    if (begin.regionMatches(true, 0, "BEGIN:", 0, 6)) {
      return calendar(text, job, zone, host);
    }
    if (begin.startsWith("{") || begin.startsWith("[")) {
      JsonNode document =
          strict.read(new ByteArrayInputStream(text.getBytes(StandardCharsets.UTF_8)));
      return Scim.isScim(document)
          ? people("scim", Scim.read(document, found()), job)
          : bundles.take(document, job);
    }
    if (begin.matches("(?is)(#[^\\n]*\\n\\s*)*(version:\\s*\\d|dn:).*")) {
      return people("ldif", Ldif.read(text, found()), job);
    }
    return table(text, job, new MeetingTable.Defaults(zone, host));
  }

  private ImportReport calendar(String text, ImportJob job, ZoneId zone, String host) {
    CalendarReader.Reading reading =
        calendars.read(
            text,
            new CalendarReader.Defaults(
                zone, host, organisation.organisation(), known(calendars.named(text))),
            register::judge);
    ImportRun run = runs.begin("calendar", job);
    reading.notes().forEach(run.tally()::note);
    List<MeetingImport.Candidate> candidates = new ArrayList<>();
    for (CalendarReader.Entry entry : reading.entries()) {
      List<String> remarks = entry.refused() == null ? entry.notes() : List.of(entry.refused());
      ImportTally.Place place =
          new ImportTally.Place(entry.title(), entry.line(), List.copyOf(remarks));
      Scheduled meeting = entry.meeting();
      if (meeting == null) {
        candidates.add(MeetingImport.Candidate.refused("", place));
        continue;
      }
      String id = meeting.meeting().id();
      candidates.add(
          switch (entry.act()) {
            case WHOLE -> new MeetingImport.Candidate(id, meeting, place, FileExchange::overStored);
            case PART -> new MeetingImport.Candidate(id, meeting, place, MeetingImport.AS_GIVEN);
            case CANCEL -> MeetingImport.Candidate.cancelled(meeting, place);
          });
    }
    meetings.take(candidates, run);
    return runs.end(run);
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

  private ImportReport table(String text, ImportJob job, MeetingTable.Defaults defaults) {
    Tables.Table read = Tables.read(text);
    Organisation all = organisation.organisation();
    if (MeetingTable.isOne(read.columns())) {
      ImportRun run = runs.begin("meetings", job);
      meetings.take(
          table.read(read, MeetingJsonParser.Known.of(all), register::judge, defaults), run);
      return runs.end(run);
    }
    if (DirectoryTables.areLists(read.columns())) {
      ImportRun run = runs.begin("lists", job);
      directory.takeReadGatherings(
          "lists",
          all.lists(),
          FoundGroups.checked(DirectoryTables.gatherings(read, "list"), "lists", run.tally()),
          run);
      directory.takeReadGatherings(
          "spaces",
          all.spaces(),
          FoundGroups.checked(DirectoryTables.gatherings(read, "space"), "spaces", run.tally()),
          run);
      return runs.end(run);
    }
    if (DirectoryTables.arePeople(read.columns())) {
      return people(
          "people", new Ldif.Found(DirectoryTables.people(read, found()), List.of()), job);
    }
    throw ProblemException.unreadable(
        "Line 1 is no header that is known here: “%s”. Meetings have the columns title and start, people email and name, lists id and members; cells are apart by commas or semicolons. Nothing was stored."
            .formatted(shortened(String.join(", ", read.columns()))),
        List.of());
  }

  private static String shortened(String text) {
    return text.length() > 120 ? Texts.cut(text, 120) + "…" : text;
  }

  private FoundPeople found() {
    return new FoundPeople(organisation.organisation(), organisation.people());
  }

  private ImportReport people(String format, Ldif.Found found, ImportJob job) {
    ImportRun run = runs.begin(format, job);
    for (FoundPeople.Refused refused : found.people().refused()) {
      run.tally().refuse("people", refused.email(), refused.place());
    }
    directory.takeReadPeople(found.people().people(), found.people().zones(), run);
    directory.takeReadGatherings(
        "lists",
        organisation.organisation().lists(),
        FoundGroups.checked(found.lists(), "lists", run.tally()),
        run);
    return runs.end(run);
  }

  /**
   * Meetings for the way out.
   *
   * @param ids which ones; all where empty
   */
  private List<Scheduled> scheduled(List<String> ids, boolean passcodes) {
    List<StoredMeeting> stored = new ArrayList<>();
    if (ids.isEmpty()) {
      register.each(stored::addAll);
    } else {
      Map<String, StoredMeeting> found = register.among(ids);
      ids.stream().filter(found::containsKey).map(found::get).forEach(stored::add);
    }
    return stored.stream()
        .map(
            s ->
                new Scheduled(
                    s.meeting(),
                    s.details(),
                    passcodes && s.meeting().passcode() != null
                        ? register.passcode(s.meeting().id())
                        : null))
        .toList();
  }

  @Transactional(readOnly = true)
  public String calendar(List<String> ids, boolean passcodes) {
    Organisation all = organisation.organisation();
    Map<String, String> names = new HashMap<>();
    for (Person person : organisation.people()) {
      names.put(Directory.fold(person.email()), person.name());
    }
    return new CalendarWriter(all, names, clock.instant(), CalendarWriter.Style.WHOLE)
        .write(scheduled(ids, passcodes), all.name());
  }

  @Transactional(readOnly = true)
  public String meetingTable(List<String> ids, boolean passcodes) {
    return MeetingTable.write(scheduled(ids, passcodes));
  }

  @Transactional(readOnly = true)
  public String peopleTable() {
    return DirectoryTables.write(organisation.people(), organisation.zones());
  }

  @Transactional(readOnly = true)
  public String listTable() {
    return DirectoryTables.writeLists(organisation.organisation());
  }
}
