package app.uprightwarden.server.watch;

import app.uprightwarden.server.jobs.Backlog;
import io.micrometer.core.instrument.Gauge;
import io.micrometer.core.instrument.MeterRegistry;
import io.micrometer.core.instrument.binder.MeterBinder;
import java.util.List;
import org.springframework.dao.DataAccessException;
import org.springframework.stereotype.Component;
import org.springframework.transaction.TransactionException;

/** What waits, and how far the clock is off, as metrics. */
@Component
class Gauges implements MeterBinder {
  private final List<Backlog> backlogs;
  private final NodeBeat beat;

  Gauges(List<Backlog> backlogs, NodeBeat beat) {
    this.backlogs = backlogs;
    this.beat = beat;
  }

  @Override
  public void bindTo(MeterRegistry registry) {
    for (Backlog backlog : backlogs) {
      Gauge.builder("warden.backlog", backlog, Gauges::waiting)
          .tag("of", backlog.name())
          .description("work that waits to be done")
          .register(registry);
    }
    Gauge.builder("warden.clock.skew", beat, b -> b.skew().toMillis() / 1000.0)
        .description("how far this server's clock is before the database's")
        .baseUnit("seconds")
        .register(registry);
  }

  private static double waiting(Backlog backlog) {
    try {
      return backlog.waiting();
    } catch (DataAccessException | TransactionException e) {
      return Double.NaN; // not known while the database is away
    }
  }
}
