package app.uprightwarden.server.services;

import app.uprightwarden.server.problem.InOrder;
import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.time.Duration;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * Checks a conference service, or an adapter for one, against version 2 of the interface, and says
 * what holds and what does not, with the request that showed it. It makes a meeting there, changes
 * it and cancels it; nobody is invited to it.
 */
public final class AdapterCheck {
  private static final Duration PATIENCE = Duration.ofSeconds(40);
  private static final int MAX_PAGES = 2000;
  private static final String TITLE = "Adapter check, may be deleted";

  private final String address;
  private final String key;
  private final HttpClient http = HttpClient.newHttpClient();
  private final JsonMapper json = new JsonMapper();
  private final List<Result> results = new ArrayList<>();
  private boolean registers;
  private boolean hooks;
  private boolean holdsSessions;
  private long pauseMillis = 200;
  private String last = "";

  /**
   * One rule of the interface.
   *
   * @param request the last request that was sent for it, with what was answered
   */
  public record Result(String rule, boolean holds, String request, String found) {
    /** As it is printed. */
    public String line() {
      return (holds ? "  holds  " : "  FAILS  ")
          + rule
          + (holds ? "" : "\n         " + found + "\n         " + request);
    }
  }

  private AdapterCheck(String address, String key) {
    this.address = address.endsWith("/") ? address.substring(0, address.length() - 1) : address;
    this.key = key;
  }

  /** Checks what is at an address. */
  public static List<Result> check(String address, String key) throws InterruptedException {
    AdapterCheck check = new AdapterCheck(address, key);
    check.run();
    return List.copyOf(check.results);
  }

  /** Prints what holds and what does not. */
  public static int print(String address, String key) throws InterruptedException {
    List<Result> results = check(address, key);
    results.forEach(result -> System.out.println(result.line()));
    long failed = results.stream().filter(result -> !result.holds()).count();
    System.out.println(
        failed == 0
            ? "All " + results.size() + " rules hold."
            : failed + " of " + results.size() + " rules do not hold.");
    return failed == 0 ? 0 : 1;
  }

  private record Answer(int status, JsonNode body) {}

  /** Why a rule does not hold. */
  private static final class Fails extends Exception {
    private static final long serialVersionUID = 1;

    Fails(String found) {
      super(found);
    }
  }

  private interface Rule {
    void check() throws Fails, InterruptedException;
  }

  private void rule(String words, Rule rule) throws InterruptedException {
    try {
      rule.check();
      results.add(new Result(words, true, last, ""));
    } catch (Fails e) {
      results.add(new Result(words, false, last, String.valueOf(e.getMessage())));
    }
  }

  private static void must(boolean holds, String found) throws Fails {
    if (!holds) {
      throw new Fails(found);
    }
  }

  private Answer send(
      String method, String path, @Nullable Object body, Map<String, String> headers)
      throws Fails, InterruptedException {
    Thread.sleep(pauseMillis); // what is checked is whether it answers rightly, not how fast
    HttpRequest.Builder request;
    try {
      request = HttpRequest.newBuilder(URI.create(address + path)).timeout(PATIENCE);
    } catch (IllegalArgumentException e) {
      throw new Fails("the address cannot be read");
    }
    request.header("Authorization", "Bearer " + key);
    headers.forEach(request::setHeader);
    String text = body == null ? "" : json.writeValueAsString(body);
    if (body != null) {
      request.setHeader(
          "Content-Type",
          method.equals("PATCH") ? "application/merge-patch+json" : "application/json");
    }
    request.method(method, HttpRequest.BodyPublishers.ofString(text));
    Map<String, String> shown = new LinkedHashMap<>(headers);
    shown.remove("Authorization");
    last = method + " " + path + (shown.isEmpty() ? "" : " " + shown) + " " + text;
    try {
      HttpResponse<String> answer =
          http.send(request.build(), HttpResponse.BodyHandlers.ofString());
      last += " → " + answer.statusCode();
      JsonNode read;
      try {
        read = json.readTree(answer.body());
      } catch (JacksonException e) {
        must(answer.statusCode() >= 300, "the answer is not JSON");
        read = json.createObjectNode();
      }
      return new Answer(answer.statusCode(), read);
    } catch (IOException e) {
      throw new Fails("it does not answer: " + e.getMessage());
    }
  }

  private Answer get(String path) throws Fails, InterruptedException {
    return send("GET", path, null, Map.of());
  }

