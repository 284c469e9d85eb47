package app.uprightwarden.server.services;

import app.uprightwarden.core.session.SessionEvent;
import app.uprightwarden.core.session.SessionPlan;
import app.uprightwarden.core.session.Wire;
import java.io.IOException;
import java.io.InputStream;
import java.net.URI;
import java.net.URLEncoder;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Speaks HTTP and JSON, version 2 of the interface that the guide describes. */
@Component
class HttpServiceAdapter implements ServiceAdapter {
  private static final Duration CONNECT = Duration.ofSeconds(3);
  private static final Duration ANSWER = Duration.ofSeconds(40);

  /** Somebody waits at a session's page. */
  private static final Duration AT_ONCE = Duration.ofSeconds(5);

  private static final int MAX_BYTES = 16 * 1024 * 1024;
  private static final int MAX_TEXT = 500;
  private static final int MAX_EVENTS = 1000;
  private static final int MAX_REGISTRATIONS = 5_000;
  private static final Set<String> STATES = Set.of("asked", "approved", "declined");
  private static final long MAX_PAUSE_SECONDS = 600;

  private final JsonMapper json;
  private final ServiceAddresses addresses;
  private final HttpClient http =
      HttpClient.newBuilder()
          .version(HttpClient.Version.HTTP_1_1)
          .connectTimeout(CONNECT)
          .followRedirects(HttpClient.Redirect.NEVER)
          .build();

  HttpServiceAdapter(JsonMapper json, ServiceAddresses addresses) {
    this.json = json;
    this.addresses = addresses;
  }

  @Override
  public ConferenceService at(URI address, String key) {
    return new Http(address, key);
  }

  private final class Http implements ConferenceService {
    private final URI address;
    private final String key;

    Http(URI address, String key) {
      this.address = address;
      this.key = key;
    }

    @Override
    public About about() throws ServiceTrouble {
      JsonNode about = send("GET", "/v2/about", Map.of(), null);
      int rate = about.path("perSecond").intValue(0);
      String make = about.path("make").stringValue("");
      if (make.isBlank() || make.length() > 60 || rate < 1 || rate > 100_000) {
        throw unreadable();
      }
      return new About(
          make,
          MeansJson.read(about.path("controls")),
          rate,
          about.path("sessions").booleanValue(false),
          about.path("practice").booleanValue(false),
          about.path("hooks").booleanValue(false));
    }

    @Override
    public Defaults defaults() throws ServiceTrouble {
      JsonNode account = send("GET", "/v2/defaults", Map.of(), null);
      String by = account.path("changedBy").stringValue(null);
      if (!account.path("controls").isObject()) {
        throw unreadable();
      }
      return new Defaults(
          by == null ? null : cut(by),
          instant(account.path("changedAt").stringValue("")),
          account.path("controls"));
    }

    @Override
    public void setDefaults(
        String command, String by, Map<String, Map<String, @Nullable Object>> controls)
        throws ServiceTrouble {
      send("PATCH", "/v2/defaults", headers(command, by), Map.of("controls", controls));
    }

    @Override
    public Page changes(@Nullable String marker, int limit) throws ServiceTrouble {
      JsonNode page =
          send(
              "GET",
              "/v2/meetings?limit=" + limit + (marker == null ? "" : "&after=" + part(marker)),
              Map.of(),
              null);
      List<Told> told = new ArrayList<>();
      for (JsonNode each : page.path("meetings")) {
        told.add(told(each));
      }
      String next = page.path("marker").stringValue("");
      if (next.isEmpty() || next.length() > 200 || told.size() > limit) {
        throw unreadable();
      }
      return new Page(told, next, page.path("more").booleanValue(false));
    }

    @Override
    public @Nullable Told meeting(String id) throws ServiceTrouble {
      try {
        return told(send("GET", "/v2/meetings/" + part(id), Map.of(), null));
      } catch (ServiceTrouble e) {
        if (e.kind() == ServiceTrouble.Kind.UNKNOWN) {
          return null;
        }
        throw e;
      }
    }

    @Override
    public void change(
        String id, String revision, String command, String by, Map<String, @Nullable Object> patch)
        throws ServiceTrouble {
      Map<String, String> headers = headers(command, by);
      headers.put("If-Match", '"' + revision + '"');
      send("PATCH", "/v2/meetings/" + part(id), headers, patch);
    }

