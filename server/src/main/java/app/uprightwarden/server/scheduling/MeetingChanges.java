package app.uprightwarden.server.scheduling;

import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.server.register.Scheduled;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** What is different about a meeting for those invited, in words. */
final class MeetingChanges {
  private MeetingChanges() {}

  /** One sentence for each difference; empty where nothing they see is different. */
  static List<String> between(Scheduled was, Scheduled now, Invitations.Ground on) {
    Meeting before = was.meeting();
    Meeting after = now.meeting();
    List<String> changes = new ArrayList<>();
    differ(changes, "Title", before.title(), after.title());
    differ(
        changes,
        "When",
        MeetingTimes.when(was, before.zone(), Locale.ENGLISH),
        MeetingTimes.when(now, after.zone(), Locale.ENGLISH));
    differ(changes, "Recurs", recurs(before), recurs(after));
    dates(changes, "dropped", before.exDates(), after.exDates());
    dates(changes, "added", before.rDates(), after.rDates());
    dates(changes, "moved or changed", changed(before), changed(after));
    differ(
        changes, "Host", Invitations.name(before.host(), on), Invitations.name(after.host(), on));
    differ(changes, "Room", InvitationRows.room(was, on), InvitationRows.room(now, on));
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
      String few = more.stream().limit(5).map(MeetingTimes::at).collect(Collectors.joining("; "));
      int rest = more.size() - Math.min(5, more.size());
      String others = rest > 0 ? "; and " + rest + " more" : "";
      changes.add(
          more.size() == 1
              ? "One date " + what + ": " + few
              : more.size() + " dates " + what + ": " + few + others);
    }
  }
}
