package app.uprightwarden.server.bridge;

import app.uprightwarden.core.session.Order;
import app.uprightwarden.core.session.SessionEvent;
import app.uprightwarden.core.session.SessionPlan;
import app.uprightwarden.core.session.Wire;
import java.io.IOException;
import java.net.URI;
import java.net.URLEncoder;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.json.JsonMapper;

/** Speaks to a conference service by HTTP and JSON. */
@Service
class HttpConferenceBridge implements ConferenceBridge {
  private static final Duration CONNECT = Duration.ofSeconds(2);
  private static final Duration ANSWER = Duration.ofSeconds(5);

  private final BridgeAccess access;
  private final JsonMapper json;
  private final HttpClient http =
      HttpClient.newBuilder().version(HttpClient.Version.HTTP_1_1).connectTimeout(CONNECT).build();

  HttpConferenceBridge(BridgeAccess access, JsonMapper json) {
    this.access = access;
    this.json = json;
  }

  @Override
  public Wire.Answered change(Command command) throws Away {
    return read(
        send("POST", "/v1/meetings/" + part(command.meeting()) + "/changes", command),
        Wire.Answered.class);
  }

  @Override
  public void open(SessionPlan plan) throws Away {
    send("PUT", "/v1/sessions/" + part(plan.id()), plan);
  }

  @Override
  public Wire.Answered order(String session, String id, Order order, String by) throws Away {
    HttpResponse<byte[]> answer =
        send("POST", "/v1/sessions/" + part(session) + "/orders", Wire.OrderSent.of(id, by, order));
    return answer.statusCode() == 404
        ? new Wire.Answered(false, "the conference service knows no such session any more")
        : read(answer, Wire.Answered.class);
  }

  @Override
  public @Nullable List<SessionEvent> eventsAfter(String session, long seq) throws Away {
    HttpResponse<byte[]> answer =
        send("GET", "/v1/sessions/" + part(session) + "/events?after=" + seq, null);
    return answer.statusCode() == 404
        ? null
        : read(answer, Wire.EventsTold.class).events().stream().map(Wire.EventTold::event).toList();
  }

  private static String part(String id) {
    return URLEncoder.encode(id, StandardCharsets.UTF_8).replace("+", "%20");
  }

  private HttpResponse<byte[]> send(String method, String path, @Nullable Object body) throws Away {
    URI base = access.base();
    if (base == null) {
      throw new Away("the conference service has not started yet");
    }
    HttpRequest request =
        HttpRequest.newBuilder(URI.create(base + path))
            .timeout(ANSWER)
            .header("Authorization", "Bearer " + access.getSecret())
            .header("Content-Type", "application/json")
            .method(
                method,
                body == null
                    ? HttpRequest.BodyPublishers.noBody()
                    : HttpRequest.BodyPublishers.ofByteArray(json.writeValueAsBytes(body)))
            .build();
    try {
      HttpResponse<byte[]> answer = http.send(request, HttpResponse.BodyHandlers.ofByteArray());
      int status = answer.statusCode();
      if (status >= 300 && status != 404) {
        throw new Away(
            status == 503
                ? "the conference service does not answer"
                : "the conference service answered " + status);
      }
      return answer;
    } catch (IOException e) {
      throw new Away("the conference service does not answer");
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new Away("interrupted");
    }
  }

  private <T> T read(HttpResponse<byte[]> answer, Class<T> type) throws Away {
    if (answer.statusCode() == 404) {
      throw new Away("the conference service answered 404");
    }
    try {
      return json.readValue(answer.body(), type);
    } catch (JacksonException | IllegalArgumentException e) {
      throw new Away("the conference service answered what cannot be read");
    }
  }
}
