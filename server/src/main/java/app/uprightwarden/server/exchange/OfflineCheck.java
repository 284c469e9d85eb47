package app.uprightwarden.server.exchange;

import app.uprightwarden.core.audit.FactsBuilder;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.passcode.PasscodeJudge;
import app.uprightwarden.core.people.Person;
import app.uprightwarden.core.rulebook.Rulebook;
import app.uprightwarden.server.calendars.CalendarReader;
import app.uprightwarden.server.judging.AssessService;
import app.uprightwarden.server.judging.FindingView;
import app.uprightwarden.server.judging.Judging;
import app.uprightwarden.server.people.Organisation;
import app.uprightwarden.server.people.OrganisationService;
import app.uprightwarden.server.problem.Fault;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.register.MeetingJsonParser;
import app.uprightwarden.server.register.Scheduled;
import app.uprightwarden.server.rulebook.RulebookReader;
import app.uprightwarden.server.schema.BundleSchema;
import app.uprightwarden.server.schema.StrictJson;
import java.io.ByteArrayInputStream;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.dataformat.yaml.YAMLMapper;

/**
 * Judges files without a server and without a database: bundles and calendars against a rulebook.
 * What is taken and how it is judged is what the server takes and how it judges.
 */
public final class OfflineCheck {
  private static final PasscodeFingerprints NONE = new PasscodeFingerprints();

  private final StrictJson strict = new StrictJson();
  private final JsonMapper json = JsonMapper.builder().build();
  private final YAMLMapper yaml = YAMLMapper.builder().build();
  private final BundleSchema schema = new BundleSchema(json);
  private final BundleReader bundles = new BundleReader(schema);
  private final CalendarReader calendars = new CalendarReader();

  /** A passcode stands for itself: nothing of this is kept. */
  private static final class PasscodeFingerprints implements MeetingJsonParser.Judge {
    @Override
    public app.uprightwarden.core.meeting.PasscodeFacts judge(
        String passcode, String title, String description, String host) {
      return PasscodeJudge.judge(passcode, title, description, host, passcode);
    }
  }

  /** A file as it was read. */
  public record NamedFile(String name, byte[] bytes) {}

  /**
   * How to look.
   *
   * @param from the first instant of the window whose occurrences are looked at; {@code to} the
   *     first after it
   * @param zone of times in calendars that have none
   * @param host who hosts what has no organiser
   */
  public record Window(Instant from, Instant to, ZoneId zone, String host) {}

  /** A finding, and the file of its meeting. */
  public record Found(String file, String meeting, String title, String host, FindingView finding) {
    /** The same for the same thing in another run. */
    public String identity() {
      String subject =
          finding.control() != null
              ? finding.control()
              : finding.guarantee() == null ? "" : finding.guarantee();
      String at = finding.occurrence() == null ? "" : finding.occurrence();
      return String.join("|", meeting, at, finding.check(), subject);
    }
  }

  /**
   * What came of it.
   *
   * @param findings the gravest first
   * @param notes what was assumed or left out
   */
  public record Outcome(int meetings, List<Found> findings, List<String> notes) {}

  /** A file that cannot be taken, with every place. */
  public static final class Unreadable extends Exception {
    private static final long serialVersionUID = 1;

    Unreadable(String file, String detail, List<Fault> faults) {
      super(text(file, detail, faults));
    }

    private static String text(String file, String detail, List<Fault> faults) {
      StringBuilder text = new StringBuilder(file + ": " + detail);
      faults.forEach(
          fault ->
              text.append("\n  ")
                  .append(fault.pointer().isEmpty() ? "" : fault.pointer() + ": ")
                  .append(fault.message()));
      return text.toString();
    }
  }

  private static final class Gathered {
    Organisation organisation = Organisation.EMPTY;
    final List<Person> people = new ArrayList<>();
    @Nullable Rulebook rulebook;
    final Map<String, String> fileOf = new LinkedHashMap<>();
    final List<Meeting> meetings = new ArrayList<>();
    final List<String> notes = new ArrayList<>();
  }

  /**
   * Judges the meetings of some files.
   *
   * @param rulebook a rulebook by itself, or a bundle with one; null for that of the files
   * @throws Unreadable where a file has a fault; nothing is judged then
   */
  public Outcome check(List<NamedFile> files, @Nullable NamedFile rulebook, Window window)
      throws Unreadable {
    Gathered all = new Gathered();
    // bundles first: they say who belongs to the organisation that calendars only name
    for (NamedFile file : files) {
      if (!isCalendar(file)) {
        bundle(file, all);
      }
    }
    for (NamedFile file : files) {
      if (isCalendar(file)) {
        calendar(file, all, window);
      }
    }
    Rulebook rules = rulebook == null ? all.rulebook : rulebook(rulebook, all.organisation);
    if (rules == null) {
      throw new Unreadable("rulebook", "none was named, and no bundle has one.", List.of());
    }
    FactsBuilder builder =
        Judging.builder(
            all.organisation, OrganisationService.directory(all.organisation, all.people), rules);
    List<Found> found = new ArrayList<>();
    Map<String, Meeting> byId = new HashMap<>();
    all.meetings.forEach(meeting -> byId.put(meeting.id(), meeting));
    try {
      new AssessService()
          .assess(all.meetings, builder, window.from(), window.to(), Set.of("findings"))
          .forEach(
              each -> {
                Meeting meeting = byId.get(each.id());
                if (meeting != null && each.findings() != null) {
                  each.findings()
                      .forEach(
                          finding ->
                              found.add(
                                  new Found(
                                      all.fileOf.getOrDefault(each.id(), ""),
                                      each.id(),
                                      meeting.title(),
                                      meeting.host(),
                                      finding)));
                }
              });
    } catch (IllegalArgumentException e) {
      throw new Unreadable("meetings", String.valueOf(e.getMessage()), List.of());
    }
    found.sort((a, b) -> Integer.compare(b.finding().severity(), a.finding().severity()));
    return new Outcome(all.meetings.size(), List.copyOf(found), List.copyOf(all.notes));
  }

