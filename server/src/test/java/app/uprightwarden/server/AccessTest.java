package app.uprightwarden.server;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertTrue;

import java.io.IOException;
import java.net.CookieManager;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Who may do what, each denial tried. */
public class AccessTest extends ServerTest {
  private static final String PASSWORD = "low-water-0642";

  @DataProvider
  public Object[][] denials() {
    // method, path, and the status for: nobody, host, auditor
    return new Object[][] {
      {"GET", "/api/organisation", 401, 200, 200},
      {"GET", "/api/catalogue", 401, 200, 200},
      {"GET", "/api/openapi.json", 401, 200, 200},
      {"GET", "/api/rulebook", 401, 200, 200},
      {"GET", "/api/rulebook/editions", 401, 200, 200},
      {"GET", "/api/rulebook/editions/1", 401, 200, 200},
      {"POST", "/api/rulebook/editions/1/withdraw", 401, 403, 403},
      {"GET", "/api/rulebook/drafts", 401, 403, 403},
      {"POST", "/api/rulebook/drafts", 401, 403, 403},
      {"GET", "/api/rulebook/drafts/1", 401, 403, 403},
      {"PATCH", "/api/rulebook/drafts/1", 401, 403, 403},
      {"DELETE", "/api/rulebook/drafts/1", 401, 403, 403},
      {"PUT", "/api/rulebook/drafts/1/presence?version=0", 401, 403, 403},
      {"POST", "/api/rulebook/drafts/1/edits", 401, 403, 403},
      {"POST", "/api/rulebook/drafts/1/bring-up", 401, 403, 403},
      {"POST", "/api/rulebook/drafts/1/publish", 401, 403, 403},
      {"POST", "/api/rulebook/drafts/1/consent", 401, 403, 403},
      {"POST", "/api/rulebook/drafts/1/decline", 401, 403, 403},
      {"POST", "/api/rulebook/drafts/1/withdraw", 401, 403, 403},
      {"GET", "/api/rulebook/drafts/consent", 401, 403, 403},
      {"PUT", "/api/rulebook/drafts/consent?needed=true", 401, 403, 403},
      {"POST", "/api/rulebook/impact", 401, 403, 200},
      {"POST", "/api/rulebook/appraisal", 401, 200, 200},
      {"POST", "/api/rulebook/guarantee-study", 401, 403, 404},
      {"GET", "/api/rulebook/comparison?from=edition:1&to=edition:2", 401, 200, 200},
      {"GET", "/api/rulebook/comparison?from=edition:1&to=draft:1", 401, 403, 200},
      {"GET", "/api/rulebook/file?of=in-force", 401, 200, 200},
      {"GET", "/api/rulebook/file?of=draft:1", 401, 403, 200},
      {"POST", "/api/rulebook/file?name=x", 401, 403, 403},
      {"GET", "/api/rulebook/print?of=in-force", 401, 200, 200},
      {"GET", "/api/rulebook/print?of=in-force&person=" + WARDEN, 401, 403, 200},
      {"GET", "/api/rulebook/print?of=in-force&person=" + HOST, 401, 200, 200},
      {"GET", "/api/outbox", 401, 403, 200},
      {"GET", "/api/directory-link", 401, 403, 200},
      {"GET", "/api/floor/set-back", 401, 403, 200},
      {"PUT", "/api/floor/set-back", 401, 403, 403},
      {"GET", "/api/log-collector", 401, 403, 200},
      {"PUT", "/api/log-collector", 401, 403, 403},
      {"GET", "/api/outbox/999999/mail", 401, 403, 404},
      {"GET", "/api/meetings/m-0001/explain?persona=link-finder&right=listen", 401, 200, 200},
      {"GET", "/api/meetings/m-0002/explain?persona=link-finder&right=listen", 401, 404, 200},
      {"GET", "/api/meetings", 401, 200, 200},
      {"GET", "/api/meetings/distribution", 401, 403, 200},
      {"GET", "/api/meetings/m-0001", 401, 200, 200},
      {"GET", "/api/meetings/m-0002", 401, 404, 200},
      {"GET", "/api/meetings/m-0001/passcode", 401, 200, 403},
      {"GET", "/api/meetings/m-0002/passcode", 401, 404, 403},
      {"PATCH", "/api/meetings/m-0002/controls", 401, 404, 403},
      {
        "GET", "/api/meetings/week?from=2027-01-01T00:00:00Z&to=2027-01-02T00:00:00Z", 401, 200, 200
      },
      {"GET", "/api/meetings/cancelled", 401, 200, 200},
      {"GET", "/api/meetings/m-0001/history", 401, 200, 200},
      {"GET", "/api/meetings/m-0002/history", 401, 404, 200},
      {"GET", "/api/meetings/m-0001/answers", 401, 200, 200},
      {"GET", "/api/meetings/m-0002/answers", 401, 404, 200},
      {"GET", "/api/meetings/m-0001/form", 401, 200, 403},
      {"GET", "/api/meetings/m-0002/form", 401, 404, 403},
      {"GET", "/api/meetings/m-0002/waiver-requests", 401, 404, 200},
      {"POST", "/api/meetings/m-0002/waiver-requests", 401, 404, 403},
      {"POST", "/api/meetings/m-0002/restore?version=1", 401, 404, 403},
      {"PUT", "/api/meetings/m-0002", 401, 404, 403},
      {"DELETE", "/api/meetings/m-0002?version=0", 401, 404, 403},
      {"POST", "/api/meetings", 401, 422, 403},
      {"POST", "/api/meetings/many", 401, 403, 403},
      {"POST", "/api/scheduling/foretaste", 401, 200, 403},
      {"POST", "/api/scheduling/letter", 401, 422, 403},
      {"POST", "/api/scheduling/availability", 401, 200, 403},
      {"GET", "/api/scheduling/passcode", 401, 200, 403},
      {"GET", "/api/scheduling/number", 401, 200, 403},
      {"GET", "/api/scheduling/announcing", 401, 403, 200},
      {"PUT", "/api/scheduling/announcing", 401, 403, 403},
      {"GET", "/api/feeds", 401, 200, 200},
      {"POST", "/api/feeds", 401, 403, 200},
      {"DELETE", "/api/feeds/999999", 401, 404, 404},
      {"GET", "/api/people", 401, 200, 200},
      {"PUT", "/api/people/x@saltmarsh.example", 401, 403, 403},
      {"GET", "/api/people/" + HOST + "/page", 401, 403, 200},
      {"POST", "/api/people/" + HOST + "/hand-over", 401, 403, 403},
      {"GET", "/api/people/groups/lists/x", 401, 404, 404},
      {"PUT", "/api/people/groups/lists/x", 401, 403, 403},
      {"PATCH", "/api/people/groups/lists/x", 401, 403, 403},
      {"PUT", "/api/people/groups/rooms/x", 401, 403, 403},
      {"DELETE", "/api/people/groups/lists/x", 401, 403, 403},
      {"PUT", "/api/people/house", 401, 403, 403},
      {"GET", "/api/exchange/imports", 401, 403, 200},
      {"POST", "/api/exchange/imports/1/take-back", 401, 403, 403},
      {"GET", "/api/exchange/progress/x", 401, 403, 403},
      {"GET", "/api/exchange/calendar?id=m-0001", 401, 403, 200},
      {"GET", "/api/exchange/table?of=lists", 401, 403, 200},
      {"GET", "/api/audits", 401, 403, 200},
      {"POST", "/api/audits", 401, 403, 403},
      {"GET", "/api/audits/1", 401, 403, 200},
      {"GET", "/api/audits/1/findings", 401, 403, 200},
      {"GET", "/api/audits/1/wall", 401, 403, 200},
      {"POST", "/api/audits/1/cancel", 401, 403, 403},
      {"POST", "/api/audits/1/resume", 401, 403, 403},
      {"PUT", "/api/audits/1/baseline", 401, 403, 403},
      {"DELETE", "/api/audits/1/baseline", 401, 403, 403},
      {"GET", "/api/audits/1/checks", 401, 403, 200},
      {"GET", "/api/audits/1/report?as=csv", 401, 403, 200},
      {"GET", "/api/report-formats", 401, 403, 200},
      {"GET", "/api/audit-history/compare?earlier=1&later=2", 401, 403, 200},
      {"GET", "/api/audit-history/compare/still?earlier=1&later=2", 401, 403, 200},
      {"GET", "/api/audit-history/trends", 401, 403, 200},
      {"GET", "/api/audit-history/schedules", 401, 403, 200},
      {"POST", "/api/audit-history/schedules", 401, 403, 403},
      {"PUT", "/api/audit-history/schedules/1", 401, 403, 403},
      {"DELETE", "/api/audit-history/schedules/999", 401, 403, 403},
      {"GET", "/api/waivers", 401, 403, 200},
      {"GET", "/api/waivers/asked", 401, 403, 200},
      {"GET", "/api/waivers/of/m-0001", 401, 200, 200},
      {"GET", "/api/waivers/of/m-0002", 401, 404, 200},
      {"POST", "/api/waivers", 401, 403, 403},
      {"POST", "/api/waivers/1/second", 401, 403, 403},
      {"POST", "/api/waivers/1/end", 401, 403, 403},
      {"GET", "/api/waivers/settings", 401, 403, 200},
      {"PUT", "/api/waivers/settings", 401, 403, 403},
      {"PUT", "/api/waivers/settings/units", 401, 403, 403},
      {"POST", "/api/remedies/sketch", 401, 404, 200},
      {"POST", "/api/remedies/preview", 401, 403, 403},
      {"POST", "/api/remedies", 401, 403, 403},
      {"GET", "/api/remedies", 401, 403, 200},
      {"GET", "/api/remedies/999999", 401, 403, 404},
      {"POST", "/api/remedies/1/undo", 401, 403, 403},
      {"POST", "/api/remedies/1/retry", 401, 403, 403},
      {"GET", "/api/bridge", 401, 403, 200},
      {"PUT", "/api/bridge", 401, 403, 403},
      {"POST", "/api/bridge/events", 401, 401, 401},
      {"POST", "/api/services/999999/told", 401, 401, 401},
      {"GET", "/api/floor/sessions", 401, 200, 200},
      // another host's meeting
      {"POST", "/api/floor/sessions", 401, 404, 403},
      {"GET", "/api/floor/sessions/s-none", 401, 404, 404},
      {"POST", "/api/floor/sessions/s-none/orders", 401, 404, 403},
      {"POST", "/api/floor/alerts/999999", 401, 404, 403},
      {"POST", "/api/floor/sessions/s-none/alerts", 401, 404, 403},
      {"GET", "/api/floor/alerts", 401, 200, 200},
      {"POST", "/api/floor/in-session", 401, 200, 200},
      {"POST", "/api/floor/meetings/m-0002/start", 401, 404, 403},
      {"POST", "/api/floor/lockdowns", 401, 403, 403},
      {"GET", "/api/floor/lockdowns", 401, 403, 200},
      {"DELETE", "/api/floor/lockdowns/999999", 401, 403, 403},
      {"GET", "/api/alerting", 401, 403, 200},
      {"PUT", "/api/alerting", 401, 403, 403},
      {"POST", "/api/alerting/test", 401, 403, 403},
      {"GET", "/api/services/notices", 401, 403, 200},
      {"GET", "/api/meetings/m-0002/join", 401, 404, 403},
      {"GET", "/api/floor/sessions/s-none/after", 401, 404, 404},
      {"GET", "/api/floor/sessions/s-none/attendance?as=csv", 401, 404, 404},
      {"POST", "/api/floor/sessions/s-none/incidents", 401, 404, 403},
      {"GET", "/api/floor/incidents/999999/text", 401, 404, 404},
      {"POST", "/api/floor/sessions/s-none/draft", 401, 403, 403},
      {"GET", "/api/meetings/m-none/registrations", 401, 404, 404},
      {"POST", "/api/meetings/m-none/registrations", 401, 404, 403},
      {"POST", "/api/floor/sessions/s-none/hold", 401, 403, 403},
      {"DELETE", "/api/floor/sessions/s-none/hold", 401, 403, 403},
      {"POST", "/api/host-requests", 401, 403, 403},
      {"GET", "/api/host-requests", 401, 403, 200},
      {"GET", "/api/host-requests/mine", 401, 200, 200},
      {"POST", "/api/host-requests/items/1/answer", 401, 404, 403},
      {"POST", "/api/host-requests/items/1/accept", 401, 403, 403},
      {"POST", "/api/host-requests/items/1/close", 401, 403, 403},
      {"POST", "/api/host-requests/waivers/1/answer", 401, 403, 403},
      {"GET", "/api/host-requests/settings", 401, 403, 200},
      {"PUT", "/api/host-requests/settings", 401, 403, 403},
      {"GET", "/api/lookout", 401, 403, 200},
      {"GET", "/api/lookout/mine", 401, 200, 200},
      {"GET", "/api/ledger", 401, 403, 200},
      {"GET", "/api/ledger/known", 401, 403, 200},
      {"POST", "/api/ledger/verification", 401, 403, 200},
      {"GET", "/api/ledger/file?as=csv", 401, 403, 200},
      // the rehearsal of another host's meeting; one's own is tried elsewhere
      {"POST", "/api/door/rehearsal", 401, 404, 200},
      {"POST", "/api/door/admission", 401, 404, 200},
      {"GET", "/api/exchange/bundle", 401, 403, 200},
      {"POST", "/api/exchange/bundle", 401, 403, 403},
      {"GET", "/api/exchange/bundle/schema", 401, 200, 200},
      {"POST", "/api/tokens", 401, 403, 403},
      {"GET", "/api/tokens", 401, 403, 200},
      {"DELETE", "/api/tokens/999999", 401, 403, 403},
      {"GET", "/api/accounts", 401, 403, 200},
      {"POST", "/api/accounts", 401, 403, 403},
      {"PUT", "/api/accounts/" + WARDEN, 401, 403, 403},
      {"POST", "/api/accounts/" + WARDEN + "/link", 401, 403, 403},
      {"DELETE", "/api/accounts/" + WARDEN + "/second-factor", 401, 403, 403},
      {"DELETE", "/api/accounts/" + WARDEN + "/sessions", 401, 403, 403},
      {"GET", "/api/accounts/settings", 401, 403, 200},
      {"PUT", "/api/accounts/settings", 401, 403, 403},
      {"GET", "/api/keeping", 401, 403, 200},
      {"PUT", "/api/keeping/audits", 401, 403, 403},
      {"GET", "/api/service", 401, 403, 200},
      {"GET", "/api/deputies", 401, 403, 200},
      {"PUT", "/api/deputies/m.okafor@saltmarsh.example", 401, 403, 403},
      {"DELETE", "/api/deputies/nobody@saltmarsh.example", 401, 403, 403},
      {"GET", "/api/calendars", 401, 403, 200},
      {"POST", "/api/calendars", 401, 403, 403},
      {"POST", "/api/calendars/attempt", 401, 403, 403},
      {"PUT", "/api/calendars/1", 401, 403, 403},
      {"POST", "/api/calendars/1/reading", 401, 403, 403},
      {"POST", "/api/calendars/1/gone", 401, 403, 403},
      {"DELETE", "/api/calendars/1", 401, 403, 403},
      {"GET", "/api/meetings/m-0001/calendar", 401, 200, 200},
      {"GET", "/api/services", 401, 403, 200},
      {"POST", "/api/services", 401, 403, 403},
      {"POST", "/api/services/attempt", 401, 403, 403},
      {"GET", "/api/services/proposals", 401, 403, 200},
      {"POST", "/api/services/proposals", 401, 403, 403},
      {"POST", "/api/services/proposals/1", 401, 403, 403},
      {"DELETE", "/api/services/proposals/1", 401, 403, 403},
      {"PUT", "/api/services/1", 401, 403, 403},
      {"PUT", "/api/services/1/key", 401, 403, 403},
      {"GET", "/api/services/1/defaults", 401, 403, 404},
      {"POST", "/api/services/1/defaults", 401, 403, 403},
      {"DELETE", "/api/services/1", 401, 403, 403},
      {"PUT", "/api/meetings/m-0001/service", 401, 403, 403},
      {"POST", "/api/meetings/m-0002/service/decided", 401, 404, 403},
      {"POST", "/api/meetings/m-0001/service/held", 401, 403, 403},
      {"GET", "/api/service/work", 401, 403, 200},
      {"POST", "/api/service/work/mail/1/again", 401, 403, 403},
      {"DELETE", "/api/service/work/mail/1", 401, 403, 403},
      {"GET", "/api/service/keys", 401, 403, 200},
      {"POST", "/api/service/keys", 401, 403, 403},
      {"DELETE", "/api/service/keys/old", 401, 403, 403},
      {"GET", "/api/prometheus", 401, 403, 200},
      {"GET", "/api/health", 200, 200, 200},
      {"GET", "/api/health/readiness", 200, 200, 200},
      // by session only; what a session may is tried elsewhere
      {"GET", "/api/account", 401, 403, 403},
      {"PUT", "/api/account/password", 401, 403, 403},
      {"PUT", "/api/account/language", 401, 403, 403},
      {"POST", "/api/account/second-factor", 401, 403, 403},
      {"POST", "/api/account/second-factor/end", 401, 403, 403},
      {"POST", "/api/account/recovery-codes", 401, 403, 403},
      {"DELETE", "/api/account/sessions/x", 401, 403, 403},
    };
  }

