package app.uprightwarden.server.alerting;

import app.uprightwarden.core.session.Wire;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.jobs.RecurringJob;
import app.uprightwarden.server.ledger.Ledger;
import app.uprightwarden.server.ledger.LedgerStream;
import app.uprightwarden.server.persistence.DatabaseClock;
import app.uprightwarden.server.problem.Fault;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.problem.Texts;
import app.uprightwarden.server.problem.Worded;
import app.uprightwarden.server.services.ServiceAddresses;
import app.uprightwarden.server.services.ServiceTrouble;
import app.uprightwarden.server.vault.Vault;
import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.security.SecureRandom;
import java.time.Duration;
import java.time.Instant;
import java.util.Base64;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.json.JsonMapper;

/**
 * Sends the ledger to a log collector, entry after entry in the chain's order, as batches of
 * CloudEvents that it has to take before the next go. While it is away nothing is lost: it goes on
 * behind the last entry that was taken. A batch whose answer was lost comes again, with the same
 * ids.
 */
@Service
class LogCollector {
  static final String OWNER = "log-collector";

  /** Of batches (HTTP protocol binding of CloudEvents 1.0.2, section 3.3). */
  private static final String MEDIA_TYPE = "application/cloudevents-batch+json; charset=UTF-8";

  private static final String ENTRY = "app.uprightwarden.ledger.entry";
  private static final String SOURCE = "/upright-warden/ledger";
  private static final int AT_ONCE = 200;
  private static final int MAX_BATCHES = 20;
  private static final int MAX_BYTES = 2 * 1024 * 1024;
  private static final int SECRET_BYTES = 32;
  private static final Duration ANSWER = Duration.ofSeconds(20);
  private static final Duration FIRST_PAUSE = Duration.ofSeconds(1);
  private static final Duration LONGEST_PAUSE = Duration.ofMinutes(5);

  private final LogCollectorRepository rows;
  private final LedgerStream stream;
  private final Ledger ledger;
  private final ServiceAddresses addresses;
  private final Vault vault;
  private final DatabaseClock clock;
  private final JsonMapper json;
  private final Duration longestPause;
  private final SecureRandom random = new SecureRandom();
  private final HttpClient http =
      HttpClient.newBuilder()
          .version(HttpClient.Version.HTTP_1_1)
          .connectTimeout(Duration.ofSeconds(5))
          .followRedirects(HttpClient.Redirect.NEVER)
          .build();

  LogCollector(
      LogCollectorRepository rows,
      LedgerStream stream,
      Ledger ledger,
      ServiceAddresses addresses,
      Vault vault,
      DatabaseClock clock,
      JsonMapper json,
      @Value("${warden.collector.pause:5m}") Duration longestPause) {
    this.rows = rows;
    this.stream = stream;
    this.ledger = ledger;
    this.addresses = addresses;
    this.vault = vault;
    this.clock = clock;
    this.json = json;
    this.longestPause = longestPause.compareTo(LONGEST_PAUSE) < 0 ? longestPause : LONGEST_PAUSE;
  }

  /**
   * Who takes the ledger.
   *
   * @param secret what batches are signed by; said once, when the address is set
   * @param behind how many entries it has not taken
   * @param why why it took nothing the last time it was tried; null where it did
   */
  record Collector(
      @Nullable String address,
      @Nullable String secret,
      long behind,
      @Nullable Instant sentAt,
      int tries,
      @Nullable Instant nextAt,
      @Worded @Nullable String why) {}

  @Transactional(readOnly = true)
  public Collector view() {
    return view(rows.find(LogCollectorEntity.ONE).orElseGet(LogCollectorEntity::new), null);
  }

  private Collector view(LogCollectorEntity row, @Nullable String secret) {
    return new Collector(
        row.address,
        secret,
        row.address == null ? 0 : Math.max(0, stream.last() - row.sentSeq),
        row.sentAt,
        row.tries,
        row.nextAt,
        row.why);
  }

