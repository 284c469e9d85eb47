package app.uprightwarden.server.audit;

import app.uprightwarden.core.audit.Auditor;
import app.uprightwarden.core.audit.Check;
import app.uprightwarden.core.audit.Detail;
import app.uprightwarden.core.audit.FactsBuilder;
import app.uprightwarden.core.audit.MeetingFacts;
import app.uprightwarden.core.audit.Register;
import app.uprightwarden.core.audit.RegisterCheck;
import app.uprightwarden.core.audit.Waiver;
import app.uprightwarden.core.audit.Waivers;
import app.uprightwarden.core.calendar.Occurrences;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.exposure.Exposure;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.meeting.Occurrence;
import app.uprightwarden.core.people.Directory;
import app.uprightwarden.core.people.Person;
import app.uprightwarden.core.rulebook.Rulebook;
import app.uprightwarden.server.judging.FindingView;
import app.uprightwarden.server.judging.Judging;
import app.uprightwarden.server.people.OrganisationService;
import app.uprightwarden.server.register.MeetingLines;
import app.uprightwarden.server.register.RegisterService;
import app.uprightwarden.server.register.StoredMeeting;
import java.time.Instant;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.json.JsonMapper;

/**
 * Looks at meetings one by one and makes the rows that are kept of them. One a run: it remembers
 * what many meetings have in common. Not thread-safe, but that one thread may look at meetings
 * while another asks for the rows of those looked at before.
 */
final class MeetingAuditor {
  /** The checks between meetings, in one order. */
  private static final List<String> BETWEEN =
      Auditor.catalogue().stream()
          .filter(RegisterCheck.class::isInstance)
          .map(Check::id)
          .sorted()
          .toList();

  private static final int MAX_REMEMBERED = 20_000;

  private final RegisterService register;
  private final JsonMapper json;
  private final FactsBuilder builder;
  private final Waivers waivers;
  private final Auditor auditor = new Auditor();
  private final Map<String, String> unitOfHost = new HashMap<>();
  private final Map<String, List<String>> paths = new HashMap<>();
  private final Directory directory;
  private final Instant from;
  private final Instant to;
  private final Map<ControlValues, Long> sets = new HashMap<>();
  private final IdentityHashMap<Detail, String> written = new IdentityHashMap<>();

  MeetingAuditor(
      RegisterService register,
      OrganisationService organisation,
      Rulebook rules,
      Waivers waivers,
      JsonMapper json,
      Instant from,
      Instant to) {
    this.register = register;
    this.json = json;
    this.waivers = waivers;
    this.from = from;
    this.to = to;
    List<Person> people = organisation.people();
    for (Person person : people) {
      if (person.unit() != null) {
        unitOfHost.put(Directory.fold(person.email()), person.unit());
      }
    }
    var all = organisation.organisation();
    directory = organisation.directory();
    builder = Judging.builder(all, directory, rules);
  }

  /** What was found in one meeting, with its occurrences in the window. */
  record Inspected(
      FindingStore.MeetingRow row,
      List<FindingStore.FindingRow> findings,
      MeetingFacts facts,
      int[] starts,
      int[] ends) {
    /** As lists show it. */
    MeetingLines.Judged line() {
      return MeetingAuditor.line(row, starts.length);
    }
  }

  /** A judged meeting as lists show it, with so many occurrences in the window. */
  static MeetingLines.Judged line(FindingStore.MeetingRow row, int occurrences) {
    return new MeetingLines.Judged(
        row.id(),
        row.host(),
        row.next(),
        occurrences,
        row.exposure(),
        row.open(),
        row.worst(),
        row.invited());
  }

  @Nullable String unitOf(String host) {
    return unitOfHost.get(Directory.fold(host));
  }

  /** A unit and those above it. */
  List<String> path(@Nullable String unit) {
    return unit == null ? List.of() : paths.computeIfAbsent(unit, directory::unitPath);
  }

  Inspected inspect(StoredMeeting stored) {
    Meeting meeting = stored.meeting();
    MeetingFacts facts = builder.build(meeting, stored.held());
    List<Occurrence> occurrences = occurrences(meeting);
    Instant next = occurrences.isEmpty() ? null : occurrences.get(0).start();
    Instant nextEnd = occurrences.isEmpty() ? null : occurrences.get(0).end();
    String unit = unitOf(meeting.host());
    List<FindingStore.FindingRow> found = new ArrayList<>();
    auditor.audit(
        facts,
        (of, occurrence, detail) -> found.add(row(facts, occurrence, detail, path(unit), next)));
    Tally tally = Tally.of(found);
    Exposure exposure = auditor.judge(facts).basis().exposure();
    int[] starts = minutes(occurrences, true);
    int[] ends = minutes(occurrences, false);
    FindingStore.MeetingRow row =
        new FindingStore.MeetingRow(
            meeting.id(),
            meeting.title(),
            meeting.host(),
            unit,
            meeting.kind(),
            exposure.scoreTenths(),
            exposure.intrusionTenths(),
            exposure.disruptionTenths(),
            next,
            nextEnd,
            facts.invited(),
            tally.open(),
            tally.worst(),
            tally.waived(),
            0, // given when it is stored
            stored.version(),
            meeting.number(),
            meeting.passcode() == null ? null : meeting.passcode().fingerprint(),
            sharedKey(facts, starts, ends));
    return new Inspected(row, found, facts, starts, ends);
  }