    @Override
    public String create(String command, String by, Map<String, @Nullable Object> meeting)
        throws ServiceTrouble {
      JsonNode made = send("POST", "/v2/meetings", headers(command, by), meeting);
      String id = made.path("id").stringValue("");
      if (id.isEmpty() || id.length() > 100) {
        throw unreadable();
      }
      return id;
    }

    @Override
    public void cancel(String id, String command, String by) throws ServiceTrouble {
      try {
        send("DELETE", "/v2/meetings/" + part(id), headers(command, by), null);
      } catch (ServiceTrouble e) {
        if (e.kind() != ServiceTrouble.Kind.UNKNOWN) {
          throw e;
        }
      }
    }

    @Override
    public void decide(String id, String command, String by, String address, boolean approved)
        throws ServiceTrouble {
      Map<String, @Nullable Object> body = new LinkedHashMap<>();
      body.put("address", address);
      body.put("state", approved ? "approved" : "declined");
      String path = "/v2/meetings/" + part(id) + "/registrations";
      send("PATCH", path, headers(command, by), body);
    }

    @Override
    public void tellAt(URI here) throws ServiceTrouble {
      send("PUT", "/v2/hook", Map.of(), Map.of("address", here.toString()));
    }

    @Override
    public void open(SessionPlan plan) throws ServiceTrouble {
      send("PUT", "/v2/sessions/" + part(plan.id()), Map.of(), plan, AT_ONCE);
    }

    @Override
    public Wire.Answered order(String session, Wire.OrderSent order) throws ServiceTrouble {
      String path = "/v2/sessions/" + part(session) + "/orders";
      return as(send("POST", path, Map.of(), order, AT_ONCE), Wire.Answered.class);
    }

    @Override
    public List<SessionEvent> events(String session, long after) throws ServiceTrouble {
      String path = "/v2/sessions/" + part(session) + "/events?after=" + after;
      Wire.EventsTold told = as(send("GET", path, Map.of(), null, AT_ONCE), Wire.EventsTold.class);
      if (told.events() == null || told.events().size() > MAX_EVENTS) {
        throw unreadable();
      }
      try {
        return told.events().stream().map(Wire.EventTold::event).toList();
      } catch (NullPointerException | IllegalArgumentException e) {
        throw unreadable(); // an event lacks what it is to have
      }
    }

    private <T> T as(JsonNode body, Class<T> type) throws ServiceTrouble {
      try {
        return json.treeToValue(body, type);
      } catch (JacksonException e) {
        throw unreadable();
      }
    }

    private Map<String, String> headers(String command, String by) {
      Map<String, String> headers = new LinkedHashMap<>();
      headers.put("Command-Id", command);
      headers.put("On-Behalf-Of", by);
      return headers;
    }

    private Told told(JsonNode of) throws ServiceTrouble {
      String id = of.path("id").stringValue("");
      String revision = of.path("revision").stringValue("");
      if (id.isEmpty() || id.length() > 100 || revision.isEmpty() || revision.length() > 60) {
        throw unreadable();
      }
      boolean isGone = of.path("cancelled").booleanValue(false);
      List<String> dialIn = new ArrayList<>();
      of.path("dialIn").forEach(node -> dialIn.add(cut(node.stringValue(""))));
      String link = of.path("link").stringValue(null);
      String by = of.path("changedBy").stringValue(null);
      return new Told(
          id,
          revision,
          instant(of.path("changedAt").stringValue("")),
          by == null ? null : cut(by),
          isGone ? null : of.path("meeting"),
          link == null ? null : cut(link),
          dialIn.stream().limit(50).toList(),
          of.path("registrations").isArray() ? registrations(of.path("registrations")) : null);
    }

    /** What cannot be read is left out: the rest of the meeting is true all the same. */
    private List<Registration> registrations(JsonNode list) {
      List<Registration> registrations = new ArrayList<>();
      for (JsonNode each : list) {
        String address = each.path("address").stringValue("");
        String state = each.path("state").stringValue("");
        if (address.contains("@")
            && address.length() <= 254
            && STATES.contains(state)
            && registrations.size() < MAX_REGISTRATIONS) {
          registrations.add(
              new Registration(
                  address,
                  cut(each.path("name").stringValue(address)),
                  instant(each.path("askedAt").stringValue("")),
                  state));
        }
      }
      return registrations;
    }

