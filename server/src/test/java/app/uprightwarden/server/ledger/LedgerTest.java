package app.uprightwarden.server.ledger;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.server.ServerTest;
import app.uprightwarden.server.vault.Vault;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.net.CookieManager;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.stream.Collectors;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.beans.factory.annotation.Qualifier;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.web.servlet.mvc.method.annotation.RequestMappingHandlerMapping;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;

/** The ledger: complete, in the transaction, without secrets, and broken wherever it is touched. */
public class LedgerTest extends ServerTest {
  private static final String PASSCODE = "Grebe-harbour-wall-77";

  @Autowired
  @Qualifier("requestMappingHandlerMapping")
  private RequestMappingHandlerMapping mappings;

  @Autowired private JdbcClient jdbc;
  @Autowired private Vault vault;

  private JsonNode entries(String filter) {
    return get(AUDITOR, "/api/ledger?" + filter).is(200).json();
  }

  private Map<String, Object> form(String title) {
    Map<String, Object> form = new LinkedHashMap<>();
    form.put("title", title);
    form.put("host", WARDEN);
    form.put("start", LocalDate.now(ZoneOffset.UTC).plusDays(50) + "T10:00");
    form.put("zone", "Europe/Dublin");
    form.put("minutes", 45);
    form.put("passcode", PASSCODE);
    return form;
  }

  private String schedule(String title) {
    Map<String, Object> body = new LinkedHashMap<>();
    body.put("version", 0);
    body.put("meeting", form(title));
    body.put("send", false);
    return post(WARDEN, "/api/meetings", body).is(200).json().get("id").stringValue();
  }

  private long version(String id) {
    return get(WARDEN, "/api/meetings/" + id).is(200).json().get("version").longValue();
  }

  @Test
  public void everyCallThatChangesSomethingIsAnAct() {
    Set<String> offered =
        mappings.getHandlerMethods().keySet().stream()
            .flatMap(
                info ->
                    info.getMethodsCondition().getMethods().stream()
                        .flatMap(
                            method ->
                                info.getPatternValues().stream()
                                    .map(pattern -> method + " " + pattern)))
            .filter(call -> call.contains(" /api/") || call.contains(" /scim/"))
            .filter(call -> !call.startsWith("GET ") || LedgerActions.of(call).isPresent())
            .collect(Collectors.toCollection(TreeSet::new));
    Set<String> known = new TreeSet<>(LedgerActions.byCall().keySet());
    known.addAll(LedgerActions.QUESTIONS);
    assertEquals(offered, known);
    assertTrue(offered.size() > 60, "the server offers more than that: " + offered.size());
  }

  @Test
  public void oneObjectsHistoryHasEachChangeBeforeAndAfterAndNoSecret() {
    String id = schedule("Kept in the ledger");
    long version = version(id);
    send(
            WARDEN,
            "PATCH",
            "/api/meetings/" + id + "/controls",
            Map.of("version", version, "controls", Map.of("reactions", "off")))
        .is(200);
    JsonNode history = entries("object=meeting&objectId=" + id).get("items");
    assertEquals(history.size(), 2, history.toString());
    JsonNode changed = history.get(0);
    assertEquals(changed.get("act").stringValue(), "meeting.controls-changed");
    assertEquals(changed.get("who").stringValue(), WARDEN);
    assertEquals(changed.get("via").stringValue(), "token");
    assertEquals(changed.get("address").stringValue(), "127.0.0.1");
    assertEquals(changed.get("title").stringValue(), "Kept in the ledger");
    assertEquals(
        changed.at("/details/changed/0/after/controls/reactions").stringValue(), "off", "after");
    assertEquals(
        changed.at("/details/changed/0/before/controls").size(), 1, "only what differs is there");
    JsonNode made = history.get(1);
    assertEquals(made.get("act").stringValue(), "meeting.scheduled");
    assertEquals(made.get("objectId").stringValue(), id, "what was made is named");
    assertEquals(made.at("/details/asked/meeting/passcode").stringValue(), Secrets.MASK);
    assertEquals(
        made.at("/details/changed/0/after/controls/passcode").stringValue("required"), "required");
    String all =
        jdbc.sql("select group_concat(details separator '') from ledger_entry where details like ?")
            .param("%" + PASSCODE + "%")
            .query(String.class)
            .optional()
            .orElse("");
    assertEquals(all, "");
  }

  @Test
  public void whatWasRefusedIsNotWritten() {
    String id = schedule("Refused once");
    int before = entries("object=meeting&objectId=" + id).get("total").intValue();
    send(
            WARDEN,
            "PATCH",
            "/api/meetings/" + id + "/controls",
            Map.of("version", 99, "controls", Map.of("reactions", "off")))
        .is(409);
    assertEquals(entries("object=meeting&objectId=" + id).get("total").intValue(), before);
  }