  /** A body that passes validation where there is one, so that a denial is a denial. */
  private static Map<String, Object> alertsBody(String path) {
    if (path.endsWith("/alerts")) {
      return Map.of("cause", "person/x", "state", "acknowledged");
    }
    if (path.endsWith("/in-session")) {
      return Map.of("meetings", List.of("m-0002"));
    }
    if (path.endsWith("/lockdowns")) {
      return Map.of("sessions", List.of("s-none"));
    }
    return path.equals("/api/alerting")
        ? Map.of("onCall", List.of(), "nextMinutes", 5, "leastSeverity", 3, "quietZone", "UTC")
        : null;
  }

  static Object body(String method, String path) {
    return method.equals("PATCH") && path.contains("/people/groups/")
        ? Map.of("name", "x", "add", List.of(), "remove", List.of())
        : body(path);
  }

  private static Object body(String path) {
    if (path.endsWith("/controls")) {
      return Map.of("version", 0, "controls", Map.of("reactions", "off"));
    }
    Map<String, Object> rehearsal =
        Map.of(
            "meeting",
            "m-0002",
            "moment",
            Map.of("minutesFromStart", 1, "hostIn", true, "locked", false),
            "pencil",
            Map.of(),
            "people",
            List.of());
    if (path.endsWith("/rehearsal")) {
      return rehearsal;
    }
    if (path.endsWith("/admission")) {
      return Map.of("rehearsal", rehearsal, "who", "link-finder", "goal", "in");
    }
    if (path.startsWith("/api/deputies")) {
      return Map.of(
          "unit", "pilotage", "from", "2027-03-01T00:00:00Z", "until", "2027-03-02T00:00:00Z");
    }
    if (path.startsWith("/api/calendars")) {
      return calendarsBody(path);
    }
    if (path.startsWith("/api/services") || path.endsWith("/service")) {
      return servicesBody(path);
    }
    Map<String, Object> floor = alertsBody(path);
    if (floor != null) {
      return floor;
    }
    Map<String, Object> account = accountBody(path);
    if (account != null) {
      return account;
    }
    if (path.endsWith("/settings/units")) {
      return Map.of("severity", 2);
    }
    if (path.endsWith("/announcing")) {
      return Map.of("people", 20);
    }
    if (path.endsWith("/set-back")) {
      return Map.of("rules", "sealed");
    }
    if (path.endsWith("/log-collector")) {
      return Map.of("fromStart", false);
    }
    if (path.endsWith("/registrations")) {
      return Map.of("decision", "approve");
    }
    if (path.endsWith("/tokens")) {
      return Map.of("purpose", "x", "role", "warden", "minutes", 5);
    }
    if (path.endsWith("/edits")) {
      return Map.of("edits", List.of(Map.of("layer", "organisation", "control", "chat")));
    }
    if (path.endsWith("/decline")) {
      return Map.of("words", "x");
    }
    if (path.endsWith("/publish")) {
      return Map.of("version", 0, "reason", "x", "tellHosts", false);
    }
    Map<String, Object> audit = auditBody(path);
    if (audit != null) {
      return audit;
    }
    Map<String, Object> scheduling = schedulingBody(path);
    if (scheduling != null) {
      return scheduling;
    }
    Map<String, Object> document = Map.of("layers", List.of());
    if (path.endsWith("/impact")) {
      return Map.of("document", document, "from", 0, "size", 1);
    }
    if (path.endsWith("/guarantee-study")) {
      return Map.of("document", document, "layer", "organisation", "guarantee", "none");
    }
    if (path.endsWith("/appraisal") || path.contains("/file")) {
      return path.contains("/file") ? document : Map.of("document", document);
    }
    if (path.contains("/drafts/1")) {
      return Map.of("name", "x");
    }
    if (path.endsWith("/drafts")) {
      return Map.of("name", "x", "from", "in-force");
    }
    return Map.of();
  }

