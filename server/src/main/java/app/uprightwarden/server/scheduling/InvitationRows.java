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
import app.uprightwarden.core.people.Route;
import app.uprightwarden.core.people.Tie;
import app.uprightwarden.server.people.Organisation;
import app.uprightwarden.server.problem.Sentences;
import app.uprightwarden.server.register.Details;
import app.uprightwarden.server.register.Scheduled;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.Optional;
import java.util.function.Predicate;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** What stands in an invitation, line by line. */
final class InvitationRows {
  /** Stands for the digits of a meeting that is not saved yet. */
  static final String DIGITS_TO_COME = "eight digits, made when the meeting is saved";

  private InvitationRows() {}

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

  /** What one recipient reads of a meeting; the labels are English until they are asked for. */
  static List<Row> of(
      Scheduled scheduled, Recipients.Recipient to, Invitations.Ground on, Locale language) {
    Meeting meeting = scheduled.meeting();
    ControlValues controls = meeting.controls();
    List<Row> rows = new ArrayList<>();
    rows.add(new Row("When", MeetingTimes.when(scheduled, meeting.zone(), language)));
    ZoneId theirs = on.zones().of(to.email());
    if (theirs != null && !theirs.equals(meeting.zone()) && !scheduled.details().wholeDay()) {
      rows.add(new Row("Your time", MeetingTimes.when(scheduled, theirs, language)));
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
  private static Optional<Row> phonePasscode(Scheduled of, Invitations.Ground on, Locale language) {
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
        .map(InvitationRows::task);
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
  private static String arrival(
      Scheduled scheduled, Recipients.Recipient to, Invitations.Ground on) {
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

  /** What the room of a meeting is called; null where there is none. */
  static @Nullable String room(Scheduled of, Invitations.Ground on) {
    return on.organisation().rooms().stream()
        .filter(room -> room.id().equals(of.details().room()))
        .findFirst()
        .map(Organisation.Room::name)
        .orElse(null);
  }
}