  /** With whoever is invited, and what waives it: these stand in what is found, too. */
  private long sharedKey(MeetingFacts facts, int[] starts, int[] ends) {
    long key = Register.sharedKey(facts, starts, ends) * 31 + facts.invited();
    for (String check : BETWEEN) {
      Waiver waiver = waivers.covering(facts.id(), List.of(), "", check, "");
      key = key * 31 + (waiver == null ? 0 : waiver.id());
    }
    return key;
  }

  /**
   * The rows to store, each with the number of its control values; inside a transaction, which
   * gives numbers to values that have none yet.
   */
  List<FindingStore.MeetingRow> rows(List<Inspected> some) {
    if (sets.size() > MAX_REMEMBERED) {
      sets.clear();
    }
    return some.stream()
        .map(i -> i.row().withSet(sets.computeIfAbsent(i.facts().values(), register::setOf)))
        .toList();
  }

  private record Tally(int open, int worst, int waived) {
    static Tally of(List<FindingStore.FindingRow> found) {
      int open = 0;
      int worst = 0;
      for (FindingStore.FindingRow row : found) {
        if (row.waiver() == null) {
          open++;
          worst = Math.max(worst, row.severity());
        }
      }
      return new Tally(open, worst, found.size() - open);
    }
  }

  /** Adds a meeting to those that are looked at together, without looking at it by itself. */
  int addOnly(Register together, StoredMeeting stored) {
    List<Occurrence> occurrences = occurrences(stored.meeting());
    return together.add(
        builder.build(stored.meeting()), minutes(occurrences, true), minutes(occurrences, false));
  }

  /** One rule that cannot be expanded must not end the audit of all others. */
  private List<Occurrence> occurrences(Meeting meeting) {
    try {
      return Occurrences.between(meeting, from, to);
    } catch (IllegalArgumentException e) {
      return List.of();
    }
  }

  private static int[] minutes(List<Occurrence> occurrences, boolean starts) {
    int[] minutes = new int[occurrences.size()];
    for (int i = 0; i < minutes.length; i++) {
      Instant time = starts ? occurrences.get(i).start() : occurrences.get(i).end();
      minutes[i] = (int) Math.floorDiv(time.getEpochSecond(), 60);
    }
    return minutes;
  }

  private FindingStore.FindingRow row(
      MeetingFacts facts,
      @Nullable LocalDateTime occurrence,
      Detail detail,
      List<String> units,
      @Nullable Instant next) {
    String at = occurrence == null ? "" : occurrence.toString();
    return row(
        new FindingStore.Audited(facts.id(), "", "", null, next, facts.invited()),
        at,
        detail,
        units,
        document(facts, occurrence, detail));
  }

  private FindingStore.FindingRow row(
      FindingStore.Audited meeting, String at, Detail detail, List<String> units, String document) {
    String check = detail.check().id();
    String subject = detail.subject();
    Waiver waiver = waivers.covering(meeting.meeting(), units, at, check, subject);
    return new FindingStore.FindingRow(
        meeting.meeting(),
        at,
        check,
        subject,
        FindingView.familyOf(detail),
        detail.severity(),
        meeting.next(),
        meeting.invited(),
        waiver == null ? null : waiver.id(),
        null,
        document);
  }

  /** What was found between meetings, in one that was audited before. */
  FindingStore.FindingRow together(FindingStore.Audited meeting, Detail detail) {
    return row(
        meeting,
        "",
        detail,
        path(meeting.unit()),
        FindingView.stored(json, detail, ControlValues.NONE));
  }

  private String document(MeetingFacts facts, @Nullable LocalDateTime occurrence, Detail detail) {
    if (occurrence != null || detail.rule() == null && detail.given() == null) {
      ControlValues values = facts.valuesAt(occurrence);
      return FindingView.stored(json, detail, values);
    }
    if (written.size() > MAX_REMEMBERED) {
      written.clear();
    }
    return written.computeIfAbsent(detail, d -> FindingView.stored(json, d, facts.values()));
  }

  /** Looks at what was added together. */
  void auditTogether(Register together, Register.Sink sink) {
    auditor.auditTogether(together, sink);
  }
}
