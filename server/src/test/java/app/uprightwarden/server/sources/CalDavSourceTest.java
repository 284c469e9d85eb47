package app.uprightwarden.server.sources;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.server.ServerTest;
import java.io.IOException;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.springframework.test.annotation.DirtiesContext;
import org.springframework.test.context.TestPropertySource;
import org.testng.annotations.AfterClass;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;

/** A collection of the CalDAV server that Debian ships, read as it changes (RFC 4791, RFC 6578). */
@DirtiesContext
@TestPropertySource(
    properties = {
      "test.schema=warden_caldav",
      "warden.sources.inside=127.0.0.1",
      "warden.sources.minute=300ms",
      "warden.sources.look=100ms",
      "warden.jobs.poll=100ms"
    })
public class CalDavSourceTest extends ServerTest {
  private static final DateTimeFormatter DAY = DateTimeFormatter.BASIC_ISO_DATE;
  private static final String GUEST = "j.sato@brownsand-survey.example";

  private Radicale radicale;

  @BeforeClass
  public void begin() throws IOException, InterruptedException {
    radicale = new Radicale();
  }

  @AfterClass(alwaysRun = true)
  public void end() {
    radicale.close();
  }

  private static LocalDate day() {
    return LocalDate.now(ZoneOffset.UTC).plusDays(9);
  }

  /** As a calendar program writes it: at nine on a day that comes. */
  private static String event(String uid, String title, String more) {
    return "BEGIN:VEVENT\r\nUID:"
        + uid
        + "\r\nDTSTAMP:20260101T000000Z\r\nDTSTART;TZID=Europe/Dublin:"
        + DAY.format(day())
        + "T090000\r\nDURATION:PT1H\r\nSUMMARY:"
        + title
        + "\r\nORGANIZER:mailto:"
        + HOST
        + "\r\nATTENDEE:mailto:"
        + GUEST
        + "\r\n"
        + more
        + "END:VEVENT\r\n";
  }

  private List<Long> ids() {
    return get(WARDEN, "/api/calendars")
        .is(200)
        .json()
        .valueStream()
        .map(each -> each.path("id").longValue())
        .toList();
  }

  private long add(String name, String purpose, String person) {
    Map<String, Object> wanted = new LinkedHashMap<>();
    wanted.put("name", name);
    wanted.put("kind", "caldav");
    wanted.put("purpose", purpose);
    wanted.put("address", radicale.calendar().toString());
    wanted.put("account", Radicale.ACCOUNT);
    wanted.put("secret", Radicale.SECRET);
    wanted.put("person", person);
    wanted.put("zone", "Europe/Dublin");
    wanted.put("minutes", 1);
    List<Long> before = ids();
    post(WARDEN, "/api/calendars", wanted).is(201);
    return ids().stream().filter(id -> !before.contains(id)).findFirst().orElseThrow();
  }

  private JsonNode source(long id) {
    return get(WARDEN, "/api/calendars")
        .json()
        .valueStream()
        .filter(each -> each.path("id").longValue() == id)
        .findFirst()
        .orElseThrow();
  }

  private List<JsonNode> found(String title) {
    return get(WARDEN, "/api/meetings?text=" + title)
        .is(200)
        .json()
        .path("items")
        .valueStream()
        .toList();
  }

  private String id(String title) {
    until(title + " is in the register", () -> found(title).size() == 1);
    return found(title).get(0).path("id").stringValue();
  }

  private JsonNode meeting(String id) {
    return get(WARDEN, "/api/meetings/" + id).is(200).json();
  }

  @Test
  public void whatChangesThereIsSoHereAndWhatWasDecidedHereStays() throws Exception {
    radicale.put("one", event("one@tests", "Quayzone", "LOCATION:Quay\r\n"));
    radicale.put("two", event("two@tests", "Slipzone", ""));
    long source = add("Team", "meetings", WARDEN);
    String one = id("Quayzone");
    id("Slipzone");
    until("it is said", () -> source(source).path("state").stringValue("").equals("read"));
    assertEquals(source(source).path("meetings").intValue(), 2);
    assertEquals(
        get(WARDEN, "/api/meetings/" + one + "/calendar").json().path("name").stringValue(),
        "Team");
    assertEquals(meeting(one).path("host").stringValue(), HOST);

    Map<String, Object> change =
        Map.of(
            "version",
            meeting(one).path("version").longValue(),
            "controls",
            Map.of("waiting-room", "on"));
    send(WARDEN, "PATCH", "/api/meetings/" + one + "/controls", change).is(200);
    radicale.put("one", event("one@tests", "Quayzone moved", "SEQUENCE:1\r\n"));
    until("its new title", () -> meeting(one).path("title").stringValue("").contains("moved"));
    assertEquals(
        meeting(one).path("controls").path("waiting-room").stringValue(),
        "on",
        "a calendar says nothing of it");

    radicale.put("two", event("two@tests", "Slipzone", "RRULE:FREQ=SECONDLY\r\n"));
    until("it says so", () -> source(source).path("refused").intValue() == 1);
    assertEquals(found("Slipzone").size(), 1, "what cannot be read cancels nothing");
    radicale.put("two", event("two@tests", "Slipzone", "STATUS:CANCELLED\r\n"));
    until("what is cancelled there is so here", () -> found("Slipzone").isEmpty());
    radicale.put("two", event("two@tests", "Slipzone", ""));
    id("Slipzone");
    assertEquals(source(source).path("refused").intValue(), 0);
    radicale.delete("two");
    until("what is gone there is cancelled", () -> found("Slipzone").isEmpty());
    assertEquals(found("Quayzone").size(), 1);
    String ledger = get(WARDEN, "/api/ledger?text=Quayzone").is(200).body();
    assertTrue(ledger.contains("Team"), "the ledger says which calendar it was");
    send(WARDEN, "DELETE", "/api/calendars/" + source, null).is(200);
    assertEquals(found("Quayzone").size(), 1, "what it brought stays");
    radicale.delete("one");
  }