  private static Map<String, Object> calendarsBody(String path) {
    String address = "https://calendar.example.org/team.ics";
    if (path.endsWith("attempt")) {
      return Map.of("address", address);
    }
    Map<String, Object> body = new LinkedHashMap<>();
    body.put("name", "Team");
    body.put("person", WARDEN);
    body.put("zone", "Europe/Dublin");
    body.put("minutes", 60);
    body.put("paused", false);
    if (path.equals("/api/calendars")) {
      body.remove("paused");
      body.put("kind", "icalendar");
      body.put("purpose", "meetings");
      body.put("address", address);
    }
    return body;
  }

  private static Map<String, Object> servicesBody(String path) {
    if (path.endsWith("/service")) {
      return Map.of("service", 1);
    }
    if (path.endsWith("/key")) {
      return Map.of("key", "x");
    }
    if (path.endsWith("/1")) {
      return Map.of("name", "x", "level", "read", "paused", false);
    }
    return path.endsWith("/attempt")
        ? Map.of("address", "https://x.example", "key", "x")
        : Map.of("name", "x", "address", "https://x.example", "key", "x");
  }

  private static Map<String, Object> accountBody(String path) {
    if (path.endsWith("/accounts")) {
      return Map.of("email", "x@x.example", "name", "x", "role", "host");
    }
    if (path.endsWith("/accounts/settings")) {
      return Map.of("factorFor", "nobody");
    }
    if (path.contains("/accounts/")) {
      return Map.of("role", "host", "active", true);
    }
    if (path.endsWith("/account/language")) {
      return Map.of("language", "de");
    }
    if (path.endsWith("/account/password")) {
      return Map.of("current", "x", "password", "x");
    }
    // one takes a password, another a code; who asks by a token is refused before that is read
    if (path.equals("/api/account/second-factor/end")) {
      return Map.of("current", "x", "code", "x");
    }
    return path.startsWith("/api/account/") ? Map.of("current", "x") : null;
  }

