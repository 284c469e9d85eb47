package app.uprightwarden.server;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertNotEquals;
import static org.testng.Assert.assertTrue;

import java.net.URI;
import java.net.http.HttpRequest;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;

/** What the server says is in the language that was asked for (RFC 9110, section 12.5.4). */
public class LanguagesTest extends ServerTest {
  /** Names and words that are the same in English and in German. */
  private static final Set<String> SAME = Set.of("Chat", "Code", "Partner");

  private JsonNode in(String language, String path) {
    Answer answer =
        exchange(
            HttpRequest.newBuilder(URI.create("http://127.0.0.1:" + port + path))
                .header("Authorization", "Bearer " + tokenOf(WARDEN))
                .header("Accept-Language", language)
                .build());
    return answer.is(200).json();
  }

  private static void texts(JsonNode node, List<String> found) {
    if (node.isObject()) {
      node.properties()
          .forEach(
              e -> {
                boolean isText =
                    Set.of(
                            "title",
                            "shortTitle",
                            "effect",
                            "risk",
                            "label",
                            "phrase",
                            "summary",
                            "why",
                            "mend",
                            "unit",
                            "zero")
                        .contains(e.getKey());
                if (isText && e.getValue().isString()) {
                  found.add(e.getValue().stringValue());
                } else {
                  texts(e.getValue(), found);
                }
              });
    } else if (node.isArray()) {
      node.forEach(each -> texts(each, found));
    }
  }

  @Test
  public void everyTextOfTheCatalogueIsInGermanToo() {
    List<String> english = new ArrayList<>();
    List<String> german = new ArrayList<>();
    texts(in("en", "/api/catalogue"), english);
    texts(in("de-CH, en;q=0.5", "/api/catalogue"), german);
    assertEquals(german.size(), english.size());
    assertTrue(english.size() > 400, "only " + english.size());
    List<String> left = new ArrayList<>();
    for (int i = 0; i < english.size(); i++) {
      if (english.get(i).equals(german.get(i)) && !SAME.contains(english.get(i))) {
        left.add(english.get(i));
      }
    }
    assertEquals(left, List.of());
    List<String> unknown = new ArrayList<>();
    texts(in("fr", "/api/catalogue"), unknown);
    assertEquals(unknown, english, "English where we have no other");
  }

  @Test
  public void whatWasFoundIsSaidInTheLanguageOfWhoAsks() {
    JsonNode english = in("en", "/api/audits/0/findings?size=200").get("items");
    JsonNode german = in("de", "/api/audits/0/findings?size=200").get("items");
    assertTrue(english.size() > 50, english.toString());
    for (int i = 0; i < english.size(); i++) {
      assertEquals(german.get(i).get("meeting"), english.get(i).get("meeting"));
      String said = german.get(i).at("/finding/text").stringValue();
      assertNotEquals(said, english.get(i).at("/finding/text").stringValue());
      assertFalse(said.contains("{") || said.contains(" is “"), said);
    }
  }

  @Test
  public void whatTheLedgerCallsOursIsSaidInItAndWhatPeopleCallTheirsAsItIs() {
    JsonNode entries = in("de", "/api/ledger?object=ledger&size=200").get("items");
    List<String> titles = entries.valueStream().map(e -> e.get("title").stringValue()).toList();
    assertTrue(titles.contains("von hier an hat die Kette einen Schlüssel"), titles.toString());
    JsonNode meeting = in("de", "/api/ledger?object=meeting&size=1").at("/items/0");
    assertEquals(
        meeting.get("title"), in("en", "/api/ledger?object=meeting&size=1").at("/items/0/title"));
  }

  private Answer asked(String who, String language, String method, String path, Object body) {
    HttpRequest.Builder request =
        HttpRequest.newBuilder(URI.create("http://127.0.0.1:" + port + path))
            .header("Content-Type", "application/json")
            .header("Accept-Language", language);
    if (who != null) {
      request.header("Authorization", "Bearer " + tokenOf(who));
    }
    String text = body == null ? "" : json.writeValueAsString(body);
    return exchange(request.method(method, HttpRequest.BodyPublishers.ofString(text)).build());
  }

  @DataProvider
  public static Object[][] refused() {
    return new Object[][] {
      {"de", "/detail", "Eine Besprechung m-none gibt es für Sie nicht.", 404},
      {"en", "/detail", "There is no meeting m-none for you.", 404},
      {"fr, de;q=0.2", "/detail", "There is no meeting m-none for you.", 404},
    };
  }

  @Test(dataProvider = "refused")
  public void whatGoesWrongIsSaidInIt(String language, String at, String said, int status) {
    Answer answer = asked(WARDEN, language, "GET", "/api/meetings/m-none", null).is(status);
    assertEquals(answer.json().at(at).stringValue(), said);
  }

  @Test
  public void soIsEachFaultOfAFormAndWhatNoHandlerHas() {
    Map<String, Object> form = Map.of("version", 0, "meeting", Map.of("title", "x"), "send", false);
    JsonNode german = asked(WARDEN, "de", "POST", "/api/meetings", form).is(422).json();
    JsonNode english = asked(WARDEN, "en", "POST", "/api/meetings", form).is(422).json();
    assertEquals(
        german.get("detail").stringValue(),
        "Die Besprechung hat Fehler. Nichts wurde gespeichert.");
    assertTrue(german.get("faults").size() > 0);
    for (int i = 0; i < german.get("faults").size(); i++) {
      JsonNode fault = german.get("faults").get(i);
      assertEquals(fault.get("pointer"), english.get("faults").get(i).get("pointer"));
      assertNotEquals(fault.get("message"), english.get("faults").get(i).get("message"));
    }
    Answer stranger = asked(null, "de", "GET", "/api/meetings", null).is(401);
    assertEquals(
        stranger.json().get("detail").stringValue(),
        "Melden Sie sich an oder senden Sie ein gültiges Zugriffstoken.");
  }

  @Test
  public void whatIsKeptIsKeptAsItWasSaidAndWordedWhenRead() {
    String setting = "/api/scheduling/announcing";
    Object before = get(WARDEN, setting).is(200).json();
    asked(WARDEN, "de", "PUT", setting, Map.of("people", 41)).is(200);
    send(WARDEN, "PUT", setting, before).is(200);
    String path = "/api/ledger?act=scheduling.announcing-set&size=1";
    JsonNode german = asked(WARDEN, "de", "GET", path, null).json().at("/items/0");
    JsonNode english = asked(WARDEN, "en", "GET", path, null).json().at("/items/0");
    assertEquals(german.get("seq"), english.get("seq"));
    assertEquals(english.get("title").stringValue(), "Announcing arrivals");
    assertEquals(german.get("title").stringValue(), "Ankünfte ansagen");
  }
}
