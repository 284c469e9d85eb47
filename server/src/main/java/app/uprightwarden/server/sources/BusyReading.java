package app.uprightwarden.server.sources;

import app.uprightwarden.server.calendars.BusyReader;
import app.uprightwarden.server.people.OrganisationService;
import app.uprightwarden.server.persistence.DatabaseClock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/** Reads of calendars only when somebody is busy. */
@Component
class BusyReading {
  private static final Duration BACK = Duration.ofDays(1);
  private static final Duration AHEAD = Duration.ofDays(366);

  /** The name of what a calendar as a whole takes up. */
  private static final String ALL = "";

  private final Sources sources;
  private final SourceFeed feed;
  private final SourceRepository rows;
  private final BusyReader busy;
  private final OrganisationService organisation;
  private final TransactionTemplate transaction;
  private final DatabaseClock clock;

  BusyReading(
      Sources sources,
      SourceFeed feed,
      SourceRepository rows,
      BusyReader busy,
      OrganisationService organisation,
      TransactionTemplate transaction,
      DatabaseClock clock) {
    this.sources = sources;
    this.feed = feed;
    this.rows = rows;
    this.busy = busy;
    this.organisation = organisation;
    this.transaction = transaction;
    this.clock = clock;
  }

  /** Reads when somebody is busy. */
  void readBusy(Sources.Link link) throws SourceTrouble {
    boolean isWhole = feed.isWholeDue(link);
    if (link.kind().equals("icalendar")) {
      SourceHttp.Answer answer = feed.fetch(link, !isWhole);
      if (answer.status() != 304) {
        String text = SourceFeed.checked(answer);
        putBusy(link, Map.of(ALL, stretches(link, text)), List.of(ALL));
        feed.finish(
            link,
            row -> {
              SourceFeed.stamp(row, answer, false);
              row.fullAt = clock.instant();
            });
      }
      return;
    }
    CalDav dav = feed.dav(link);
    Instant now = clock.instant();
    try {
      String text = dav.freeBusy(now.minus(BACK), now.plus(AHEAD));
      putBusy(link, Map.of(ALL, stretches(link, text)), List.of(ALL));
    } catch (SourceTrouble e) {
      if (e.kind() != SourceTrouble.Kind.UNABLE && e.kind() != SourceTrouble.Kind.REFUSED) {
        throw e;
      }
      readBusyEvents(link, dav, isWhole);
    }
  }

  private void readBusyEvents(Sources.Link link, CalDav dav, boolean isWhole) throws SourceTrouble {
    CalDav.Changes changes = SourceFeed.changes(dav, isWhole ? null : link.row().marker);
    if (isWhole) {
      // each day anew: what a series takes up moves with the days
      transaction.executeWithoutResult(
          status -> {
            if (sources.turnOf(link) != null) {
              rows.forgetItems(link.id());
              rows.forgetBusy(link.id());
            }
          });
    }
    SourceFeed.Delta delta = feed.delta(link, changes.marks(), changes.isWhole());
    SourceFeed.each(
        dav,
        delta,
        some -> {
          Map<String, List<BusyReader.Stretch>> times = new LinkedHashMap<>();
          for (CalDav.Event each : some) {
            times.put(each.name(), stretches(link, String.valueOf(each.text())));
          }
          putBusy(link, times, List.copyOf(times.keySet()));
          transaction.executeWithoutResult(
              status -> {
                if (sources.turnOf(link) != null) {
                  rows.save(
                      some.stream().map(each -> SourceFeed.item(link, each, "", null)).toList());
                }
              });
        });
    List<String> gone = new ArrayList<>(delta.gone());
    gone.add(ALL);
    putBusy(link, Map.of(), gone);
    transaction.executeWithoutResult(status -> rows.forgetItems(link.id(), gone));
    feed.finish(
        link,
        row -> {
          row.marker = changes.token();
          if (changes.isWhole()) {
            row.fullAt = clock.instant();
          }
        });
  }

  private List<BusyReader.Stretch> stretches(Sources.Link link, String text) {
    Instant now = clock.instant();
    return busy.read(
        text, link.zone(), organisation.organisation(), now.minus(BACK), now.plus(AHEAD));
  }

  private void putBusy(
      Sources.Link link, Map<String, List<BusyReader.Stretch>> times, List<String> names) {
    transaction.executeWithoutResult(
        status -> {
          if (sources.turnOf(link) == null) {
            return;
          }
          rows.forgetBusy(link.id(), names);
          long left = BusyReader.MAX - rows.countBusy(link.id());
          List<BusyTimeEntity> fresh = new ArrayList<>();
          times.forEach(
              (name, stretches) -> stretches.forEach(each -> fresh.add(busy(link, name, each))));
          rows.insertBusy(fresh.stream().limit(Math.max(0, left)).toList());
        });
  }

  private static BusyTimeEntity busy(Sources.Link link, String name, BusyReader.Stretch of) {
    BusyTimeEntity row = new BusyTimeEntity();
    row.source = link.id();
    row.name = name;
    row.person = link.person();
    row.start = of.start();
    row.until = of.end();
    return row;
  }
}