  private static Map<String, Object> auditBody(String path) {
    Map<String, Object> target = Map.of("meeting", "m-0002");
    if (path.contains("/schedules")) {
      return Map.of(
          "name",
          "x",
          "days",
          List.of("MO"),
          "time",
          "06:00",
          "zone",
          "UTC",
          "windowDays",
          90,
          "recipients",
          List.of(),
          "active",
          true);
    }
    if (path.endsWith("/waivers/settings")) {
      return Map.of("byTwo", false);
    }
    if (path.endsWith("/second")) {
      return Map.of("consent", true);
    }
    if (path.endsWith("/api/waivers")) {
      return Map.of("scope", "meeting", "reason", "x", "until", "2040-01-01T00:00:00Z");
    }
    if (path.endsWith("/sketch")) {
      return Map.of("target", target);
    }
    if (path.endsWith("/remedies") || path.endsWith("/preview")) {
      return Map.of("targets", List.of(target), "evenIfAsked", false);
    }
    if (path.endsWith("/bridge")) {
      return Map.of("awaySeconds", 0, "refuses", "");
    }
    if (path.contains("/host-requests/waivers/")) {
      return Map.of("granted", false, "answer", "x");
    }
    if (path.endsWith("/answer")) {
      return Map.of("answer", "agree");
    }
    if (path.endsWith("/host-requests/settings")) {
      return Map.of("remindDays", 2, "applyAfterDays", 5);
    }
    return path.endsWith("/host-requests") ? Map.of("targets", List.of(target)) : null;
  }

