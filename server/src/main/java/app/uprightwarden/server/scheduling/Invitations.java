package app.uprightwarden.server.scheduling;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.door.Door;
import app.uprightwarden.core.door.Moment;
import app.uprightwarden.core.door.Passage;
import app.uprightwarden.core.meeting.Invitee;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.people.Directory;
import app.uprightwarden.core.people.Joiner;
import app.uprightwarden.core.people.Person;
import app.uprightwarden.core.people.Route;
import app.uprightwarden.core.people.Tie;
import app.uprightwarden.server.access.AccountLanguages;
import app.uprightwarden.server.calendars.CalendarWriter;
import app.uprightwarden.server.outbox.OutboxService;
import app.uprightwarden.server.people.Organisation;
import app.uprightwarden.server.people.OrganisationService;
import app.uprightwarden.server.problem.Sentences;
import app.uprightwarden.server.problem.Texts;
import app.uprightwarden.server.register.Details;
import app.uprightwarden.server.register.RegisterService;
import app.uprightwarden.server.register.Scheduled;
import app.uprightwarden.server.register.ServiceMeans;
import com.samskivert.mustache.Mustache;
import com.samskivert.mustache.Template;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.time.ZonedDateTime;
import java.time.format.DateTimeFormatter;
import java.time.format.DateTimeFormatterBuilder;
import java.time.format.FormatStyle;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Writes what invitees read: an invitation, a change, a cancellation. */
@Component
class Invitations {
  private static final List<String> OF_ONE = List.of("Your time", "When you come", "Your group");
  private static final String DIGITS_TO_COME = "eight digits, made when the meeting is saved";
  private static final int LONGEST_AGENDA = 10_000;
  private static final DateTimeFormatter DAY_AND_TIME =
      DateTimeFormatter.ofPattern("EEEE d MMMM uuuu, HH:mm", Locale.UK);
  private static final DateTimeFormatter DAY =
      DateTimeFormatter.ofPattern("EEEE d MMMM uuuu", Locale.UK);
  private static final DateTimeFormatter TIME = DateTimeFormatter.ofPattern("HH:mm", Locale.UK);

  private final OrganisationService organisation;
  private final MeetingHome home;
  private final RegisterService register;
  private final AccountLanguages languages;
  private final Clock clock;
  private final Template html;

