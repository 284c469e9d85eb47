package app.uprightwarden.server.register;

import app.uprightwarden.core.calendar.Occurrences;
import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.meeting.OccurrenceChange;
import app.uprightwarden.core.service.Held;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/**
 * That a meeting is held by a conference service. The meeting as it is stored is what the service
 * said it holds; here is what was decided, and how far that has come.
 *
 * @param there the meeting's id in the service
 * @param revision as the service counts it
 * @param readAt when it was read last
 * @param link the address to join by, from the service
 * @param decided date (empty for the series) → what was decided for it
 * @param notes date and control, {@code "|waiting-room"} → who changed it there after it had been
 *     as decided
 * @param fields what else than controls is still to be written
 * @param writing how far it has come
 * @param command the number under which it is sent, or null where nothing is
 * @param why it was not taken, or null
 * @param late it has not been confirmed for longer than is allowed
 */
public record HeldMeeting(
    ServiceMeans.Named service,
    String there,
    String revision,
    Instant readAt,
    @Nullable String link,
    List<String> dialIn,
    Map<String, ControlValues> decided,
    Map<String, Note> notes,
    List<String> fields,
    Writing writing,
    @Nullable String command,
    @Nullable String why,
    boolean late,
    @Nullable String decidedBy,
    @Nullable Instant decidedAt,
    @Nullable Instant confirmedAt) {
  private static final Duration SOON = Duration.ofDays(1);

  /** Who changed something in the service, and when, as far as it says. */
  public record Note(@Nullable String by, @Nullable Instant at) {}

  /** How far what was decided has come. */
  public enum Writing {
    /** Nothing was decided here that is not so. */
    NONE,
    /** It waits to be sent. */
    WAITING,
    /** It was sent, and has not been read back. */
    SENT,
    /** It was read back. */
    CONFIRMED,
    /** The service does not take it. */
    REFUSED,
    /** The service took it and holds something else. */
    OTHER,
    /** It is not sent, since the service is linked for reading, or for suggestions. */
    KEPT;

    /** As it is written, in lower case. */
    public String id() {
      return name().toLowerCase(java.util.Locale.ROOT);
    }

    static Writing byId(String id) {
      return valueOf(id.toUpperCase(java.util.Locale.ROOT));
    }
  }

  /** How a note is found. */
  static String key(String occurrence, Control control) {
    return occurrence + "|" + control.id();
  }

  /** What the core knows of it, for the meeting as it is held. */
  public Held held(Meeting meeting) {
    List<Held.Difference> differences = new ArrayList<>();
    decided.forEach(
        (occurrence, values) ->
            values
                .asMap()
                .forEach(
                    (control, value) -> compare(meeting, occurrence, control, value, differences)));
    return new Held(service.name(), service.means(), differences, unread(meeting));
  }

  private Held.@Nullable Unread unread(Meeting meeting) {
    Instant now = service.unread();
    if (now == null) {
      return null;
    }
    Instant since = service.contactAt() == null ? readAt : service.contactAt();
    return new Held.Unread(since, !Occurrences.between(meeting, now, now.plus(SOON)).isEmpty());
  }

  private void compare(
      Meeting meeting,
      String occurrence,
      Control control,
      Value value,
      List<Held.Difference> differences) {
    Value holds = heldValue(meeting, occurrence, control);
    Value stands = service.means().valueFor(control, value);
    if (stands != null && stands.equals(holds)) {
      return;
    }
    Note note = notes.get(key(occurrence, control));
    differences.add(
        new Held.Difference(
            occurrence.isEmpty() ? null : LocalDateTime.parse(occurrence),
            control,
            value,
            holds,
            note != null ? Held.Cause.CHANGED_THERE : cause(stands),
            note == null ? null : note.by(),
            note == null ? null : note.at(),
            note != null ? "" : reason(stands)));
  }

  private Held.Cause cause(@Nullable Value stands) {
    if (stands == null || writing == Writing.REFUSED || writing == Writing.OTHER) {
      return Held.Cause.REFUSED;
    }
    if (writing == Writing.KEPT) {
      return Held.Cause.REFUSED;
    }
    return late ? Held.Cause.LATE : Held.Cause.UNDER_WAY;
  }

  private String reason(@Nullable Value stands) {
    if (stands == null) {
      return service.name() + " has no such value";
    }
    return switch (writing) {
      case REFUSED, OTHER -> Objects.requireNonNullElse(why, "it holds something else");
      case KEPT -> "nothing is sent to " + service.name() + " by itself";
      default -> "";
    };
  }

  /** What a service holds for a control, of the series or one date. */
  static @Nullable Value heldValue(Meeting meeting, String occurrence, Control control) {
    return of(meeting, occurrence).get(control);
  }

  private static ControlValues of(Meeting meeting, String occurrence) {
    if (occurrence.isEmpty()) {
      return meeting.controls();
    }
    return meeting.controls().overlaid(over(meeting, occurrence));
  }

  /** What is different about one date, as it is stored. */
  static ControlValues over(Meeting meeting, String occurrence) {
    return meeting.changes().stream()
        .filter(change -> change.at().toString().equals(occurrence))
        .map(OccurrenceChange::controls)
        .findFirst()
        .orElse(ControlValues.NONE);
  }

  /** The meeting as it would be with all that was decided: what somebody changes begins here. */
  public Meeting decided(Meeting meeting) {
    Meeting with =
        meeting.withControls(
            meeting.controls().overlaid(decided.getOrDefault("", ControlValues.NONE)));
    if (decided.keySet().stream().allMatch(String::isEmpty)) {
      return with;
    }
    List<OccurrenceChange> changes = new ArrayList<>();
    List<String> seen = new ArrayList<>();
    for (OccurrenceChange change : meeting.changes()) {
      String at = change.at().toString();
      seen.add(at);
      changes.add(
          new OccurrenceChange(
              change.at(),
              change.start(),
              change.minutes(),
              change.controls().overlaid(decided.getOrDefault(at, ControlValues.NONE))));
    }
    decided.forEach(
        (at, values) -> {
          if (!at.isEmpty() && !seen.contains(at)) {
            changes.add(new OccurrenceChange(LocalDateTime.parse(at), null, null, values));
          }
        });
    return with.withExceptions(with.exDates(), List.copyOf(changes));
  }
}