  private static Map<String, Object> floorBody(String path) {
    if (path.endsWith("/floor/sessions")) {
      return Map.of("meeting", "m-0002", "script", "usual", "speed", 1, "strangers", 0);
    }
    if (path.endsWith("/orders")) {
      return Map.of("key", "x", "act", "lock", "people", List.of());
    }
    if (path.contains("/floor/alerts")) {
      return Map.of("state", "acknowledged");
    }
    if (path.endsWith("/incidents")) {
      return Map.of("title", "x", "note", "");
    }
    if (path.endsWith("/hold")) {
      return Map.of("reason", "a dispute");
    }
    return Map.of("control", "waiting-room", "value", "on");
  }

  private static Map<String, Object> schedulingBody(String path) {
    if (path.contains("/api/floor/")) {
      return floorBody(path);
    }
    if (path.endsWith("/waiver-requests")) {
      return Map.of("control", "chat", "wanted", "off", "reason", "x");
    }
    if (path.endsWith("/many")) {
      return Map.of("ids", List.of("m-0001"), "act", "cancel", "send", false);
    }
    if (path.endsWith("/foretaste") || path.endsWith("/letter")) {
      return Map.of("meeting", Map.of());
    }
    if (path.endsWith("/availability")) {
      return Map.of(
          "required",
          List.of(),
          "optional",
          List.of(),
          "lists",
          List.of(),
          "rooms",
          List.of(),
          "from",
          "2027-01-11",
          "days",
          1,
          "minutes",
          30,
          "zone",
          "UTC",
          "opens",
          "09:00",
          "closes",
          "17:00");
    }
    if (path.endsWith("/feeds")) {
      return Map.of("name", "x", "kind", "hearing");
    }
    if (path.endsWith("/hand-over")) {
      return Map.of("to", "x");
    }
    if (path.contains("/people/groups/rooms")) {
      return Map.of("name", "x", "email", "x@x.example", "seats", 1);
    }
    if (path.contains("/people/groups/lists")) {
      return Map.of("name", "x", "members", List.of());
    }
    if (path.endsWith("/house")) {
      return Map.of(
          "name",
          "x",
          "domains",
          List.of(),
          "partners",
          List.of(),
          "maxParticipants",
          1,
          "maxMinutes",
          1,
          "units",
          List.of(),
          "kinds",
          List.of());
    }
    if (path.startsWith("/api/people/")) {
      return Map.of("name", "x", "standing", "member", "active", true);
    }
    boolean saves = path.equals("/api/meetings") || path.equals("/api/meetings/m-0002");
    return saves ? Map.of("version", 0, "meeting", Map.of(), "send", false) : null;
  }

