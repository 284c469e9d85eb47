package app.uprightwarden.server.sources;

import app.uprightwarden.server.problem.Texts;
import java.io.IOException;
import java.io.InputStream;
import java.net.ConnectException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpHeaders;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.net.http.HttpTimeoutException;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.Base64;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicBoolean;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;

/** Asks calendar servers, and follows where they send to as far as that is safe. */
@Component
class SourceHttp {
  private static final Logger LOG = LoggerFactory.getLogger(SourceHttp.class);
  private static final Duration CONNECT = Duration.ofSeconds(5);
  private static final Duration ANSWER = Duration.ofSeconds(40);
  private static final Duration WHOLE = Duration.ofSeconds(90);
  private static final int MAX_REDIRECTS = 5;
  private static final int MAX_TRIES = 4;
  private static final Set<Integer> REDIRECTS = Set.of(301, 302, 303, 307, 308);

  /** So much is read of an answer. */
  static final int MAX_BYTES = 16 * 1024 * 1024;

  private final SourceAddresses addresses;
  private final HttpClient http =
      HttpClient.newBuilder()
          .version(HttpClient.Version.HTTP_1_1)
          .connectTimeout(CONNECT)
          .followRedirects(HttpClient.Redirect.NEVER)
          .build();

  SourceHttp(SourceAddresses addresses) {
    this.addresses = addresses;
  }

  /** By whom a server lets us read: Basic, RFC 7617. */
  record Account(String name, String password) {
    String header() {
      byte[] pair = (name + ":" + password).getBytes(StandardCharsets.UTF_8);
      return "Basic " + Base64.getEncoder().encodeToString(pair);
    }

    @Override
    public String toString() {
      return "Account[" + name + "]";
    }
  }

  /**
   * An answer.
   *
   * @param at where it came from in the end
   */
  record Answer(int status, HttpHeaders headers, String body, URI at) {
    @Nullable String header(String name, int most) {
      return headers.firstValue(name).filter(value -> value.length() <= most).orElse(null);
    }
  }

  /**
   * Asks.
   *
   * @throws SourceTrouble where there is no answer, or one that says that nobody may read it
   */
  Answer send(
      String method,
      URI address,
      @Nullable Account account,
      Map<String, String> headers,
      @Nullable String body)
      throws SourceTrouble {
    URI at = address;
    for (int i = 0; i <= MAX_REDIRECTS; i++) {
      addresses.check(at);
      boolean isSame = isSameOrigin(address, at);
      Answer answer = once(method, at, isSame ? account : null, headers, body);
      String to = answer.headers().firstValue("Location").orElse(null);
      if (!REDIRECTS.contains(answer.status()) || to == null) {
        return checked(answer);
      }
      try {
        at = at.resolve(to);
      } catch (IllegalArgumentException e) {
        throw new SourceTrouble(SourceTrouble.Kind.AWAY, "sends to what is no address");
      }
    }
    throw new SourceTrouble(SourceTrouble.Kind.AWAY, "sends from one address to the next");
  }

  private static boolean isSameOrigin(URI one, URI other) {
    return String.valueOf(one.getScheme()).equalsIgnoreCase(other.getScheme())
        && String.valueOf(one.getHost()).equalsIgnoreCase(other.getHost())
        && one.getPort() == other.getPort();
  }

  private static Answer checked(Answer answer) throws SourceTrouble {
    if (answer.status() == 401 || answer.status() == 403 && !answer.body().contains("valid-")) {
      throw new SourceTrouble(
          SourceTrouble.Kind.REFUSED, "does not let us read it (" + answer.status() + ")");
    }
    if (answer.status() == 404 || answer.status() == 410) {
      throw new SourceTrouble(
          SourceTrouble.Kind.AWAY, "is not at this address (" + answer.status() + ")");
    }
    if (answer.status() >= 500) {
      throw new SourceTrouble(
          answer.status() == 501 ? SourceTrouble.Kind.UNABLE : SourceTrouble.Kind.AWAY,
          "is in trouble itself (" + answer.status() + ")");
    }
    return answer;
  }

  private Answer once(
      String method,
      URI at,
      @Nullable Account account,
      Map<String, String> headers,
      @Nullable String body)
      throws SourceTrouble {
    HttpRequest.Builder request =
        HttpRequest.newBuilder(at)
            .timeout(ANSWER)
            .header("User-Agent", "Upright-Warden")
            .method(
                method,
                body == null
                    ? HttpRequest.BodyPublishers.noBody()
                    : HttpRequest.BodyPublishers.ofString(body));
    headers.forEach(request::header);
    if (account != null) {
      request.header("Authorization", account.header());
    }
    try {
      HttpResponse<InputStream> response = sent(request.build());
      AtomicBoolean isLate = new AtomicBoolean();
      try (InputStream in = response.body()) {
        CompletableFuture.delayedExecutor(WHOLE.toSeconds(), TimeUnit.SECONDS)
            .execute(() -> end(in, isLate));
        byte[] bytes = in.readNBytes(MAX_BYTES + 1);
        if (isLate.get()) {
          throw new SourceTrouble(SourceTrouble.Kind.AWAY, "takes too long to answer");
        }
        if (bytes.length > MAX_BYTES) {
          throw new SourceTrouble(
              SourceTrouble.Kind.AWAY,
              "answers more than " + MAX_BYTES / 1024 / 1024 + " MB, which is the limit");
        }
        String text = new String(bytes, StandardCharsets.UTF_8);
        return new Answer(response.statusCode(), response.headers(), text, at);
      }
    } catch (IOException e) {
      LOG.debug("{} {}", method, at, e);
      String why = e.getMessage() == null ? "" : ": " + Texts.cut(e.getMessage(), 120);
      throw new SourceTrouble(SourceTrouble.Kind.AWAY, "does not answer" + why);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new SourceTrouble(SourceTrouble.Kind.AWAY, "was not waited for");
    }
  }

  /**
   * Some servers close a connection after each answer without saying so, and the client hears of it
   * only when it asks again. What is asked changes nothing, so that it may be asked anew.
   */
  private HttpResponse<InputStream> sent(HttpRequest request)
      throws IOException, InterruptedException {
    for (int i = 1; i < MAX_TRIES; i++) {
      try {
        return http.send(request, HttpResponse.BodyHandlers.ofInputStream());
      } catch (ConnectException | HttpTimeoutException e) {
        throw e;
      } catch (IOException e) {
        LOG.debug("asked again: {}", request.uri(), e);
      }
    }
    return http.send(request, HttpResponse.BodyHandlers.ofInputStream());
  }

  /** A server that answers a byte at a time must not hold a thread for ever. */
  private static void end(InputStream in, AtomicBoolean isLate) {
    isLate.set(true);
    try {
      in.close();
    } catch (IOException e) {
      LOG.debug("an answer that took too long could not be closed", e);
    }
  }
}
