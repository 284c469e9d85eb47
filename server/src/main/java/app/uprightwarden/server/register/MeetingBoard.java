package app.uprightwarden.server.register;

import app.uprightwarden.core.audit.Auditor;
import app.uprightwarden.core.audit.FactsBuilder;
import app.uprightwarden.core.audit.MeetingFacts;
import app.uprightwarden.core.calendar.Occurrences;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.meeting.Occurrence;
import app.uprightwarden.core.people.Directory;
import app.uprightwarden.core.people.Person;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.judging.Judging;
import app.uprightwarden.server.people.Organisation;
import app.uprightwarden.server.people.OrganisationService;
import app.uprightwarden.server.rulebook.RulebookService;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;

/** The register as a table. */
@Service
class MeetingBoard {
  /** How far ahead the register looks. */
  static final Duration WINDOW = Duration.ofDays(90);

  private final RegisterService register;
  private final RulebookService rulebook;
  private final OrganisationService organisation;
  private final Clock clock;

  MeetingBoard(
      RegisterService register,
      RulebookService rulebook,
      OrganisationService organisation,
      Clock clock) {
    this.register = register;
    this.rulebook = rulebook;
    this.organisation = organisation;
    this.clock = clock;
  }

  /** A meeting's line. */
  record Line(
      String id,
      String title,
      @Nullable String kind,
      @Nullable String unit,
      String host,
      String hostName,
      String start,
      String zone,
      int minutes,
      @Nullable String recurrence,
      @Nullable Instant next,
      int occurrences,
      double exposure,
      String band,
      int findings,
      int worst,
      int invited) {}

  /** What to show. Null or blank takes all. */
  record Filter(
      @Nullable String text,
      @Nullable String unit,
      @Nullable String kind,
      @Nullable String band,
      boolean open) {
    boolean keeps(Line line) {
      return (text == null
              || text.isBlank()
              || (line.title() + " " + line.host() + " " + line.hostName())
                  .toLowerCase(Locale.ROOT)
                  .contains(text.strip().toLowerCase(Locale.ROOT)))
          && (unit == null || unit.isBlank() || unit.equals(line.unit()))
          && (kind == null || kind.isBlank() || kind.equals(line.kind()))
          && (band == null || band.isBlank() || band.equals(line.band()))
          && (!open || line.findings() > 0);
    }
  }

  List<Line> lines(SignedIn who, Filter filter, String sort) {
    Organisation all = organisation.organisation();
    List<Person> people = organisation.people();
    Map<String, Person> byAddress = new HashMap<>();
    people.forEach(person -> byAddress.put(Directory.fold(person.email()), person));
    FactsBuilder builder = Judging.builder(all, people, rulebook.rulebook(rulebook.inForce()));
    Auditor auditor = new Auditor();
    Instant now = clock.instant();
    List<Line> lines = new ArrayList<>();
    register.each(
        page -> {
          for (Stored stored : page) {
            if (!who.isHost() || RegisterService.hosts(stored.meeting(), who)) {
              Line line = line(stored.meeting(), builder, auditor, byAddress, now);
              if (filter.keeps(line)) {
                lines.add(line);
              }
            }
          }
        });
    lines.sort(order(sort));
    return lines;
  }

  private static Comparator<Line> order(String sort) {
    Comparator<Line> byNext =
        Comparator.comparing(Line::next, Comparator.nullsLast(Comparator.naturalOrder()));
    return switch (sort) {
      case "title" -> Comparator.comparing(line -> line.title().toLowerCase(Locale.ROOT));
      case "exposure" ->
          Comparator.comparingDouble(Line::exposure).reversed().thenComparing(byNext);
      case "findings" ->
          Comparator.comparingInt(Line::worst)
              .thenComparingInt(Line::findings)
              .reversed()
              .thenComparing(byNext);
      case "host" -> Comparator.comparing(Line::hostName).thenComparing(byNext);
      default -> byNext;
    };
  }

  private static Line line(
      Meeting meeting,
      FactsBuilder builder,
      Auditor auditor,
      Map<String, Person> people,
      Instant now) {
    MeetingFacts facts = builder.build(meeting);
    int[] found = new int[2];
    auditor.audit(
        facts,
        (of, occurrence, detail) -> {
          found[0]++;
          found[1] = Math.max(found[1], detail.severity());
        });
    List<Occurrence> coming = Occurrences.between(meeting, now, now.plus(WINDOW));
    Person host = people.get(Directory.fold(meeting.host()));
    var exposure = auditor.judge(facts).basis().exposure();
    return new Line(
        meeting.id(),
        meeting.title(),
        meeting.kind(),
        host == null ? null : host.unit(),
        meeting.host(),
        host == null ? meeting.host() : host.name(),
        meeting.start().toString(),
        meeting.zone().getId(),
        meeting.minutes(),
        meeting.recurrence(),
        coming.isEmpty() ? null : coming.get(0).start(),
        coming.size(),
        exposure.score(),
        exposure.band().id(),
        found[0],
        found[1],
        facts.invited());
  }
}
