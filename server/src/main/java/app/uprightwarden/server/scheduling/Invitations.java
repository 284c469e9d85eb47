package app.uprightwarden.server.scheduling;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.meeting.Invitee;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.people.Directory;
import app.uprightwarden.core.people.Person;
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
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Writes what invitees read: an invitation, a change, a cancellation. */
@Component
class Invitations {
  private static final List<String> OF_ONE = List.of("Your time", "When you come", "Your group");
  private static final int LONGEST_AGENDA = 10_000;

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
    return stored == null ? InvitationRows.DIGITS_TO_COME : stored;
  }

  private static boolean isEmbedded(Scheduled of) {
    ControlValues controls = of.meeting().controls();
    return of.passcode() != null
        && controls.is(Control.PASSCODE, "required")
        && controls.is(Control.PASSCODE_IN_LINK, "embedded");
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
    List<InvitationRows.Row> rows =
        (isOver
                ? List.of(
                    new InvitationRows.Row(
                        "Was", MeetingTimes.when(scheduled, meeting.zone(), language)))
                : InvitationRows.of(scheduled, to, on, language))
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
    String agendaTitle = InvitationRows.Row.label("Agenda", language);
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

  /**
   * How to come to a meeting, as plain text to be passed on: what every invitee's message says, and
   * nothing that is of one alone.
   */
  String joinText(Scheduled scheduled, Ground on) {
    Recipients.Recipient host = new Recipients.Recipient(scheduled.meeting().host(), Tie.HOST);
    StringBuilder text = new StringBuilder(scheduled.meeting().title()).append('\n');
    InvitationRows.of(scheduled, host, on, Locale.ENGLISH).stream()
        .filter(row -> !OF_ONE.contains(row.label()))
        .forEach(row -> text.append(row.label()).append(": ").append(row.value()).append('\n'));
    return text.toString();
  }

  static String name(String email, Ground on) {
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
        new Details(null, d.wholeDay(), null, List.of(), d.uid(), d.sequence(), List.of()),
        null);
  }

  /** The calendar's description has what the message says; foreign lines stay at home. */
  private Scheduled withJoinText(Scheduled of, Recipients.Recipient to, Ground on) {
    Meeting m = of.meeting();
    StringBuilder text = new StringBuilder();
    Locale language = on.language(to);
    InvitationRows.of(of, to, on, language).stream()
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
        new Details(
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
    if (InvitationRows.room(of, on) == null) {
      lines.add("LOCATION:" + link.replace("\\", "\\\\").replace(",", "\\,").replace(";", "\\;"));
    }
    return lines;
  }
}