  private static boolean isCalendar(NamedFile file) {
    return file.name().toLowerCase(Locale.ROOT).endsWith(".ics");
  }

  private JsonNode document(NamedFile file) throws Unreadable {
    String name = file.name().toLowerCase(Locale.ROOT);
    try {
      byte[] bytes = file.bytes();
      if (name.endsWith(".yaml") || name.endsWith(".yml")) {
        // once more as JSON, which holds it to the same depth and lengths
        bytes = json.writeValueAsBytes(yaml.readTree(bytes));
      }
      return strict.read(new ByteArrayInputStream(bytes));
    } catch (ProblemException e) {
      throw new Unreadable(file.name(), String.valueOf(e.getMessage()), e.faults());
    } catch (JacksonException e) {
      throw new Unreadable(file.name(), "it cannot be read.", List.of(StrictJson.fault(e)));
    }
  }

  private void bundle(NamedFile file, Gathered all) throws Unreadable {
    List<Fault> faults = new ArrayList<>();
    Bundle bundle = bundles.read(document(file), all.organisation, NONE, faults);
    if (!faults.isEmpty()) {
      throw new Unreadable(file.name(), "the bundle has faults.", faults);
    }
    Organisation organisation = bundle.organisation();
    if (organisation != null) {
      all.organisation = organisation;
    }
    List<Person> people = bundle.people();
    if (people != null) {
      all.people.addAll(people);
    }
    if (bundle.rulebook() != null) {
      all.rulebook = bundle.rulebook();
    }
    for (Scheduled scheduled : bundle.meetings()) {
      add(scheduled.meeting(), file, all);
    }
  }

  private static void add(Meeting meeting, NamedFile file, Gathered all) {
    if (all.fileOf.putIfAbsent(meeting.id(), file.name()) == null) {
      all.meetings.add(meeting);
    } else {
      all.notes.add(file.name() + ": " + meeting.id() + " came before; the first counts");
    }
  }

  private void calendar(NamedFile file, Gathered all, Window window) throws Unreadable {
    CalendarReader.Reading reading;
    try {
      reading =
          calendars.read(
              new String(file.bytes(), StandardCharsets.UTF_8),
              new CalendarReader.Defaults(
                  window.zone(), window.host(), all.organisation, CalendarReader.Known.NONE),
              NONE);
    } catch (ProblemException e) {
      throw new Unreadable(file.name(), String.valueOf(e.getMessage()), e.faults());
    }
    reading.notes().forEach(note -> all.notes.add(file.name() + ": " + note));
    for (CalendarReader.Entry entry : reading.entries()) {
      String where = file.name() + ":" + entry.line() + ": " + entry.title() + ": ";
      Scheduled scheduled = entry.meeting();
      if (scheduled != null && entry.act() != CalendarReader.Act.CANCEL) {
        add(scheduled.meeting(), file, all);
      } else if (entry.refused() != null) {
        all.notes.add(where + entry.refused());
      }
      entry.notes().forEach(note -> all.notes.add(where + note));
    }
  }

  private Rulebook rulebook(NamedFile file, Organisation organisation) throws Unreadable {
    JsonNode document = document(file);
    JsonNode part = document.has("rulebook") ? document.get("rulebook") : document;
    List<Fault> faults = new ArrayList<>(schema.rulebookFaults(part));
    if (!faults.isEmpty()) {
      throw new Unreadable(file.name(), "the rulebook has faults.", faults);
    }
    // without an organisation nobody can say which units there are
    boolean isKnown = !organisation.equals(Organisation.EMPTY);
    Set<String> units = new HashSet<>();
    organisation.units().forEach(unit -> units.add(unit.id()));
    Set<String> kinds = new HashSet<>();
    organisation.kinds().forEach(kind -> kinds.add(kind.id()));
    Rulebook rules =
        new RulebookReader(
                faults, id -> !isKnown || units.contains(id), id -> !isKnown || kinds.contains(id))
            .read(part, "");
    if (!faults.isEmpty()) {
      throw new Unreadable(file.name(), "the rulebook has faults.", faults);
    }
    return rules;
  }
}