  Invitations(
      OrganisationService organisation,
      MeetingHome home,
      RegisterService register,
      AccountLanguages languages,
      Clock clock) {
    this.organisation = organisation;
    this.home = home;
    this.register = register;
    this.languages = languages;
    this.clock = clock;
    try (InputStream in =
        Objects.requireNonNull(Invitations.class.getResourceAsStream("/invitation.html"))) {
      html =
          Mustache.compiler()
              .escapeHTML(true)
              .compile(new String(in.readAllBytes(), StandardCharsets.UTF_8));
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  /** What is written about. */
  enum Sort {
    NEW("Invitation"),
    CHANGED("Changed"),
    CANCELLED("Cancelled"),

    /** To somebody who is no longer invited. */
    WITHDRAWN("No longer invited");

    private final String word;

    Sort(String word) {
      this.word = word;
    }
  }

  /** What everybody's message is made from; read once for all. */
  record Ground(
      Organisation organisation,
      Directory directory,
      PeopleZones zones,
      MeetingHome.Join join,
      @Nullable String phonePasscode,
      Map<String, Locale> languages) {
    Locale language(Recipients.Recipient of) {
      return languages.getOrDefault(Directory.fold(of.email()), Locale.ENGLISH);
    }
  }

  /**
   * What messages of a meeting are made from.
   *
   * @param service the one that a new meeting is to be made in
   */
  Ground ground(Scheduled of, ServiceMeans.@Nullable Named service) {
    Directory directory = organisation.directory();
    return new Ground(
        organisation.organisation(),
        directory,
        new PeopleZones(
            organisation,
            Recipients.of(of.meeting(), directory).stream()
                .map(Recipients.Recipient::email)
                .toList()),
        home.join(of.meeting(), service, isEmbedded(of) ? of.passcode() : null),
        phonePasscode(of),
        languages.others());
  }

  /** As the form says it, or as it is stored beside the same passcode. */
  private @Nullable String phonePasscode(Scheduled of) {
    Meeting meeting = of.meeting();
    if (of.phonePasscode() != null || !RegisterService.needsPhonePasscode(meeting)) {
      return of.phonePasscode();
    }
    String print = Objects.requireNonNull(meeting.passcode()).fingerprint();
    boolean isSame =
        register
            .find(meeting.id())
            .map(stored -> stored.meeting().passcode())
            .filter(was -> was.fingerprint().equals(print))
            .isPresent();
    String stored = isSame ? register.phonePasscode(meeting.id()) : null;
    return stored == null ? DIGITS_TO_COME : stored;
  }

  private static boolean isEmbedded(Scheduled of) {
    ControlValues controls = of.meeting().controls();
    return of.passcode() != null
        && controls.is(Control.PASSCODE, "required")
        && controls.is(Control.PASSCODE_IN_LINK, "embedded");
  }

  /** One label and what stands beside it. */
  record Row(String label, String value) {
    /** A label has a colon behind it where its words are looked up: it is no sentence. */
    static String label(String english, Locale language) {
      String other = Sentences.said(english + ":", language);
      return other.substring(0, other.length() - 1);
    }

    /** With its label in a language; what stands beside it may be anybody's words. */
    Row in(Locale language) {
      return new Row(label(label, language), value);
    }
  }

  /** The message to one recipient. */
  OutboxService.Letter letter(
      Scheduled scheduled,
      Recipients.Recipient to,
      Sort sort,
      @Nullable String word,
      List<String> changes,
      Ground on) {
    Meeting meeting = scheduled.meeting();
    boolean isOver = sort == Sort.CANCELLED || sort == Sort.WITHDRAWN;
    Locale language = on.language(to);
    List<Row> rows =
        (isOver
                ? List.of(new Row("Was", when(scheduled, meeting.zone(), language)))
                : rows(scheduled, to, on, language))
            .stream().map(row -> row.in(language)).toList();
    String host = name(meeting.host(), on);
    String opening =
        switch (sort) {
          case NEW -> host + " invites you.";
          case CHANGED -> host + " changed this meeting.";
          case CANCELLED -> host + " cancelled this meeting.";
          case WITHDRAWN -> host + " has taken back your invitation to this meeting.";
        };
    opening = Sentences.said(opening, language);
    boolean isOurs = Amendments.RENEWED.equals(word);
    word = isOurs ? Sentences.said(Amendments.RENEWED, language) : word;
    List<String> changed = changes.stream().map(each -> Sentences.said(each, language)).toList();
    String subject = Sentences.said(sort.word + ":", language) + " " + meeting.title();
    StringBuilder text = new StringBuilder();
    text.append(meeting.title()).append("\n\n").append(opening).append('\n');
    if (word != null && !word.isBlank()) {
      text.append(word.strip()).append('\n');
    }
    String whatChanged = Sentences.said("What changed", language);
    String agendaTitle = Row.label("Agenda", language);
    if (!changed.isEmpty()) {
      text.append('\n').append(whatChanged).append('\n');
      changed.forEach(change -> text.append("- ").append(change).append('\n'));
    }
    text.append('\n');
    rows.forEach(row -> text.append(row.label()).append(":  ").append(row.value()).append('\n'));
    boolean agenda = !isOver && !meeting.description().isBlank();
    if (agenda) {
      text.append('\n').append(agendaTitle).append('\n');
      text.append(agenda(meeting, language)).append('\n');
    }
    Map<String, Object> model = new HashMap<>();
    model.put("title", meeting.title());
    model.put("opening", opening);
    model.put("word", word == null ? "" : word.strip());
    model.put("rows", rows);
    model.put("changed", !changed.isEmpty());
    model.put("changes", changed);
    model.put("whatChanged", whatChanged);
    model.put("agendaTitle", agendaTitle);
    model.put("language", language.getLanguage());
    model.put("agenda", agenda ? agenda(meeting, language) : "");
    return new OutboxService.Letter(
            to.email(),
            subject,
            "meeting:" + meeting.id(),
            text.toString(),
            html.execute(model),
            calendar(scheduled, to, sort, on),
            meeting.host())
        .secret(showsPasscode(scheduled));
  }

  /**
   * What of an agenda goes into each letter, several times over; the rest stays with the meeting.
   */
  private static String agenda(Meeting meeting, Locale language) {
    String whole = meeting.description().strip();
    return whole.length() <= LONGEST_AGENDA
        ? whole
        : Texts.cut(whole, LONGEST_AGENDA)
            + Sentences.said("… (the rest is with the meeting)", language);
  }

  private static boolean showsPasscode(Scheduled scheduled) {
    ControlValues controls = scheduled.meeting().controls();
    return scheduled.passcode() != null
        && controls.is(Control.PASSCODE, "required")
        && (controls.is(Control.PASSCODE_IN_LINK, "embedded")
            || controls.is(Control.PASSCODE_IN_MAIL, "shown"));
  }

  private List<Row> rows(Scheduled scheduled, Recipients.Recipient to, Ground on, Locale language) {
    Meeting meeting = scheduled.meeting();
    ControlValues controls = meeting.controls();
    List<Row> rows = new ArrayList<>();
    rows.add(new Row("When", when(scheduled, meeting.zone(), language)));
    ZoneId theirs = on.zones().of(to.email());
    if (theirs != null && !theirs.equals(meeting.zone()) && !scheduled.details().wholeDay()) {
      rows.add(new Row("Your time", when(scheduled, theirs, language)));
    }
    if (meeting.recurrence() != null) {
      rows.add(
          new Row("Recurs", RecurrenceWords.of(meeting.recurrence(), meeting.zone(), language)));
    }
    on.organisation().rooms().stream()
        .filter(room -> room.id().equals(scheduled.details().room()))
        .forEach(room -> rows.add(new Row("Room", room.name())));
    String passcode = scheduled.passcode();
    boolean required = passcode != null && controls.is(Control.PASSCODE, "required");
    String link = on.join().link();
    String where = link == null ? Sentences.said(on.join().instead(), language) : link;
    if (!where.isEmpty()) {
      rows.add(new Row("Join at", where));
    }
    if (meeting.number() != null) {
      rows.add(new Row("Number", meeting.number()));
    }
    if (required) {
      rows.add(
          new Row(
              "Passcode",
              controls.is(Control.PASSCODE_IN_MAIL, "shown")
                  ? Objects.requireNonNull(passcode)
                  : Sentences.said(
                      "is not in this message; the host gives it to you another way", language)));
    }
    Value routes = controls.effective(Control.AUDIO_ROUTES);
    if (((Value.Names) routes).members().contains("phone") && meeting.number() != null) {
      Value countries = controls.effective(Control.DIAL_IN_COUNTRIES);
      List<String> dial = dialIn(on.join().dialIn(), ((Value.Names) countries).members());
      if (!dial.isEmpty()) {
        rows.add(new Row("By phone", String.join(", ", dial)));
      }
      phonePasscode(scheduled, on, language).ifPresent(rows::add);
    }
    rows.add(new Row("When you come", Sentences.said(arrival(scheduled, to, on), language)));
    task(meeting, to)
        .ifPresent(task -> rows.add(new Row("Your task", Sentences.said(task, language))));
    group(scheduled, to, on.directory()).ifPresent(name -> rows.add(new Row("Your group", name)));
    return rows;
  }

  /**
   * How to come to a meeting, as plain text to be passed on: what every invitee's message says, and
   * nothing that is of one alone.
   */
  String joinText(Scheduled scheduled, Ground on) {
    Recipients.Recipient host = new Recipients.Recipient(scheduled.meeting().host(), Tie.HOST);
    StringBuilder text = new StringBuilder(scheduled.meeting().title()).append('\n');
    rows(scheduled, host, on, Locale.ENGLISH).stream()
        .filter(row -> !OF_ONE.contains(row.label()))
        .forEach(row -> text.append(row.label()).append(": ").append(row.value()).append('\n'));
    return text.toString();
  }

  /** The numbers of some countries; of all where none is named. One that names none is kept. */
  private static List<String> dialIn(List<String> all, List<String> countries) {
    return all.stream()
        .filter(
            number ->
                countries.isEmpty()
                    || !number.matches(".*\\([A-Z]{2}\\)")
                    || countries.contains(
                        number.substring(number.length() - 3, number.length() - 1)))
        .toList();
  }

  /** A passcode of letters cannot be typed on a telephone's keys. */
  private static Optional<Row> phonePasscode(Scheduled of, Ground on, Locale language) {
    String digits = on.phonePasscode();
    boolean isShown = of.meeting().controls().is(Control.PASSCODE_IN_MAIL, "shown");
    if (digits == null || !isShown) {
      return Optional.empty();
    }
    boolean isToCome = digits.equals(DIGITS_TO_COME);
    String said = isToCome ? Sentences.said(digits, language) : digits;
    return Optional.of(new Row("Passcode by phone", said));
  }

  private static Optional<String> task(Meeting meeting, Recipients.Recipient to) {
    return meeting.invitees().stream()
        .filter(i -> i.task() != null && isSame(i.email(), to.email()))
        .findFirst()
        .map(Invitations::task);
  }

  private static String task(Invitee invitee) {
    String language = invitee.language();
    String into = language == null ? "" : Locale.forLanguageTag(language).getDisplayName(Locale.UK);
    return switch (Objects.requireNonNull(invitee.task())) {
      case CONTRIBUTOR -> "you take part: you are heard where the others only watch";
      case CAPTIONER -> "you write the captions" + (into.isEmpty() ? "" : " (" + into + ")");
      case INTERPRETER -> "you interpret" + (into.isEmpty() ? "" : " into " + into);
    };
  }

  private static boolean isSame(String address, String other) {
    return Directory.fold(address).equals(Directory.fold(other));
  }

  /** By name before by a list. */
  private static Optional<String> group(
      Scheduled of, Recipients.Recipient to, Directory directory) {
    List<Details.Group> groups = of.details().groups();
    Predicate<List<String>> holds = all -> all.stream().anyMatch(m -> isSame(m, to.email()));
    return Stream.concat(
            groups.stream().filter(g -> holds.test(g.members())),
            groups.stream()
                .filter(g -> g.list() != null)
                .filter(g -> holds.test(directory.membersOfList(Objects.requireNonNull(g.list())))))
        .map(Details.Group::name)
        .findFirst();
  }

  /** What the door will answer them, in words. */
  String arrival(Scheduled scheduled, Recipients.Recipient to, Ground on) {
    Meeting meeting = scheduled.meeting();
    if (to.tie() == Tie.CO_HOST) {
      return "you are a co-host: you come in at any time, and may let others in";
    }
    boolean presenter =
        meeting.presenters().stream()
            .anyMatch(p -> Directory.fold(p).equals(Directory.fold(to.email())));
    Passage passage =
        Door.pass(
            meeting.controls(),
            new Joiner(
                on.directory().standingOf(to.email()),
                to.tie(),
                Route.APP,
                true,
                false,
                null,
                presenter),
            Moment.IN_SESSION);
    return switch (passage.outcome().id()) {
      case "in" -> "you come straight in once the meeting is on";
      case "held" -> "you wait until you are let in";
      default -> "you would be turned away; ask the host before the day";
    };
  }

  private static String when(Scheduled scheduled, ZoneId zone, Locale language) {
    boolean isEnglish = language.equals(Locale.ENGLISH);
    DateTimeFormatter day =
        isEnglish ? DAY : DateTimeFormatter.ofLocalizedDate(FormatStyle.FULL).withLocale(language);
    DateTimeFormatter dayAndTime =
        isEnglish
            ? DAY_AND_TIME
            : new DateTimeFormatterBuilder()
                .append(day)
                .appendPattern(", HH:mm")
                .toFormatter(language);
    Meeting meeting = scheduled.meeting();
    ZonedDateTime start = meeting.start().atZone(meeting.zone()).withZoneSameInstant(zone);
    if (scheduled.details().wholeDay()) {
      int days = Math.max(1, meeting.minutes() / 1440);
      String date = day.format(meeting.start());
      String whole =
          days == 1
              ? date + ", the whole day"
              : date + " and " + (days - 1) + " more days, whole days";
      return Sentences.said(whole, language);
    }
    ZonedDateTime end = start.plusMinutes(meeting.minutes());
    boolean sameDay = start.toLocalDate().equals(end.toLocalDate());
    return dayAndTime.format(start)
        + " "
        + Row.label("to", language)
        + " "
        + (sameDay ? TIME : dayAndTime).format(end)
        + " ("
        + zone.getId()
        + ")";
  }

  private static String name(String email, Ground on) {
    Person person = on.directory().find(email);
    return person == null ? email : person.name();
  }

  private OutboxService.CalendarPart calendar(
      Scheduled scheduled, Recipients.Recipient to, Sort sort, Ground on) {
    Map<String, String> names = new HashMap<>();
    for (String email : List.of(scheduled.meeting().host(), to.email())) {
      Person person = on.directory().find(email);
      if (person != null) {
        names.put(Directory.fold(email), person.name());
      }
    }
    CalendarWriter.Style style =
        switch (sort) {
          case CANCELLED -> CalendarWriter.Style.CANCELLATION;
          case WITHDRAWN -> CalendarWriter.Style.WITHDRAWAL;
          default -> CalendarWriter.Style.INVITATION;
        };
    Scheduled told = withJoinText(scheduled, to, on);
    String text =
        new CalendarWriter(on.organisation(), names, clock.instant(), style)
            .forRecipient(to.email())
            .write(List.of(sort == Sort.WITHDRAWN ? alone(told, to) : told), null);
    return new OutboxService.CalendarPart(String.valueOf(style.method()), text);
  }

  /** Who is no longer invited is told of nobody else. */
  private static Scheduled alone(Scheduled of, Recipients.Recipient to) {
    Meeting m = of.meeting();
    Meeting alone =
        new Meeting(
            m.id(),
            m.title(),
            m.description(),
            m.kind(),
            m.host(),
            List.of(),
            List.of(),
            List.of(new Invitee(to.email(), Invitee.Need.REQUIRED)),
            List.of(),
            null,
            m.start(),
            m.zone(),
            m.minutes(),
            m.recurrence(),
            m.exDates(),
            m.rDates(),
            null,
            null,
            ControlValues.NONE,
            List.of());
    var d = of.details();
    return new Scheduled(
        alone,
        new app.uprightwarden.server.register.Details(
            null, d.wholeDay(), null, List.of(), d.uid(), d.sequence(), List.of()),
        null);
  }

  /** What is different for those invited, in words; empty where nothing they see is. */
  List<String> changes(Scheduled was, Scheduled now, Ground on) {
    Meeting before = was.meeting();
    Meeting after = now.meeting();
    List<String> changes = new ArrayList<>();
    differ(changes, "Title", before.title(), after.title());
    differ(
        changes,
        "When",
        when(was, before.zone(), Locale.ENGLISH),
        when(now, after.zone(), Locale.ENGLISH));
    differ(changes, "Recurs", recurs(before), recurs(after));
    dates(changes, "dropped", before.exDates(), after.exDates());
    dates(changes, "added", before.rDates(), after.rDates());
    dates(changes, "moved or changed", changed(before), changed(after));
    differ(changes, "Host", name(before.host(), on), name(after.host(), on));
    differ(changes, "Room", room(was, on), room(now, on));
    differ(changes, "Number", before.number(), after.number());
    boolean samePasscode =
        Objects.equals(
            before.passcode() == null ? null : before.passcode().fingerprint(),
            after.passcode() == null ? null : after.passcode().fingerprint());
    if (!samePasscode) {
      changes.add("Passcode: it is another one");
    }
    if (!before.description().strip().equals(after.description().strip())) {
      changes.add("Agenda: it is another one, below");
    }
    return changes;
  }

  private static void differ(
      List<String> changes, String what, @Nullable String was, @Nullable String is) {
    if (!Objects.equals(was, is)) {
      changes.add(
          is == null
              ? what + ": none any more; it was " + was
              : was == null ? what + ": " + is : what + ": " + is + "; it was " + was);
    }
  }

  private static @Nullable String recurs(Meeting meeting) {
    return meeting.recurrence() == null
        ? null
        : RecurrenceWords.of(meeting.recurrence(), meeting.zone(), Locale.ENGLISH);
  }

  private static @Nullable String room(Scheduled of, Ground on) {
    return on.organisation().rooms().stream()
        .filter(room -> room.id().equals(of.details().room()))
        .findFirst()
        .map(app.uprightwarden.server.people.Organisation.Room::name)
        .orElse(null);
  }

  private static List<LocalDateTime> changed(Meeting meeting) {
    return meeting.changes().stream()
        .filter(c -> c.start() != null || c.minutes() != null)
        .map(c -> c.start() == null ? c.at() : c.start())
        .toList();
  }

  private static void dates(
      List<String> changes, String what, List<LocalDateTime> was, List<LocalDateTime> is) {
    List<LocalDateTime> more = is.stream().filter(date -> !was.contains(date)).sorted().toList();
    if (!more.isEmpty()) {
      String few =
          more.stream().limit(5).map(DAY_AND_TIME::format).collect(Collectors.joining("; "));
      int rest = more.size() - Math.min(5, more.size());
      String others = rest > 0 ? "; and " + rest + " more" : "";
      changes.add(
          more.size() == 1
              ? "One date " + what + ": " + few
              : more.size() + " dates " + what + ": " + few + others);
    }
  }

  /** The calendar's description has what the message says; foreign lines stay at home. */
  private Scheduled withJoinText(Scheduled of, Recipients.Recipient to, Ground on) {
    Meeting m = of.meeting();
    StringBuilder text = new StringBuilder();
    Locale language = on.language(to);
    rows(of, to, on, language).stream()
        .filter(row -> !row.label().equals("When") && !row.label().equals("Your time"))
        .map(row -> row.in(language))
        .forEach(row -> text.append(row.label()).append(": ").append(row.value()).append('\n'));
    if (!m.description().isBlank()) {
      text.append('\n').append(agenda(m, language));
    }
    Meeting described = m.withDescription(text.toString());
    var d = of.details();
    return new Scheduled(
        described,
        new app.uprightwarden.server.register.Details(
            d.room(), d.wholeDay(), d.reminder(), List.of(), d.uid(), d.sequence(), places(of, on)),
        null);
  }

  /**
   * Where to join, for programs that make a button of it (RFC 7986 section 5.11), and for the
   * others as the place where there is no room. The link holds the passcode only where the meeting
   * has it so.
   */
  private List<String> places(Scheduled of, Ground on) {
    String link = on.join().link();
    if (link == null) {
      return List.of();
    }
    List<String> lines = new ArrayList<>();
    lines.add("CONFERENCE;VALUE=URI;FEATURE=AUDIO,VIDEO;LABEL=Join the meeting:" + link);
    if (room(of, on) == null) {
      lines.add("LOCATION:" + link.replace("\\", "\\\\").replace(",", "\\,").replace(";", "\\;"));
    }
    return lines;
  }
}
