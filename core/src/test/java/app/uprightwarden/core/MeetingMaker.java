package app.uprightwarden.core;

import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.meeting.Invitee;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.meeting.OccurrenceChange;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** A meeting to test with: an hour of a host alone, and what a test says of it besides. */
public final class MeetingMaker {
  private final LocalDateTime start;
  private final ZoneId zone;
  private String host = "host@x.example";
  private @Nullable String kind;
  private List<String> coHosts = List.of();
  private List<String> presenters = List.of();
  private List<Invitee> invitees = List.of();
  private List<String> lists = List.of();
  private @Nullable String space;
  private int minutes = 60;
  private @Nullable String recurrence;
  private List<LocalDateTime> exDates = List.of();
  private List<LocalDateTime> rDates = List.of();
  private ControlValues controls = ControlValues.NONE;
  private List<OccurrenceChange> changes = List.of();

  public MeetingMaker(LocalDateTime start, ZoneId zone) {
    this.start = start;
    this.zone = zone;
  }

  public MeetingMaker host(String host) {
    this.host = host;
    return this;
  }

  public MeetingMaker kind(@Nullable String kind) {
    this.kind = kind;
    return this;
  }

  public MeetingMaker people(
      List<String> coHosts, List<String> presenters, List<Invitee> invitees) {
    this.coHosts = coHosts;
    this.presenters = presenters;
    this.invitees = invitees;
    return this;
  }

  public MeetingMaker lists(String... lists) {
    this.lists = List.of(lists);
    return this;
  }

  public MeetingMaker space(@Nullable String space) {
    this.space = space;
    return this;
  }

  public MeetingMaker minutes(int minutes) {
    this.minutes = minutes;
    return this;
  }

  public MeetingMaker recurrence(String recurrence) {
    this.recurrence = recurrence;
    return this;
  }

  public MeetingMaker dates(List<LocalDateTime> without, List<LocalDateTime> with) {
    exDates = without;
    rDates = with;
    return this;
  }

  public MeetingMaker controls(ControlValues controls) {
    this.controls = controls;
    return this;
  }

  public MeetingMaker changes(OccurrenceChange... changes) {
    this.changes = List.of(changes);
    return this;
  }

  public Meeting make() {
    return new Meeting(
        "m",
        "M",
        "",
        kind,
        host,
        coHosts,
        presenters,
        invitees,
        lists,
        space,
        start,
        zone,
        minutes,
        recurrence,
        exDates,
        rDates,
        null,
        null,
        controls,
        changes);
  }
}
