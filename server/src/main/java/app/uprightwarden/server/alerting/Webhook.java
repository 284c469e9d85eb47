package app.uprightwarden.server.alerting;

import app.uprightwarden.core.session.Wire;
import app.uprightwarden.server.jobs.JobKind;
import app.uprightwarden.server.persistence.DatabaseClock;
import app.uprightwarden.server.problem.Texts;
import app.uprightwarden.server.services.ServiceAddresses;
import app.uprightwarden.server.services.ServiceTrouble;
import app.uprightwarden.server.vault.Vault;
import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/** Sends events to the webhook, each until it was taken; a receiver knows it by its id. */
@Component
class Webhook {
  static final String JOB = "alert-webhook";
  static final String OWNER = "alert-webhook";
  static final JobKind.Retries RETRIES =
      new JobKind.Retries(12, Duration.ofSeconds(2), Duration.ofMinutes(10));

  private static final Duration ANSWER = Duration.ofSeconds(10);

  private final AlertingRepository rows;
  private final ServiceAddresses addresses;
  private final Vault vault;
  private final TransactionTemplate transaction;
  private final DatabaseClock clock;
  private final HttpClient http =
      HttpClient.newBuilder()
          .version(HttpClient.Version.HTTP_1_1)
          .connectTimeout(Duration.ofSeconds(5))
          .followRedirects(HttpClient.Redirect.NEVER)
          .build();

  Webhook(
      AlertingRepository rows,
      ServiceAddresses addresses,
      Vault vault,
      TransactionTemplate transaction,
      DatabaseClock clock) {
    this.rows = rows;
    this.addresses = addresses;
    this.vault = vault;
    this.transaction = transaction;
    this.clock = clock;
  }

  /** What is sent, and where to. */
  private record Sending(URI to, String secret, byte[] body) {}

  void send(String item) {
    long id = Long.parseLong(item);
    Optional<Sending> sending = transaction.execute(status -> sending(id));
    if (sending == null || sending.isEmpty()) {
      return;
    }
    String trouble = post(sending.get());
    transaction.executeWithoutResult(status -> ended(id, trouble));
    if (trouble != null) {
      throw new IllegalStateException("the webhook " + trouble);
    }
  }

  private Optional<Sending> sending(long id) {
    AlertDeliveryEntity row = rows.delivery(id).orElse(null);
    AlertSettingEntity setting = rows.setting(AlertSettingEntity.ONE).orElse(null);
    if (row == null || row.state.equals("sent") || setting == null) {
      return Optional.empty();
    }
    String webhook = setting.webhook;
    byte[] cipher = setting.secretCipher;
    if (webhook == null || cipher == null) {
      row.state = "failed";
      row.why = "there is no webhook any more";
      rows.update(row);
      return Optional.empty();
    }
    return Optional.of(
        new Sending(
            URI.create(webhook),
            vault.open(OWNER, cipher),
            row.body.getBytes(StandardCharsets.UTF_8)));
  }

  private void ended(long id, @Nullable String trouble) {
    rows.delivery(id)
        .ifPresent(
            row -> {
              row.tries++;
              row.why = trouble == null ? null : Texts.oneLine(trouble, 500);
              if (trouble == null) {
                row.state = "sent";
                row.sentAt = clock.instant();
                row.body = ""; // who was in a session is not kept here for longer than needed
              }
              rows.update(row);
            });
  }

  /** Told of one that is tried no more. */
  void failed(String item, String why) {
    transaction.executeWithoutResult(
        status ->
            rows.delivery(Long.parseLong(item))
                .ifPresent(
                    row -> {
                      row.state = "failed";
                      rows.update(row);
                    }));
  }

  /** Told of one that somebody has tried again. */
  void again(String item) {
    rows.delivery(Long.parseLong(item))
        .ifPresent(
            row -> {
              row.state = "waiting";
              rows.update(row);
            });
  }

  /** What was wrong, in words that go on from "the webhook"; null where it was taken. */
  private @Nullable String post(Sending sending) {
    try {
      addresses.check(sending.to());
      HttpRequest request =
          HttpRequest.newBuilder(sending.to())
              .timeout(ANSWER)
              .header("Content-Type", CloudEvent.MEDIA_TYPE)
              .header(Wire.SIGNATURE, Wire.sign(sending.secret(), clock.instant(), sending.body()))
              .POST(HttpRequest.BodyPublishers.ofByteArray(sending.body()))
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
}