    private JsonNode send(
        String method, String path, Map<String, String> headers, @Nullable Object body)
        throws ServiceTrouble {
      return send(method, path, headers, body, ANSWER);
    }

    private JsonNode send(
        String method,
        String path,
        Map<String, String> headers,
        @Nullable Object body,
        Duration within)
        throws ServiceTrouble {
      addresses.check(address);
      HttpRequest.Builder request =
          HttpRequest.newBuilder(URI.create(address + path))
              .timeout(within)
              .header("Authorization", "Bearer " + key)
              .method(
                  method,
                  body == null
                      ? HttpRequest.BodyPublishers.noBody()
                      : HttpRequest.BodyPublishers.ofByteArray(json.writeValueAsBytes(body)));
      headers.forEach(request::header);
      if (body != null) {
        request.header(
            "Content-Type",
            method.equals("PATCH") ? "application/merge-patch+json" : "application/json");
      }
      try {
        HttpResponse<InputStream> answer =
            http.send(request.build(), HttpResponse.BodyHandlers.ofInputStream());
        try (InputStream in = answer.body()) {
          byte[] bytes = in.readNBytes(MAX_BYTES + 1);
          if (bytes.length > MAX_BYTES) {
            throw new ServiceTrouble(
                ServiceTrouble.Kind.AWAY, "answers with more than can be taken at once");
          }
          return read(answer, bytes);
        }
      } catch (IOException e) {
        throw new ServiceTrouble(ServiceTrouble.Kind.AWAY, "does not answer");
      } catch (InterruptedException e) {
        Thread.currentThread().interrupt();
        throw new ServiceTrouble(ServiceTrouble.Kind.AWAY, "was not waited for");
      }
    }

    private JsonNode read(HttpResponse<InputStream> answer, byte[] bytes) throws ServiceTrouble {
      int status = answer.statusCode();
      if (status == 204) {
        return json.createObjectNode();
      }
      JsonNode body;
      try {
        body = json.readTree(bytes);
      } catch (JacksonException e) {
        body = json.createObjectNode();
        if (status < 300) {
          throw unreadable();
        }
      }
      if (status < 300) {
        return body;
      }
      String said = cut(body.path("detail").stringValue(""));
      throw switch (status) {
        case 401, 403 -> new ServiceTrouble(ServiceTrouble.Kind.KEY_REFUSED, "refuses the key");
        case 404 -> new ServiceTrouble(ServiceTrouble.Kind.UNKNOWN, "has no such meeting");
        case 410 -> new ServiceTrouble(ServiceTrouble.Kind.MARKER_GONE, "has to be read anew");
        case 412 ->
            new ServiceTrouble(
                ServiceTrouble.Kind.CHANGED_MEANWHILE, "has another revision of it by now");
        case 409, 422 ->
            new ServiceTrouble(
                ServiceTrouble.Kind.REFUSED, said.isEmpty() ? "it says no more than no" : said);
        case 429 ->
            new ServiceTrouble(
                ServiceTrouble.Kind.BUSY, "asks for a pause", pause(answer, Duration.ofSeconds(1)));
        default ->
            new ServiceTrouble(
                ServiceTrouble.Kind.AWAY,
                "answers " + status,
                status == 503 ? pause(answer, null) : null);
      };
    }

    private static @Nullable Duration pause(HttpResponse<?> answer, @Nullable Duration otherwise) {
      String after = answer.headers().firstValue("Retry-After").orElse("");
      return after.matches("\\d{1,6}")
          ? Duration.ofSeconds(Math.min(Long.parseLong(after), MAX_PAUSE_SECONDS))
          : otherwise;
    }

    private static ServiceTrouble unreadable() {
      return new ServiceTrouble(ServiceTrouble.Kind.AWAY, "answers what cannot be read");
    }

    private static String cut(String text) {
      return text.length() > MAX_TEXT ? text.substring(0, MAX_TEXT) : text;
    }

    private static @Nullable Instant instant(String text) {
      try {
        return text.isEmpty() ? null : Instant.parse(text);
      } catch (DateTimeParseException e) {
        return null;
      }
    }

    private static String part(String id) {
      return URLEncoder.encode(id, StandardCharsets.UTF_8).replace("+", "%20");
    }
  }
}