  private static Map<String, String> command(String id, @Nullable String revision) {
    Map<String, String> headers = new LinkedHashMap<>();
    headers.put("Command-Id", id);
    headers.put("On-Behalf-Of", "adapter-check@example.org");
    if (revision != null) {
      headers.put("If-Match", '"' + revision + '"');
    }
    return headers;
  }

  private static Answer is(Answer answer, int... expected) throws Fails {
    for (int status : expected) {
      if (answer.status() == status) {
        return answer;
      }
    }
    throw new Fails("the answer is " + answer.status());
  }

  private void run() throws InterruptedException {
    String[] marker = {""};
    rule(
        "It says what it is and what it can hold (GET /v2/about)",
        () -> {
          JsonNode about = is(get("/v2/about"), 200).body();
          int rate = about.path("perSecond").intValue(0);
          must(!about.path("make").stringValue("").isEmpty(), "make is missing");
          must(rate > 0, "perSecond is missing");
          pauseMillis = Math.max(5, 1200 / rate);
          registers = about.path("registrations").booleanValue(false);
          hooks = about.path("hooks").booleanValue(false);
          holdsSessions =
              about.path("sessions").booleanValue(false)
                  && about.path("practice").booleanValue(false);
          try {
            must(
                !MeansJson.read(about.path("controls")).controls().isEmpty(),
                "it has none of our controls");
          } catch (ServiceTrouble e) {
            throw new Fails("it " + e.words());
          }
        });
    rule(
        "Nobody is answered without the key (401)",
        () ->
            is(
                send("GET", "/v2/about", null, Map.of("Authorization", "Bearer another")),
                401,
                403));
    rule(
        "Everything is told, page by page, each meeting once (GET /v2/meetings)",
        () -> marker[0] = everything());
    rule(
        "Behind the last marker there is nothing",
        () -> {
          must(!marker[0].isEmpty(), "there was no marker to ask with");
          JsonNode page = is(get("/v2/meetings?limit=50&after=" + marker[0]), 200).body();
          must(page.path("meetings").isEmpty(), "meetings are told again");
          must(!page.path("more").booleanValue(false), "more is true");
        });
    rule(
        "A marker that it does not know is refused (410)",
        () -> is(get("/v2/meetings?limit=50&after=never-given"), 410));
    oneMeeting(marker);
  }

  private String everything() throws Fails, InterruptedException {
    String after = "";
    Set<String> seen = new HashSet<>();
    for (int pages = 0; pages < MAX_PAGES; pages++) {
      String path = "/v2/meetings?limit=250" + (after.isEmpty() ? "" : "&after=" + after);
      JsonNode page = is(get(path), 200).body();
      for (JsonNode each : page.path("meetings")) {
        String id = each.path("id").stringValue("");
        must(!id.isEmpty() && id.length() <= 100, "a meeting has no id");
        must(!each.path("revision").stringValue("").isEmpty(), id + " has no revision, as a text");
        must(
            each.path("cancelled").booleanValue(false) || each.path("meeting").isObject(),
            id + " has no meeting");
        must(seen.add(id), id + " is told twice");
      }
      String next = page.path("marker").stringValue("");
      must(!next.isEmpty() && next.length() <= 200, "marker is missing");
      if (!page.path("more").booleanValue(false)) {
        return next;
      }
      must(!next.equals(after), "more is true, and the marker stays where it is");
      after = next;
    }
    throw new Fails("it never ends");
  }

