package app.uprightwarden.server.register;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertNotEquals;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.server.ServerTest;
import java.nio.charset.StandardCharsets;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.beans.factory.annotation.Autowired;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;

/** Digits for telephones beside a passcode of words. */
public class PhonePasscodesTest extends ServerTest {
  private static final String GUEST = "j.sato@brownsand-survey.example";

  @Autowired private PhonePasscodeRepository rows;

  private Map<String, Object> form(String title, List<String> routes, @Nullable String passcode) {
    Map<String, Object> form = new LinkedHashMap<>();
    form.put("title", title);
    form.put("host", WARDEN);
    form.put("start", LocalDate.now(ZoneOffset.UTC).plusDays(43) + "T10:00");
    form.put("zone", "Europe/Dublin");
    form.put("minutes", 45);
    form.put(
        "controls",
        Map.of("passcode", "required", "audio-routes", routes, "passcode-in-mail", "shown"));
    form.put("invitees", List.of(Map.of("email", GUEST)));
    if (passcode != null) {
      form.put("passcode", passcode);
    }
    return form;
  }

  private static Map<String, Object> save(long version, Map<String, Object> form) {
    Map<String, Object> body = new LinkedHashMap<>();
    body.put("version", version);
    body.put("meeting", form);
    body.put("send", true);
    body.put("reason", "a test of telephones");
    return body;
  }

  private String schedule(Map<String, Object> form) {
    return post(WARDEN, "/api/meetings", save(0, form)).is(200).json().path("id").stringValue();
  }

  private void change(String id, Map<String, Object> form) {
    long version = get(WARDEN, "/api/meetings/" + id).json().path("version").longValue();
    send(WARDEN, "PUT", "/api/meetings/" + id, save(version, form)).is(200);
  }

  private JsonNode passcode(String id) {
    return get(WARDEN, "/api/meetings/" + id + "/passcode").is(200).json();
  }

  @Test
  public void callersGetDigitsThatGoWithThePasscodeAndWithTheNeed() {
    List<String> both = List.of("computer", "phone");
    String id = schedule(form("Callers", both, "kelp-Rudder-basin-43"));
    String digits = passcode(id).path("phone").stringValue("");
    assertTrue(digits.matches("[0-9]{8}"), digits);
    assertTrue(passcode(id).path("phoneMinutesToGuess").doubleValue() > 1440, "more than a day");
    String letter = get(WARDEN, "/api/outbox?about=meeting:" + id).json().at("/0/body").toString();
    assertTrue(letter.contains("Passcode by phone") && letter.contains(digits), letter);
    String sealed = new String(rows.find(id).orElseThrow().cipher, StandardCharsets.ISO_8859_1);
    assertFalse(sealed.contains(digits), "it lies sealed");

    change(id, form("Callers, renamed", both, null));
    assertEquals(passcode(id).path("phone").stringValue(), digits, "another title is no other");
    change(id, form("Callers, renamed", both, "kelp-Rudder-basin-44"));
    String anew = passcode(id).path("phone").stringValue("");
    assertNotEquals(anew, digits, "who knew the old passcode knew the digits");
    change(id, form("Callers, renamed", List.of("computer"), null));
    assertTrue(passcode(id).path("phone").isNull(), "nobody calls");
    get(AUDITOR, "/api/meetings/" + id + "/passcode").is(403);
  }

  @Test
  public void digitsNeedNoOthersAndAllowingPhonesLaterMakesSome() {
    String digits = schedule(form("Digits", List.of("computer", "phone"), "90417352"));
    assertTrue(passcode(digits).path("phone").isNull());
    String later = schedule(form("Later", List.of("computer"), "kelp-Rudder-basin-45"));
    assertTrue(passcode(later).path("phone").isNull());
    long version = get(WARDEN, "/api/meetings/" + later).json().path("version").longValue();
    Map<String, Object> phones = Map.of("audio-routes", List.of("computer", "phone"));
    send(
            WARDEN,
            "PATCH",
            "/api/meetings/" + later + "/controls",
            Map.of("version", version, "controls", phones))
        .is(200);
    assertTrue(passcode(later).path("phone").stringValue("").matches("[0-9]{8}"));
  }

  private String findings(String id) {
    return get(WARDEN, "/api/meetings/" + id).json().at("/assessment/findings").toString();
  }

  private static String bundle(String passcode, String digits) {
    return """
        {"format": "upright-warden/1", "meetings": [{"id": "phone-1", "title": "Filed",
          "host": "%s", "start": "2027-03-01T09:00", "zone": "Europe/Dublin", "minutes": 30,
          "passcode": "%s", "controls": {"passcode": "required"}%s}]}
        """
        .formatted(WARDEN, passcode, digits);
  }

  @Test
  public void aFileBringsThemTheyAreJudgedAndGoWithThePasscode() {
    String weak = ", \"phonePasscode\": \"12345678\"";
    post(WARDEN, "/api/exchange/bundle", bundle("heron-Slipway-12", weak)).is(200);
    assertEquals(passcode("phone-1").path("phone").stringValue(), "12345678");
    String findings = findings("phone-1");
    assertTrue(findings.contains("The passcode for telephones is common, a run"), findings);
    Map<String, Object> form = form("Filed, renamed", List.of("computer", "phone"), null);
    change("phone-1", form);
    assertTrue(findings("phone-1").contains("for telephones is common"), "they are still weak");
    String out = get(WARDEN, "/api/exchange/bundle?passcodes=true").is(200).body();
    assertTrue(out.contains("\"phonePasscode\":\"12345678\""), "a warden takes them along");
    String without = get(WARDEN, "/api/exchange/bundle?passcodes=false").is(200).body();
    assertFalse(without.contains("phonePasscode"), "not without saying so");
    post(WARDEN, "/api/exchange/bundle", bundle("heron-Slipway-13", "")).is(200);
    assertTrue(passcode("phone-1").path("phone").isNull(), "they were beside the old passcode");
    String letters = ", \"phonePasscode\": \"12ab\"";
    post(WARDEN, "/api/exchange/bundle", bundle("heron-Slipway-13", letters)).is(422);
  }
}