  /**
   * Sets who takes the ledger.
   *
   * @param address null for nobody
   * @param fromStart whether all that is in it goes too, and not only what comes
   * @param seen the address as it was looked at, empty for nobody; null does not ask
   * @throws ProblemException 409 where it is another by now
   */
  @Transactional
  public Collector set(
      @Nullable String address, boolean fromStart, @Nullable String seen, SignedIn by) {
    String fault = address == null ? null : addresses.fault(address);
    if (fault != null) {
      throw ProblemException.invalid(
          "The collector’s address " + fault, List.of(new Fault("/address", fault)));
    }
    LogCollectorEntity there = rows.locked();
    LogCollectorEntity row = there == null ? new LogCollectorEntity() : there;
    String before = row.address;
    if (seen != null && !seen.equals(before == null ? "" : before)) {
      throw ProblemException.conflict(
          "changed-meanwhile",
          "Somebody has changed these settings since you opened them. Look at what they are now,"
              + " and change them again. Nothing was saved.");
    }
    String secret = null;
    if (!Objects.equals(before, address)) {
      row.secretCipher = null;
      if (address != null) {
        byte[] bytes = new byte[SECRET_BYTES];
        random.nextBytes(bytes);
        secret = Base64.getUrlEncoder().withoutPadding().encodeToString(bytes);
        row.secretCipher = vault.seal(OWNER, secret);
      }
      row.address = address;
      row.sentSeq = fromStart ? 0 : stream.last();
      row.sentAt = null;
    } else if (fromStart) {
      row.sentSeq = 0;
    }
    row.tries = 0;
    row.nextAt = null;
    row.why = null;
    row.changedBy = by.email();
    row.changedAt = clock.instant();
    rows.save(row);
    ledger.changed(
        "alerting",
        "collector",
        "Log collector",
        () -> Map.of("address", before == null ? "" : before),
        () -> Map.of("address", address == null ? "" : address),
        by.email());
    return view(row, secret);
  }

  /** Sends what there is, until the collector has all or takes no more. */
  void send() {
    for (int i = 0; i < MAX_BATCHES; i++) {
      LogCollectorEntity row = rows.find(LogCollectorEntity.ONE).orElse(null);
      String address = row == null ? null : row.address;
      byte[] cipher = row == null ? null : row.secretCipher;
      if (row == null || address == null || cipher == null) {
        return;
      }
      Instant next = row.nextAt;
      if (next != null && next.isAfter(clock.instant())) {
        return;
      }
      List<LedgerStream.Passed> entries = stream.after(row.sentSeq, AT_ONCE);
      if (entries.isEmpty()) {
        return;
      }
      entries = fitting(entries);
      String trouble = post(address, vault.open(OWNER, cipher), body(entries));
      if (trouble != null) {
        rows.refused(address, clock.instant().plus(pause(row.tries)), Texts.oneLine(trouble, 500));
        return;
      }
      rows.taken(address, entries.get(entries.size() - 1).seq(), clock.instant());
    }
  }

  private Duration pause(int tries) {
    Duration pause = FIRST_PAUSE.multipliedBy(1L << Math.min(tries, 12));
    return pause.compareTo(longestPause) > 0 ? longestPause : pause;
  }

  /** As many as one request holds; the first goes in any case. */
  private List<LedgerStream.Passed> fitting(List<LedgerStream.Passed> entries) {
    long bytes = 0;
    for (int i = 0; i < entries.size(); i++) {
      bytes += entries.get(i).details().toString().length() + 500L;
      if (i > 0 && bytes > MAX_BYTES) {
        return entries.subList(0, i);
      }
    }
    return entries;
  }

  private byte[] body(List<LedgerStream.Passed> entries) {
    return json.writeValueAsBytes(
        entries.stream()
            .map(
                entry ->
                    CloudEvent.of(
                        SOURCE,
                        "ledger-" + entry.seq(),
                        ENTRY,
                        entry.object() + ":" + entry.objectId(),
                        entry.at(),
                        entry))
            .toList());
  }

  private @Nullable String post(String address, String secret, byte[] body) {
    URI to = URI.create(address);
    try {
      addresses.check(to);
      HttpRequest request =
          HttpRequest.newBuilder(to)
              .timeout(ANSWER)
              .header("Content-Type", MEDIA_TYPE)
              .header(Wire.SIGNATURE, Wire.sign(secret, clock.instant(), body))
              .POST(HttpRequest.BodyPublishers.ofByteArray(body))
              .build();
      int status = http.send(request, HttpResponse.BodyHandlers.discarding()).statusCode();
      return status >= 200 && status < 300 ? null : "answered " + status;
    } catch (ServiceTrouble e) {
      return e.words();
    } catch (IOException e) {
      return "does not answer";
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      return "was not waited for";
    }
  }

  /** Done again and again by one of the servers. */
  @Configuration(proxyBeanMethods = false)
  static class Recurring {
    @Bean
    RecurringJob sendingTheLedger(
        LogCollector collector, @Value("${warden.collector.look:2s}") Duration look) {
      return new RecurringJob(
          "log-collector", "Sending the ledger to the log collector", look, collector::send);
    }
  }
}
