package app.uprightwarden.server.exchange;

import app.uprightwarden.core.people.Directory;
import app.uprightwarden.core.people.Person;
import app.uprightwarden.server.calendars.CalendarWriter;
import app.uprightwarden.server.people.Organisation;
import app.uprightwarden.server.people.OrganisationService;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.problem.Texts;
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
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Files of every format that comes in, and calendars and tables on their way out. */
@Service
class FileExchange {
  private final ExchangeService bundles;
  private final CalendarImport calendars;
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
      CalendarImport calendars,
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
      return calendars.take(text, job, zone, host);
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