  private void oneMeeting(String[] marker) throws InterruptedException {
    String[] id = {""};
    String make = UUID.randomUUID().toString();
    Map<String, Object> meeting = new LinkedHashMap<>();
    meeting.put("title", TITLE);
    meeting.put("description", "Made by the adapter check.");
    meeting.put("host", "adapter-check@example.org");
    meeting.put("start", "2037-01-05T09:00");
    meeting.put("zone", "UTC");
    meeting.put("minutes", 30);
    meeting.put("controls", Map.of("waiting-room", "off"));
    rule(
        "A meeting is made (POST /v2/meetings)",
        () -> {
          JsonNode made =
              is(send("POST", "/v2/meetings", meeting, command(make, null)), 200, 201).body();
          id[0] = made.path("id").stringValue("");
          must(!id[0].isEmpty(), "the answer has no id");
        });
    rule(
        "Asked again with the same Command-Id, it is not made twice",
        () -> {
          Answer again = is(send("POST", "/v2/meetings", meeting, command(make, null)), 200, 201);
          must(again.body().path("id").stringValue("").equals(id[0]), "another id is answered");
        });
    rule(
        "It is held as it was asked for",
        () -> {
          JsonNode held = present(id[0]);
          must(
              held.path("meeting").path("title").stringValue("").equals(TITLE), "its title is not");
          must(value(held).equals("off"), "the waiting room is “" + value(held) + "”");
        });
    String change = UUID.randomUUID().toString();
    Map<String, Object> on = Map.of("controls", Map.of("waiting-room", "on"));
    String[] revision = {""};
    rule(
        "A change is done (PATCH) and held, with another revision",
        () -> {
          String before = present(id[0]).path("revision").stringValue("");
          is(send("PATCH", "/v2/meetings/" + id[0], on, command(change, before)), 200, 204);
          JsonNode held = present(id[0]);
          must(value(held).equals("on"), "it says done and holds “" + value(held) + "”");
          revision[0] = held.path("revision").stringValue("");
          must(!revision[0].equals(before), "the revision stays");
          must(
              held.path("meeting").path("title").stringValue("").equals(TITLE),
              "what was not in the patch is gone (RFC 7396)");
        });
    rule(
        "The same command again changes nothing",
        () -> {
          is(send("PATCH", "/v2/meetings/" + id[0], on, command(change, revision[0])), 200, 204);
          must(
              present(id[0]).path("revision").stringValue("").equals(revision[0]),
              "the revision goes up");
        });
    rule(
        "A change on an older revision is refused (412) and not done",
        () -> {
          Map<String, Object> off = Map.of("controls", Map.of("waiting-room", "off"));
          String stale = UUID.randomUUID().toString();
          is(send("PATCH", "/v2/meetings/" + id[0], off, command(stale, "no-revision")), 412);
          must(value(present(id[0])).equals("on"), "it was done nevertheless");
        });
    rule(
        "A value that nobody has is refused with a reason (409, 422)",
        () -> {
          Map<String, Object> wrong = Map.of("controls", Map.of("waiting-room", "ajar"));
          String command = UUID.randomUUID().toString();
          Answer no =
              is(
                  send("PATCH", "/v2/meetings/" + id[0], wrong, command(command, revision[0])),
                  409,
                  422);
          must(!no.body().path("detail").stringValue("").isEmpty(), "detail does not say why");
        });
    rule(
        "The change is told behind the marker",
        () -> must(isTold(marker, id[0], false), "it is not among the changes"));
    if (registers) {
      registrations(id[0]);
    }
    if (hooks) {
      rule(
          "What is no address to tell anything at is refused (PUT /v2/hook)",
          () ->
              is(
                  send("PUT", "/v2/hook", Map.of("address", "not an address"), Map.of()),
                  400,
                  409,
                  422));
    }
    if (holdsSessions) {
      sessions(id[0]);
    }
    String cancel = UUID.randomUUID().toString();
    rule(
        "A meeting is cancelled (DELETE), and is there no more (404)",
        () -> {
          is(send("DELETE", "/v2/meetings/" + id[0], null, command(cancel, null)), 200, 204);
          is(get("/v2/meetings/" + id[0]), 404);
        });
    rule(
        "The cancellation is told behind the marker",
        () -> must(isTold(marker, id[0], true), "it is not among the changes"));
  }

  private void registrations(String id) throws InterruptedException {
    rule(
        "Who asked to take part is told with the meeting (registrations)",
        () -> must(present(id).path("registrations").isArray(), "there are no registrations"));
    rule(
        "A decision about somebody who has not asked is refused with a reason (409, 422)",
        () -> {
          Map<String, Object> nobody =
              InOrder.map("address", "nobody@example.org", "state", "approved");
          String path = "/v2/meetings/" + id + "/registrations";
          String command = UUID.randomUUID().toString();
          Answer no = is(send("PATCH", path, nobody, command(command, null)), 409, 422);
          must(!no.body().path("detail").stringValue("").isEmpty(), "detail does not say why");
          must(
              !present(id).path("meeting").path("invitees").toString().contains("nobody@"),
              "they are invited all the same");
        });
  }

