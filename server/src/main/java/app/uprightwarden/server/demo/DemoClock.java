package app.uprightwarden.server.demo;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.ZoneOffset;
import org.springframework.stereotype.Component;

/**
 * The server's clock. It is the machine's, but while a first start makes up the demo's past: then
 * it stands behind, so that what is done carries the time at which it is said to have been done.
 */
@Component
class DemoClock extends Clock {
  private final Clock real = Clock.systemUTC();
  private volatile Duration behind = Duration.ZERO;

  void goBack(Duration by) {
    behind = by;
  }

  @Override
  public ZoneId getZone() {
    return ZoneOffset.UTC;
  }

  @Override
  public Clock withZone(ZoneId zone) {
    return real.withZone(zone);
  }

  @Override
  public Instant instant() {
    return real.instant().minus(behind);
  }
}