  @Test
  public void anActOnManyIsInTheHistoryOfEach() {
    String one = schedule("One of two");
    String two = schedule("Two of two");
    post(
            WARDEN,
            "/api/meetings/many",
            Map.of("ids", List.of(one, two), "act", "cancel", "send", false, "word", ""))
        .is(200);
    for (String id : List.of(one, two)) {
      JsonNode last = entries("object=meeting&objectId=" + id).at("/items/0");
      assertEquals(last.get("act").stringValue(), "meetings.changed");
      assertTrue(last.get("details").toString().contains(id));
    }
  }

  @Test
  public void whatNeedsNoTransactionIsWrittenToo() {
    jdbc.sql("select 1").query(Integer.class).single();
    long before = entries("act=audit").get("total").longValue();
    post(WARDEN, "/api/audits", Map.of()).is(202);
    JsonNode after = entries("act=audit");
    assertEquals(after.get("total").longValue(), before + 1, after.toString());
    assertEquals(after.at("/items/0/act").stringValue(), "audit.begun");
    assertEquals(after.at("/items/0/object").stringValue(), "audit");
  }

  @Test
  public void whoTriesToSignInAndMayNotIsWrittenWithoutThePassword() {
    JsonNode session = get(null, "/api/session").json();
    assertTrue(session.get("email").isNull());
    signInWrongly("m.sachs@saltmarsh.example", "Wrong-tide-table-1");
    JsonNode last = entries("act=session.refused").at("/items/0");
    assertEquals(last.get("who").stringValue(), "m.sachs@saltmarsh.example");
    assertFalse(last.toString().contains("Wrong-tide"), last.toString());
  }

  private void signInWrongly(String email, String password) {
    HttpRequest first =
        HttpRequest.newBuilder(URI.create("http://127.0.0.1:" + port + "/api/session")).build();
    CookieManager cookies = new CookieManager();
    HttpClient browser = HttpClient.newBuilder().cookieHandler(cookies).build();
    try {
      browser.send(first, HttpResponse.BodyHandlers.discarding());
      String csrf =
          cookies.getCookieStore().getCookies().stream()
              .filter(c -> c.getName().equals("XSRF-TOKEN"))
              .findFirst()
              .orElseThrow()
              .getValue();
      HttpRequest wrong =
          HttpRequest.newBuilder(first.uri())
              .header("Content-Type", "application/json")
              .header("X-XSRF-TOKEN", csrf)
              .POST(
                  HttpRequest.BodyPublishers.ofString(
                      json.writeValueAsString(Map.of("email", email, "password", password))))
              .build();
      assertEquals(browser.send(wrong, HttpResponse.BodyHandlers.ofString()).statusCode(), 401);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new IllegalStateException(e);
    }
  }

  @Test
  public void peopleGroupsAndSettingsHaveABeforeAndAnAfter() {
    String email = "ledger.person@saltmarsh.example";
    Map<String, Object> person = new LinkedHashMap<>();
    person.put("name", "Lena Ledger");
    person.put("standing", "member");
    person.put("active", true);
    send(WARDEN, "PUT", "/api/people/" + email, person).is(200);
    person.put("active", false);
    send(WARDEN, "PUT", "/api/people/" + email, person).is(200);
    JsonNode changed = entries("object=person&objectId=" + email).at("/items/0/details/changed/0");
    assertTrue(changed.at("/before/active").booleanValue(), changed.toString());
    assertFalse(changed.at("/after/active").booleanValue(), changed.toString());

    Map<String, Object> list = Map.of("name", "Ledger list", "members", List.of(email, AUDITOR));
    send(WARDEN, "PUT", "/api/people/groups/lists/ledger-list", list).is(200);
    send(WARDEN, "DELETE", "/api/people/groups/lists/ledger-list", null).is(204);
    JsonNode gone = entries("object=group&objectId=ledger-list").at("/items/0/details/changed/0");
    assertEquals(gone.at("/before/members").size(), 2, gone.toString());
    assertTrue(gone.path("after").isMissingNode(), gone.toString());

    JsonNode asking = get(WARDEN, "/api/host-requests/settings").is(200).json();
    int days = asking.get("remindDays").intValue();
    for (int to : new int[] {days + 1, days}) {
      send(
              WARDEN,
              "PUT",
              "/api/host-requests/settings",
              // the other stays: somebody else may have set it since
              Map.of("remindDays", to))
          .is(200);
    }
    assertEquals(
        get(WARDEN, "/api/host-requests/settings").json().get("applyAfterDays"),
        asking.get("applyAfterDays"));
    JsonNode set = entries("act=asking.set").at("/items/0/details/changed/0");
    assertEquals(set.at("/before/remindDays").intValue(), days + 1, set.toString());
    assertEquals(set.at("/after/remindDays").intValue(), days, set.toString());
    assertWhole();
  }

