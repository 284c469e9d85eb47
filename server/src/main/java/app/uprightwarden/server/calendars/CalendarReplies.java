package app.uprightwarden.server.calendars;

import app.uprightwarden.server.problem.DateWords;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.problem.Texts;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** Reads what invitees answer (RFC 5546 section 3.2.3). */
public final class CalendarReplies {
  private static final Set<String> ANSWERS = Set.of("REPLY", "COUNTER", "REFRESH");
  private static final DateTimeFormatter SHOWN = DateWords.english("proposed");
  private static final Set<String> KNOWN = Set.of("ACCEPTED", "DECLINED", "TENTATIVE");

  private CalendarReplies() {}

  /**
   * One answer.
   *
   * @param occurrence the occurrence's original start on the clock it was written on, or null for
   *     the series; {@code zone} is that clock's, or null where it floats
   * @param state {@code accepted}, {@code declined} or {@code tentative}; {@code counter} where
   *     another time is proposed (RFC 5546 section 3.2.7), {@code refresh} where the invitation is
   *     asked for again (section 3.2.6)
   * @param stamp when it was written, as it says ({@code 20270111T090000Z}); empty where it does
   *     not
   * @param proposed the time that is proposed, as people read it
   */
  public record Reply(
      String uid,
      String email,
      String state,
      int sequence,
      java.time.@Nullable LocalDateTime occurrence,
      @Nullable ZoneId zone,
      @Nullable String remark,
      String stamp,
      @Nullable String proposed) {}

  /**
   * The answers in a calendar.
   *
   * @throws ProblemException 400 where it holds none
   */
  public static List<Reply> read(String text) {
    CalendarText.Document document = CalendarText.read(text);
    String method = document.method() == null ? "" : document.method();
    if (!ANSWERS.contains(method)) {
      throw ProblemException.unreadable(
          "This calendar is no answer: its METHOD is not REPLY.", List.of());
    }
    Zones zones = new Zones(document, ZoneId.of("UTC"));
    List<Reply> replies = new ArrayList<>();
    for (CalendarText.Component event : document.events()) {
      try {
        reply(method, event, zones, replies);
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

  private static void reply(
      String method, CalendarText.Component event, Zones zones, List<Reply> replies) {
    CalendarText.Line uid = event.first("UID");
    if (uid == null) {
      return;
    }
    CalendarText.Line comment = event.first("COMMENT");
    CalendarText.Line id = event.first("RECURRENCE-ID");
    CalendarTimes.Moment at = id == null ? null : CalendarTimes.moment(id, zones);
    for (CalendarText.Line attendee : event.all("ATTENDEE").toList()) {
      String state = attendee.parameter("PARTSTAT");
      String email = EventPeople.mailed(attendee.value().strip());
      boolean isOne = email.contains("@") && email.length() <= 254;
      boolean isDecided = state != null && KNOWN.contains(state.toUpperCase(Locale.ROOT));
      if (isOne && (method.equals("REPLY") ? isDecided : asks(event, attendee))) {
        String remark = comment == null ? null : comment.text().strip();
        replies.add(
            new Reply(
                uid.value().strip(),
                email,
                method.equals("REPLY") && state != null
                    ? state.toLowerCase(Locale.ROOT)
                    : method.toLowerCase(Locale.ROOT),
                EventReading.sequence(event),
                at == null ? null : at.local(),
                at == null ? null : at.zone(),
                remark == null ? null : Texts.cut(remark, 1000),
                EventReading.stamp(event),
                method.equals("COUNTER") ? proposed(event, zones) : null));
      }
    }
  }

  /** Whose proposal or request it is: the one attendee, or the one who has decided something. */
  private static boolean asks(CalendarText.Component event, CalendarText.Line attendee) {
    String state = attendee.parameter("PARTSTAT");
    return event.all("ATTENDEE").count() == 1
        || state != null && KNOWN.contains(state.toUpperCase(Locale.ROOT));
  }

  private static @Nullable String proposed(CalendarText.Component event, Zones zones) {
    CalendarText.Line start = event.first("DTSTART");
    if (start == null) {
      return null;
    }
    CalendarTimes.Moment moment = CalendarTimes.moment(start, zones);
    return moment.local().format(SHOWN)
        + (moment.zone() == null ? "" : " " + moment.zone().getId());
  }
}