  @Test
  public void nobodyElsesMeetingIsReachedByItsName() throws Exception {
    Map<String, Object> form = new LinkedHashMap<>();
    form.put("title", "Made here");
    form.put("host", WARDEN);
    form.put("start", day() + "T10:00");
    form.put("zone", "Europe/Dublin");
    form.put("minutes", 30);
    form.put("controls", Map.of());
    Map<String, Object> save = new LinkedHashMap<>();
    save.put("version", 0);
    save.put("meeting", form);
    save.put("send", false);
    save.put("reason", "a test");
    String ours = post(WARDEN, "/api/meetings", save).is(200).json().path("id").stringValue();
    String named = "X-WARDEN-ID:" + ours + "\r\n";
    radicale.put("mine", event(ours + "@upright-warden", "Taken over", named));
    radicale.put("other", event("other@tests", "Under a false name", named));
    radicale.put("bad", event("bad@tests", "No end", "RRULE:FREQ=SECONDLY\r\n"));
    long source = add("Elsewhere", "meetings", WARDEN);
    until("it was read", () -> source(source).path("refused").intValue() == 1);
    JsonNode remark = source(source).path("remarks").get(0);
    assertEquals(remark.path("title").stringValue(), "No end");
    assertTrue(remark.path("why").stringValue().contains("RRULE"), remark.toString());
    assertEquals(meeting(ours).path("title").stringValue(), "Made here");
    assertEquals(found("false+name").size(), 1, "a meeting of its own");
    for (String name : List.of("mine", "other", "bad")) {
      radicale.delete(name);
    }
    until("they are gone", () -> source(source).path("meetings").intValue() == 0);
    until("nothing is refused", () -> source(source).path("refused").intValue() == 0);
    assertEquals(meeting(ours).path("title").stringValue(), "Made here", "nor by its going");
    send(WARDEN, "DELETE", "/api/calendars/" + source, null).is(200);
  }

  @Test
  public void anAccountFindsItsCalendarsFromTheHostAlone() {
    Map<String, Object> where = new LinkedHashMap<>();
    where.put("address", radicale.root().toString());
    where.put("account", Radicale.ACCOUNT);
    where.put("secret", Radicale.SECRET);
    JsonNode tried = post(WARDEN, "/api/calendars/attempt", where).is(200).json();
    assertEquals(tried.path("kind").stringValue(), "caldav");
    assertEquals(tried.at("/calendars/0/name").stringValue(), "Harbour team");
    assertEquals(tried.at("/calendars/0/address").stringValue(), radicale.calendar().toString());
    where.put("address", radicale.calendar().toString());
    where.put("secret", "wrong");
    String refused = post(WARDEN, "/api/calendars/attempt", where).is(409).body();
    assertTrue(refused.contains("does not let us read it"), refused);
  }

  @Test
  public void somebodysCalendarTakesUpTheirTimeWithoutAWordOfWhatItIs() throws Exception {
    radicale.put("dentist", event("d@tests", "Dentist", ""));
    radicale.put("birthday", event("b@tests", "Birthday", "TRANSP:TRANSPARENT\r\n"));
    long source = add("Marit's own", "busy", GUEST);
    until("it was read", () -> source(source).path("meetings").intValue() == 1);
    Map<String, Object> question = new LinkedHashMap<>();
    question.put("required", List.of(GUEST));
    question.put("optional", List.of());
    question.put("rooms", List.of());
    question.put("from", day().toString());
    question.put("days", 1);
    question.put("minutes", 30);
    question.put("zone", "Europe/Dublin");
    question.put("lists", List.of());
    question.put("opens", "08:00");
    question.put("closes", "18:00");
    String answer = post(WARDEN, "/api/scheduling/availability", question).is(200).body();
    assertTrue(answer.contains("busy in their calendar"), answer);
    assertTrue(!answer.contains("Dentist"), answer);
    radicale.delete("dentist");
    until("their time is their own again", () -> source(source).path("meetings").intValue() == 0);
    radicale.delete("birthday");
    send(WARDEN, "DELETE", "/api/calendars/" + source, null).is(200);
    assertTrue(found("Dentist").isEmpty());
  }
}