  @Test(dataProvider = "denials")
  public void everyEndpointAnswersByRole(
      String method, String path, int nobody, int host, int auditor) {
    Object body = method.equals("GET") ? null : body(method, path);
    send(null, method, path, body).is(nobody);
    send(HOST, method, path, body).is(host);
    send(AUDITOR, method, path, body).is(auditor);
  }

  @Test
  public void stateless() {
    Map<String, Object> rehearsal =
        Map.of(
            "controls",
            Map.of("waiting-room", "on", "lobby-bypass", "hosts"),
            "joiner",
            Map.of("standing", "unknown", "tie", "none", "route", "app"),
            "moment",
            Map.of("minutesFromStart", 1, "hostIn", true));
    post(null, "/api/rehearse", rehearsal).is(401);
    assertEquals(
        post(HOST, "/api/rehearse", rehearsal).is(200).json().get("outcome").stringValue(), "held");
    post(null, "/api/assess", Map.of("format", "upright-warden/1")).is(401);
  }

  @Test
  public void aHostSeesTheirOwnMeetingsOnly() {
    var items = get(HOST, "/api/meetings?size=500").is(200).json().get("items");
    assertTrue(items.size() > 0);
    items.forEach(i -> assertEquals(i.get("host").stringValue(), HOST));
  }