  /** One that is played: a real session would have people in it. */
  private void sessions(String meeting) throws InterruptedException {
    String id = "check-" + UUID.randomUUID();
    String path = "/v2/sessions/" + id;
    Map<String, Object> plan = new LinkedHashMap<>();
    plan.put("id", id);
    plan.put("meeting", meeting);
    plan.put("title", TITLE);
    plan.put("host", "adapter-check@example.org");
    plan.put("start", "2037-01-05T09:00:00Z");
    plan.put("end", "2037-01-05T09:30:00Z");
    plan.put("from", "2037-01-05T08:55:00Z");
    plan.put("controls", Map.of("waiting-room", "on"));
    plan.put("roster", List.of());
    plan.put("practice", InOrder.map("script", "usual", "speed", 1.0, "strangers", 0, "seed", 7));
    rule(
        "A session that it does not hold is not known (404)",
        () -> {
          is(get(path + "/events?after=0"), 404);
          is(send("POST", path + "/orders", act("one", "lock"), Map.of()), 404);
        });
    rule(
        "A session is opened, once (PUT /v2/sessions/<id>), and tells that it is",
        () -> {
          is(send("PUT", path, plan, Map.of()), 200, 201, 204);
          is(send("PUT", path, plan, Map.of()), 200, 201, 204);
          JsonNode events = is(get(path + "/events?after=0"), 200).body().path("events");
          long opened = events.valueStream().filter(each -> kind(each).equals("opened")).count();
          must(opened == 1, "opened is told " + opened + " times");
        });
    rule(
        "What is ordered is done, and told with its cause",
        () -> {
          JsonNode answer =
              is(send("POST", path + "/orders", act("lock-1", "lock"), Map.of()), 200).body();
          must(answer.path("done").booleanValue(false), "it is not done");
          must(locks(path, "lock-1") == 1, "locked is not told with the order's id as cause");
        });
    rule(
        "The same order again changes nothing, and has the first answer",
        () -> {
          JsonNode answer =
              is(send("POST", path + "/orders", act("lock-1", "lock"), Map.of()), 200).body();
          must(answer.path("done").booleanValue(false), "another answer is given");
          must(locks(path, "lock-1") == 1, "it is done again");
        });
    rule(
        "Events are numbered from 1 without gaps, and asked for behind any of them",
        () -> {
          JsonNode all = is(get(path + "/events?after=0"), 200).body().path("events");
          for (int i = 0; i < all.size(); i++) {
            must(all.get(i).path("seq").longValue(0) == i + 1, "event " + (i + 1) + " is missing");
          }
          JsonNode behind = is(get(path + "/events?after=1"), 200).body().path("events");
          must(
              !behind.isEmpty() && behind.get(0).path("seq").longValue(0) == 2,
              "behind the first, the second does not come first");
        });
    rule(
        "A session ends, and tells that it has",
        () -> {
          is(send("POST", path + "/orders", act("end-1", "end"), Map.of()), 200);
          JsonNode all = is(get(path + "/events?after=0"), 200).body().path("events");
          must(all.valueStream().anyMatch(each -> kind(each).equals("ended")), "ended is not told");
        });
  }

  private static String kind(JsonNode event) {
    return event.path("kind").stringValue("");
  }

  private long locks(String path, String cause) throws Fails, InterruptedException {
    return is(get(path + "/events?after=0"), 200)
        .body()
        .path("events")
        .valueStream()
        .filter(each -> kind(each).equals("locked"))
        .filter(each -> each.path("with").path("cause").stringValue("").equals(cause))
        .count();
  }

  private static Map<String, @Nullable Object> act(String id, String act) {
    Map<String, @Nullable Object> order = new LinkedHashMap<>();
    order.put("id", id);
    order.put("by", "adapter-check@example.org");
    order.put("act", act);
    order.put("people", List.of());
    order.put("control", null);
    order.put("value", null);
    return order;
  }

  private JsonNode present(String id) throws Fails, InterruptedException {
    must(!id.isEmpty(), "there is no meeting to look at");
    return is(get("/v2/meetings/" + id), 200).body();
  }

  private static String value(JsonNode held) {
    return held.path("meeting").path("controls").path("waiting-room").stringValue("");
  }

  private boolean isTold(String[] marker, String id, boolean cancelled)
      throws Fails, InterruptedException {
    boolean isTold = false;
    boolean more = true;
    for (int pages = 0; more && pages < MAX_PAGES; pages++) {
      JsonNode page = is(get("/v2/meetings?limit=250&after=" + marker[0]), 200).body();
      for (JsonNode each : page.path("meetings")) {
        isTold |=
            each.path("id").stringValue("").equals(id)
                && each.path("cancelled").booleanValue(false) == cancelled;
      }
      marker[0] = page.path("marker").stringValue("");
      more = page.path("more").booleanValue(false);
    }
    return isTold;
  }
}
