package app.uprightwarden.server.alerting;

import java.time.Duration;
import java.time.Instant;
import java.time.LocalTime;
import java.time.ZoneId;
import java.time.ZonedDateTime;
import org.jspecify.annotations.Nullable;

/**
 * Hours in which nobody is told but of the gravest.
 *
 * @param from the first minute of them, {@code to} the first after them; they may go over midnight
 */
record QuietHours(LocalTime from, LocalTime to, ZoneId zone) {
  /** Null where a setting has none. */
  static @Nullable QuietHours of(AlertSettingEntity setting) {
    String from = setting.quietFrom;
    String to = setting.quietTo;
    return from == null || to == null || from.equals(to)
        ? null
        : new QuietHours(LocalTime.parse(from), LocalTime.parse(to), ZoneId.of(setting.quietZone));
  }

  /** How long they go on from now; zero outside of them. */
  Duration left(Instant now) {
    ZonedDateTime here = now.atZone(zone);
    LocalTime time = here.toLocalTime();
    boolean isWithin =
        from.isBefore(to)
            ? !time.isBefore(from) && time.isBefore(to)
            : !time.isBefore(from) || time.isBefore(to);
    if (!isWithin) {
      return Duration.ZERO;
    }
    ZonedDateTime end = here.with(to);
    if (!end.isAfter(here)) {
      end = here.plusDays(1).with(to);
    }
    return Duration.between(here, end);
  }
}