  @Test
  public void passcodesAreInNoListAndInNoAuditorsExport() {
    String passcode =
        get(WARDEN, "/api/meetings/m-0001/passcode").is(200).json().get("passcode").stringValue();
    assertFalse(get(WARDEN, "/api/meetings?size=500").is(200).body().contains(passcode));
    assertFalse(get(WARDEN, "/api/meetings/m-0001").is(200).body().contains(passcode));
    assertFalse(get(AUDITOR, "/api/exchange/bundle").is(200).body().contains(passcode));
    assertTrue(get(WARDEN, "/api/exchange/bundle").is(200).body().contains(passcode));
  }

  private HttpResponse<String> call(
      HttpClient client, String method, String path, String body, String... headers)
      throws IOException, InterruptedException {
    HttpRequest.Builder request =
        HttpRequest.newBuilder(URI.create("http://127.0.0.1:" + port + path))
            .header("Content-Type", "application/json")
            .method(method, HttpRequest.BodyPublishers.ofString(body));
    for (int i = 0; i < headers.length; i += 2) {
      request.header(headers[i], headers[i + 1]);
    }
    return client.send(request.build(), HttpResponse.BodyHandlers.ofString());
  }

  private String csrf(CookieManager cookies) {
    return cookies.getCookieStore().getCookies().stream()
        .filter(c -> c.getName().equals("XSRF-TOKEN"))
        .map(java.net.HttpCookie::getValue)
        .findFirst()
        .orElse("");
  }

