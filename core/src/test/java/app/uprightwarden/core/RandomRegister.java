package app.uprightwarden.core;

import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.meeting.Invitee;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.meeting.OccurrenceChange;
import app.uprightwarden.core.people.Directory;
import app.uprightwarden.core.people.Person;
import app.uprightwarden.core.people.Standing;
import app.uprightwarden.core.rulebook.Rulebook;
import app.uprightwarden.core.rulebook.Scope;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;

/** A made-up directory, and random rulebooks and meetings with names in it. */
public final class RandomRegister {
  public static final LocalDateTime START = LocalDateTime.parse("2027-03-01T09:00");
  private static final List<String> UNITS = List.of("root", "leaf", "other");
  private static final List<String> KINDS = List.of("k0", "k1");

  private RandomRegister() {}

  /** Members of three units, a guest and a partner's domain. */
  public static Directory directory() {
    List<Person> people = new ArrayList<>();
    for (int i = 0; i < 9; i++) {
      String unit = i == 8 ? null : UNITS.get(i % 3);
      people.add(new Person("h" + i + "@a.example", "H" + i, Standing.MEMBER, unit, true));
    }
    people.add(new Person("g@b.example", "G", Standing.GUEST, null, true));
    Map<String, String> parents = new HashMap<>();
    parents.put("root", null);
    parents.put("leaf", "root");
    parents.put("other", null);
    return new Directory(people, List.of("p.example"), parents, Map.of());
  }

  /** Four layers, each with rules and a guarantee or two. */
  public static Rulebook rulebook(RandomMeetings any) {
    return new Rulebook(
        List.of(
            any.layer(Scope.ORGANISATION, 2, 2),
            any.layer(Scope.unit("root"), 6, 1),
            any.layer(Scope.unit("leaf"), 6, 1),
            any.layer(Scope.kind("k0"), 6, 1)));
  }

  /** Series, a third of them with occurrences that differ; some go by names, some of outsiders. */
  public static List<Meeting> meetings(RandomMeetings any, Random random, int count) {
    List<ControlValues> sets = new ArrayList<>();
    for (int i = 0; i < 6; i++) {
      sets.add(any.values());
    }
    List<Meeting> meetings = new ArrayList<>();
    for (int i = 0; i < count; i++) {
      List<OccurrenceChange> changes =
          random.nextInt(3) > 0
              ? List.of()
              : List.of(
                  new OccurrenceChange(START, null, 30, ControlValues.NONE),
                  new OccurrenceChange(START.plusDays(1), null, null, any.values()));
      List<Invitee> invitees =
          List.of(
              new Invitee("h1@a.example", Invitee.Need.REQUIRED),
              new Invitee(
                  random.nextBoolean() ? "g@b.example" : "x@c.example", Invitee.Need.OPTIONAL));
      meetings.add(
          new Meeting(
              "m" + i,
              "Meeting " + i,
              "",
              random.nextInt(3) == 0 ? null : KINDS.get(random.nextInt(2)),
              random.nextInt(12) == 0 ? "gone@a.example" : "h" + random.nextInt(9) + "@a.example",
              List.of(),
              random.nextBoolean() ? List.of("h2@a.example") : List.of("x@c.example"),
              random.nextBoolean() ? invitees : List.of(),
              List.of(),
              null,
              START,
              ZoneOffset.UTC,
              60,
              "FREQ=DAILY;COUNT=3",
              List.of(),
              List.of(),
              null,
              null,
              sets.get(random.nextInt(sets.size())),
              changes));
    }
    return meetings;
  }
}
