package app.uprightwarden.server.calendars;

import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.problem.Texts;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** Reads what invitees answer (RFC 5546 section 3.2.3). */
public final class CalendarReplies {
  private static final Set<String> KNOWN = Set.of("ACCEPTED", "DECLINED", "TENTATIVE");

  private CalendarReplies() {}

  /**
   * One answer.
   *
   * @param occurrence the occurrence's original start on the clock it was written on, or null for
   *     the series; {@code zone} is that clock's, or null where it floats
   * @param state {@code accepted}, {@code declined} or {@code tentative}
   */
  public record Reply(
      String uid,
      String email,
      String state,
      int sequence,
      java.time.@Nullable LocalDateTime occurrence,
      @Nullable ZoneId zone,
      @Nullable String remark) {}

  /**
   * The answers in a calendar.
   *
   * @throws ProblemException 400 where it holds none
   */
  public static List<Reply> read(String text) {
    CalendarText.Document document = CalendarText.read(text);
    if (!"REPLY".equals(document.method())) {
      throw ProblemException.unreadable(
          "This calendar is no answer: its METHOD is not REPLY.", List.of());
    }
    Zones zones = new Zones(document.zones(), ZoneId.of("UTC"));
    List<Reply> replies = new ArrayList<>();
    for (CalendarText.Component event : document.events()) {
      try {
        reply(event, zones, replies);
      } catch (CalendarTimes.Fault e) {
        throw ProblemException.unreadable(
            "The answer cannot be read: " + e.getMessage(), List.of());
      }
    }
    if (replies.isEmpty()) {
      throw ProblemException.unreadable(
          "The answer names no meeting (UID), nobody (ATTENDEE) or no decision (PARTSTAT).",
          List.of());
    }
    return List.copyOf(replies);
  }

  private static void reply(CalendarText.Component event, Zones zones, List<Reply> replies) {
    CalendarText.Line uid = event.first("UID");
    if (uid == null) {
      return;
    }
    CalendarText.Line comment = event.first("COMMENT");
    CalendarText.Line id = event.first("RECURRENCE-ID");
    CalendarTimes.Moment at = id == null ? null : CalendarTimes.moment(id, zones);
    for (CalendarText.Line attendee : event.all("ATTENDEE").toList()) {
      String state = attendee.parameter("PARTSTAT");
      String value = attendee.value().strip();
      String email =
          value.regionMatches(true, 0, "mailto:", 0, 7) ? value.substring(7).strip() : value;
      if (state != null
          && KNOWN.contains(state.toUpperCase(Locale.ROOT))
          && email.contains("@")
          && email.length() <= 254) {
        String remark = comment == null ? null : comment.text().strip();
        replies.add(
            new Reply(
                uid.value().strip(),
                email,
                state.toLowerCase(Locale.ROOT),
                EventReading.sequence(event),
                at == null ? null : at.local(),
                at == null ? null : at.zone(),
                remark == null ? null : Texts.cut(remark, 1000)));
      }
    }
  }
}