  @Test
  public void aSessionNeedsTheTokenAgainstForgery() throws Exception {
    CookieManager cookies = new CookieManager();
    HttpClient client = HttpClient.newBuilder().cookieHandler(cookies).build();
    String signIn = json.writeValueAsString(Map.of("email", WARDEN, "password", PASSWORD));
    call(client, "GET", "/api/session", "");
    assertEquals(call(client, "POST", "/api/session", signIn).statusCode(), 403);
    String token = csrf(cookies);
    assertEquals(
        call(client, "POST", "/api/session", signIn, "X-XSRF-TOKEN", token).statusCode(), 200);
    assertEquals(call(client, "GET", "/api/audits", "").statusCode(), 200);
    assertEquals(call(client, "POST", "/api/audits", "{}").statusCode(), 403);
    call(client, "DELETE", "/api/session", "", "X-XSRF-TOKEN", csrf(cookies));
    assertEquals(call(client, "GET", "/api/audits", "").statusCode(), 401);
  }

  @Test
  public void wrongPasswordsAreSlowedDown() throws Exception {
    CookieManager cookies = new CookieManager();
    HttpClient client = HttpClient.newBuilder().cookieHandler(cookies).build();
    call(client, "GET", "/api/session", "");
    String wrong =
        json.writeValueAsString(Map.of("email", "nobody@saltmarsh.example", "password", "x"));
    List<Integer> statuses = new ArrayList<>();
    // the first wait is two seconds, which a slow machine needs for one try; it doubles with each
    while (statuses.size() < 10 && !statuses.contains(429)) {
      statuses.add(
          call(client, "POST", "/api/session", wrong, "X-XSRF-TOKEN", csrf(cookies)).statusCode());
    }
    assertTrue(statuses.size() > 5, "five are free: " + statuses);
    assertEquals(statuses.get(statuses.size() - 1), Integer.valueOf(429), statuses.toString());
  }

  @Test
  public void everyAnswerCarriesTheHeadersThatKeepStrangersOut() throws Exception {
    HttpResponse<String> page = call(HttpClient.newHttpClient(), "GET", "/rulebook", "");
    assertEquals(page.statusCode(), 200);
    String policy = page.headers().firstValue("Content-Security-Policy").orElse("");
    assertTrue(policy.contains("default-src 'none'"), policy);
    assertFalse(policy.contains("unsafe"), policy);
    assertEquals(page.headers().firstValue("X-Frame-Options").orElse(""), "DENY");
    assertEquals(page.headers().firstValue("X-Content-Type-Options").orElse(""), "nosniff");
    assertFalse(page.body().contains("<script>"), "no inline code");
  }
}