  @Test
  public void theChainHoldsWhenManyWriteAtOnce() throws Exception {
    List<String> ids = new ArrayList<>();
    for (int i = 0; i < 4; i++) {
      ids.add(schedule("At once " + i));
    }
    ExecutorService many = Executors.newFixedThreadPool(4);
    try {
      List<Callable<Void>> work = new ArrayList<>();
      for (String id : ids) {
        work.add(
            () -> {
              for (int round = 0; round < 6; round++) {
                send(
                        WARDEN,
                        "PATCH",
                        "/api/meetings/" + id + "/controls",
                        Map.of(
                            "version",
                            version(id),
                            "controls",
                            Map.of("polls", round % 2 == 0 ? "on" : "off")))
                    .is(200);
              }
              return null;
            });
      }
      for (Future<Void> done : many.invokeAll(work)) {
        done.get();
      }
    } finally {
      many.shutdownNow();
    }
    for (String id : ids) {
      assertEquals(entries("object=meeting&objectId=" + id).get("total").intValue(), 7);
    }
    assertWhole();
  }

  private void assertWhole() {
    JsonNode verified = post(AUDITOR, "/api/ledger/verification", Map.of()).is(200).json();
    assertTrue(verified.get("whole").booleanValue(), verified.toString());
  }

  private JsonNode broken() {
    JsonNode verified = post(AUDITOR, "/api/ledger/verification", Map.of()).is(200).json();
    assertFalse(verified.get("whole").booleanValue(), verified.toString());
    return verified;
  }

  @Test
  public void everythingDoneToItIsFoundAndWhere() {
    schedule("First of the touched");
    schedule("Second of the touched");
    schedule("Third of the touched");
    assertWhole();
    long seq = jdbc.sql("select seq - 1 from ledger_head").query(Long.class).single();
    String title =
        jdbc.sql("select title from ledger_entry where seq = ?")
            .param(seq)
            .query(String.class)
            .single();

    jdbc.sql("update ledger_entry set title = 'x' where seq = ?").param(seq).update();
    assertEquals(broken().get("brokenAt").longValue(), seq);
    assertEquals(broken().get("how").stringValue(), "altered");
    jdbc.sql("update ledger_entry set title = ? where seq = ?").params(title, seq).update();
    assertWhole();

    // taken out of the middle, and off the end
    jdbc.sql("update ledger_entry set seq = seq + 1000000 where seq = ?").param(seq).update();
    assertEquals(broken().get("brokenAt").longValue(), seq);
    assertEquals(broken().get("how").stringValue(), "missing");
    jdbc.sql("update ledger_entry set seq = seq - 1000000 where seq > 1000000").update();
    assertWhole();
    jdbc.sql("update ledger_entry set seq = seq + 1000000 where seq > ?").param(seq).update();
    assertEquals(broken().get("how").stringValue(), "cut-off");
    jdbc.sql("update ledger_entry set seq = seq - 1000000 where seq > 1000000").update();
    assertWhole();
  }

  @Test
  public void aLineOfTheExportCarriesWhatItsHashIsMadeOf() {
    String id = schedule("Exported");
    String lines =
        get(AUDITOR, "/api/ledger/file?as=jsonl&object=meeting&objectId=" + id).is(200).body();
    JsonNode line = json.readTree(lines.strip().lines().findFirst().orElseThrow());
    JsonNode shown = entries("object=meeting&objectId=" + id).at("/items/0");
    for (String field : List.of("previous", "hash", "who", "act", "object", "title")) {
      assertEquals(line.get(field).stringValue(), shown.get(field).stringValue(), field);
    }
    assertEquals(json.readTree(line.get("details").stringValue()), shown.get("details"));
    assertEquals(line.get("key").stringValue(), String.valueOf(vault.current()));
    String csv = get(AUDITOR, "/api/ledger/file?as=csv&text=Exported").is(200).body();
    assertTrue(csv.startsWith("seq,at,who,"), csv);
    assertTrue(csv.contains("Exported"), csv);
  }

  @Test
  public void secretsAreMaskedAndControlsAreNot() {
    JsonNode node =
        Secrets.masked(
            json.readTree(
                """
                {"passcode": "open sesame", "controls": {"passcode": "required", "passcode-in-link":
                 "separate"}, "list": [{"password": "x", "clientSecret": "y", "token": "z"}],
                 "passcodeLength": 12, "title": "the passcode is in the mail"}
                """));
    assertEquals(
        node.toString(),
        "{\"passcode\":\"•\",\"controls\":{\"passcode\":\"required\",\"passcode-in-link\":"
            + "\"separate\"},\"list\":[{\"password\":\"•\",\"clientSecret\":\"•\",\"token\":\"•\"}],"
            + "\"passcodeLength\":12,\"title\":\"the passcode is in the mail\"}");
  }

  @Test
  public void signingInIsWrittenUnderWhoSignedIn() {
    long before = entries("act=session.opened&who=" + HOST).get("total").longValue();
    post(AUDITOR, "/api/session", Map.of("email", HOST, "password", "low-water-0642")).is(200);
    JsonNode entries = entries("act=session.opened&who=" + HOST);
    assertEquals(entries.get("total").longValue(), before + 1);
    assertEquals(entries.at("/items/0/details/asked/password").stringValue(), Secrets.MASK);
  }
}
