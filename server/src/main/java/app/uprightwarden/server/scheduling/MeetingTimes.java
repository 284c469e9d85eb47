package app.uprightwarden.server.scheduling;

import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.server.problem.Sentences;
import app.uprightwarden.server.register.Scheduled;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.time.ZonedDateTime;
import java.time.format.DateTimeFormatter;
import java.time.format.DateTimeFormatterBuilder;
import java.time.format.FormatStyle;
import java.util.Locale;

/** When a meeting is, in words. */
final class MeetingTimes {
  private static final DateTimeFormatter DAY_AND_TIME =
      DateTimeFormatter.ofPattern("EEEE d MMMM uuuu, HH:mm", Locale.UK);
  private static final DateTimeFormatter DAY =
      DateTimeFormatter.ofPattern("EEEE d MMMM uuuu", Locale.UK);
  private static final DateTimeFormatter TIME = DateTimeFormatter.ofPattern("HH:mm", Locale.UK);

  private MeetingTimes() {}

  /** A day and a time of it, in English. */
  static String at(LocalDateTime date) {
    return DAY_AND_TIME.format(date);
  }

  /** From when to when, as it is in a zone. */
  static String when(Scheduled scheduled, ZoneId zone, Locale language) {
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
        + InvitationRows.Row.label("to", language)
        + " "
        + (sameDay ? TIME : dayAndTime).format(end)
        + " ("
        + zone.getId()
        + ")";
  }
}
