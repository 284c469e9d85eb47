package app.uprightwarden.server;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertTrue;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CompletableFuture;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;

/** Files in, row by row, and the way back out of each import as a whole. */
public class ImportsTest extends ServerTest {
  private final String day = LocalDate.now(ZoneOffset.UTC).plusDays(20).toString().replace("-", "");

  private JsonNode bring(String name, String text, boolean dryRun) {
    return sendRaw(
            WARDEN,
            "/api/exchange/files?name=" + name + "&dryRun=" + dryRun + "&zone=Europe/Dublin",
            text)
        .is(200)
        .json();
  }

  private String event(String uid, String title, String more) {
    return "BEGIN:VEVENT\r\nUID:%s\r\nDTSTAMP:20270101T000000Z\r\nDTSTART;TZID=Europe/Dublin:%sT100000\r\nDURATION:PT1H\r\nSUMMARY:%s\r\n%sEND:VEVENT\r\n"
        .formatted(uid, day, title, more);
  }

  private static String calendar(String events) {
    return "BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:-//t//EN\r\n" + events + "END:VCALENDAR\r\n";
  }

  private int meetings() {
    return get(WARDEN, "/api/meetings?size=1").json().get("total").intValue();
  }

  @Test
  public void aCalendarIsTriedTakenAndTakenBack() {
    String text =
        calendar(
            event("imp-1@x", "Import one", "X-MAKER-COLOUR:teal\r\n")
                + event("imp-2@x", "Import two", "RRULE:FREQ=NEVER\r\n")
                + event("imp-3@x", "Import three", "ORGANIZER:mailto:" + HOST + "\r\n"));
    int before = meetings();
    JsonNode tried = bring("a.ics", text, true);
    assertEquals(tried.get("format").stringValue(), "calendar");
    assertEquals(tried.get("added").intValue(), 2);
    assertEquals(tried.get("refused").intValue(), 1);
    assertEquals(meetings(), before, "a trial stores nothing");
    JsonNode taken = bring("a.ics", text, false);
    assertEquals(meetings(), before + 2);
    JsonNode again = bring("a.ics", text, false);
    assertEquals(again.get("unchanged").intValue(), 2, "the same twice changes nothing");
    long batch = taken.get("batch").longValue();
    String back = "/api/exchange/imports/" + batch + "/take-back";
    assertEquals(post(WARDEN, back, "").is(200).json().get("removed").intValue(), 2);
    assertEquals(meetings(), before);
    post(WARDEN, back, "").is(409);
  }

  @Test
  public void whatWasChangedSinceIsNotTakenBackUnasked() {
    JsonNode taken =
        bring(
            "b.ics", calendar(event("chg-1@x", "Stays", "") + event("chg-2@x", "Goes", "")), false);
    String id = null;
    for (JsonNode line : get(WARDEN, "/api/meetings?text=Stays").json().get("items")) {
      id = line.get("id").stringValue();
    }
    send(
            WARDEN,
            "PATCH",
            "/api/meetings/" + id + "/controls",
            Map.of("version", 0, "controls", Map.of("chat", "off")))
        .is(200);
    String back = "/api/exchange/imports/" + taken.get("batch").longValue() + "/take-back";
    Answer told = post(WARDEN, back, "").is(409);
    assertTrue(told.body().contains("changed-since") && told.body().contains(id), told.body());
    assertEquals(
        get(WARDEN, "/api/meetings?text=Goes").json().get("total").intValue(), 1, "nothing was");
    JsonNode done = post(WARDEN, back + "?force=true", "").is(200).json();
    assertEquals(done.get("removed").intValue(), 1);
    assertEquals(done.get("left").size(), 1);
    get(WARDEN, "/api/meetings/" + id).is(200);
  }

  @Test
  public void aTableChangesWhatItsColumnsSayAndIsTakenBack() {
    String id = "csv-1";
    JsonNode first =
        bring(
            "c.csv",
            "id,title,host,start,zone,minutes,waiting-room,passcode-text\n"
                + id
                + ",\"=Tide, talk\","
                + HOST
                + ",2027-03-01T09:00,Europe/Dublin,30,on,kelp-Rudder-basin-45\n",
            false);
    assertEquals(first.get("added").intValue(), 1, first.toString());
    JsonNode changed =
        bring(
            "c.csv",
            "id;title;host;start;zone;minutes;chat\n"
                + id
                + ";Tide talk;"
                + HOST
                + ";2027-03-01T09:00;Europe/Dublin;40;off\n"
                + "csv-2;Bad;"
                + HOST
                + ";yesterday;Europe/Dublin;40;off\n",
            false);
    assertEquals(changed.get("changed").intValue(), 1, changed.toString());
    JsonNode refused = changed.get("rows").get(1);
    assertEquals(refused.get("outcome").stringValue(), "refused");
    assertEquals(refused.get("line").intValue(), 3);
    assertTrue(refused.get("remarks").toString().contains("start"), refused.toString());
    JsonNode meeting = get(WARDEN, "/api/meetings/" + id).json();
    assertEquals(
        meeting.get("controls").get("waiting-room").stringValue(), "on", "not in the table");
    assertEquals(meeting.get("controls").get("chat").stringValue(), "off");
    assertTrue(meeting.get("hasPasscode").booleanValue(), "nor is the passcode");
    post(WARDEN, "/api/exchange/imports/" + changed.get("batch").longValue() + "/take-back", "")
        .is(200);
    JsonNode back = get(WARDEN, "/api/meetings/" + id).json();
    assertEquals(back.get("title").stringValue(), "=Tide, talk");
    assertEquals(back.get("minutes").intValue(), 30);
    assertEquals(
        get(WARDEN, "/api/meetings/" + id + "/passcode").json().get("passcode").stringValue(),
        "kelp-Rudder-basin-45");
  }

  @Test
  public void everythingGoesOutAndComesBackUnchangedInEveryFormat() {
    Map<String, Object> mixed = new LinkedHashMap<>();
    mixed.put("title", "In any order");
    mixed.put("host", WARDEN);
    mixed.put("start", "2027-03-01T09:00");
    mixed.put("zone", "Europe/Dublin");
    mixed.put("minutes", 30);
    mixed.put("controls", Map.of());
    mixed.put(
        "invitees",
        List.of(
            Map.of("email", "a@elsewhere.example", "need", "required"),
            Map.of("email", "b@elsewhere.example", "need", "optional", "task", "captioner"),
            Map.of("email", "c@elsewhere.example", "need", "required")));
    post(WARDEN, "/api/meetings", Map.of("version", 0, "meeting", mixed, "reason", "for the test"))
        .is(200);
    for (String path :
        new String[] {"calendar", "table?of=meetings", "table?of=people", "table?of=lists"}) {
      String mark = path.contains("?") ? "&" : "?";
      Answer out = get(WARDEN, "/api/exchange/" + path + mark + "passcodes=true").is(200);
      JsonNode report = bring("out", out.body(), true);
      assertEquals(report.get("added").intValue(), 0, path + report.get("rows"));
      assertEquals(report.get("changed").intValue(), 0, path + report.get("rows"));
      assertEquals(report.get("refused").intValue(), 0, path + report.get("rows"));
      assertTrue(report.get("unchanged").intValue() > 3, path);
    }
  }

  @Test
  public void auditorsGetNoPasscodes() {
    String passcode =
        get(WARDEN, "/api/meetings/m-0001/passcode").json().get("passcode").stringValue();
    for (String path : new String[] {"calendar?passcodes=true", "table?passcodes=true"}) {
      assertFalse(get(AUDITOR, "/api/exchange/" + path).is(200).body().contains(passcode));
      assertTrue(get(WARDEN, "/api/exchange/" + path).is(200).body().contains(passcode));
    }
  }

  @Test
  public void peopleComeInAndAreTakenBack() {
    String csv =
        "email,name,unit,zone\nz.one@saltmarsh.example,Zoe One,Pilotage,Europe/Paris\nno-address,X,,\n";
    JsonNode report = bring("p.csv", csv, false);
    assertEquals(report.get("format").stringValue(), "people");
    assertEquals(report.get("added").intValue(), 1);
    assertEquals(report.get("refused").intValue(), 1);
    assertTrue(get(WARDEN, "/api/people?text=zoe").body().contains("Europe/Paris"));
    post(WARDEN, "/api/exchange/imports/" + report.get("batch").longValue() + "/take-back", "")
        .is(200);
    assertEquals(get(WARDEN, "/api/people?text=zoe").json().get("total").intValue(), 0);
    String scim =
        """
        [{"schemas": ["urn:ietf:params:scim:schemas:core:2.0:User"], "id": "1",
          "userName": "sc.im@saltmarsh.example", "displayName": "Sy Cim"}]
        """;
    assertEquals(bring("u.json", scim, true).get("format").stringValue(), "scim");
    String ldif = "version: 1\ndn: cn=L D,dc=x\ncn: L D\nmail: l.dif@saltmarsh.example\n";
    assertEquals(bring("u.ldif", ldif, true).get("added").intValue(), 1);
  }

  private String idOf(String title) {
    JsonNode items = get(WARDEN, "/api/meetings?text=" + title).is(200).json().get("items");
    assertEquals(items.size(), 1, title + " " + items);
    return items.get(0).get("id").stringValue();
  }

  private void takeBack(JsonNode report) {
    post(WARDEN, "/api/exchange/imports/" + report.get("batch").longValue() + "/take-back", "")
        .is(200);
  }

  /** RFC 5546 sections 3.2.3 and 3.2.5: an answer is no meeting, a cancellation cancels. */
  @Test
  public void whatACalendarIsForDecidesWhatItDoes() {
    String organizer = "ORGANIZER:mailto:" + HOST + "\r\n";
    bring("m.ics", calendar(event("method-1@x", "Methodone", organizer)), false);
    String id = idOf("Methodone");
    int before = meetings();
    for (String method : new String[] {"REPLY", "COUNTER", "REFRESH", "DECLINECOUNTER"}) {
      String text = calendar("METHOD:" + method + "\r\n" + event("method-1@x", "Other", organizer));
      assertEquals(bring("r.ics", text, false).get("refused").intValue(), 1, method);
    }
    get(WARDEN, "/api/meetings/" + id).is(200);
    assertEquals(meetings(), before);
    String cancel =
        calendar(
            "METHOD:CANCEL\r\n"
                + event("method-1@x", "Methodone", organizer + "STATUS:CANCELLED\r\nSEQUENCE:1\r\n")
                + event("method-none@x", "Unknown", "STATUS:CANCELLED\r\n"));
    JsonNode tried = bring("c.ics", cancel, true);
    assertTrue(tried.toString().contains("goes from the register"), tried.toString());
    get(WARDEN, "/api/meetings/" + id).is(200);
    JsonNode taken = bring("c.ics", cancel, false);
    assertEquals(taken.get("refused").intValue(), 1, "the one that is not known");
    get(WARDEN, "/api/meetings/" + id).is(404);
    takeBack(taken);
    assertEquals(
        get(WARDEN, "/api/meetings/" + id).is(200).json().get("title").stringValue(), "Methodone");
  }

  @Test
  public void anEarlierImportIsTakenBackOnceTheLaterWas() {
    JsonNode first = bring("1.ics", calendar(event("two-1@x", "Twoimports", "")), false);
    String id = idOf("Twoimports");
    JsonNode second =
        bring(
            "2.ics",
            calendar(event("two-1@x", "Twoimports", "SEQUENCE:3\r\nDESCRIPTION:x\r\n")),
            false);
    post(WARDEN, "/api/exchange/imports/" + first.get("batch").longValue() + "/take-back", "")
        .is(409);
    takeBack(second);
    takeBack(first);
    get(WARDEN, "/api/meetings/" + id).is(404);
  }

  @Test
  public void zonesOfPeopleAreTakenBackToo() {
    String one = "email,name,zone\nzoned@saltmarsh.example,Zoned,Europe/Paris\n";
    String two = "email,name,zone\nzoned@saltmarsh.example,Zoned,Asia/Tokyo\n";
    JsonNode first = bring("z1.csv", one, false);
    JsonNode second = bring("z2.csv", two, false);
    assertTrue(get(WARDEN, "/api/people?text=zoned@").body().contains("Asia/Tokyo"));
    takeBack(second);
    assertTrue(get(WARDEN, "/api/people?text=zoned@").body().contains("Europe/Paris"));
    takeBack(first);
    assertEquals(get(WARDEN, "/api/people?text=zoned@").json().get("total").intValue(), 0);
  }

  /** The headings of our own screen, spreadsheets' times, no id: title and start are enough. */
  @Test
  public void aTableIsReadAsPeopleWriteIt() {
    String text =
        """
        Meeting;Next;Recurs;Invited;Exposure;Waiting room
        Tablewise;2027-05-10 09:00;weekly;una@x.example, jo@x.example;41;on
        Tablebad;10/05/2027;;;;
        Tableworse;2027-02-30 09:00;sometimes;;;
        """;
    JsonNode report = bring("t.csv", text, false);
    assertEquals(report.get("added").intValue(), 1, report.toString());
    String told = report.toString();
    assertTrue(told.contains("write it like 2027-05-10 09:00"), told);
    assertTrue(told.contains("no day or time"), told);
    assertTrue(told.contains("is no recurrence"), told);
    JsonNode meeting = get(WARDEN, "/api/meetings/" + idOf("Tablewise")).json();
    assertEquals(meeting.get("recurrence").stringValue(), "FREQ=WEEKLY");
    assertEquals(meeting.get("invitees").size(), 2);
    assertEquals(meeting.get("host").stringValue(), WARDEN, "whoever brings it");
    assertEquals(meeting.get("controls").get("waiting-room").stringValue(), "on");
    assertEquals(
        bring("t.csv", text, false).get("unchanged").intValue(),
        1,
        "what is read twice is the same");
    takeBack(report);
  }

  /** What no page can hold is left out, whichever way it comes in. */
  @Test
  public void controlCharactersAreLeftOut() {
    String csv = "title,start\nCon\u0001trol\ufffeled,2027-05-10 09:00\n";
    JsonNode report = bring("k.csv", csv, false);
    assertEquals(report.get("added").intValue(), 1, report.toString());
    String id = idOf("Controlled");
    takeBack(report);
    String ics = calendar(event("ctl-1@x", "Con\u0002trolled two", ""));
    JsonNode second = bring("k.ics", ics, false);
    assertTrue(!id.isEmpty() && !idOf("Controlled%20two").isEmpty());
    takeBack(second);
    JsonNode form = get(WARDEN, "/api/meetings/m-0001/form").is(200).json().get("meeting");
    Map<String, Object> meeting = new java.util.LinkedHashMap<>();
    form.properties().forEach(e -> meeting.put(e.getKey(), e.getValue()));
    meeting.put("description", "a\u0000b\u001fc\uffffd");
    JsonNode read =
        post(WARDEN, "/api/scheduling/letter", Map.of("meeting", meeting, "to", "")).json();
    assertTrue(read.get("text").stringValue().contains("abcd"), read.toString());
  }

  @DataProvider
  public Object[][] templates() {
    return new Object[][] {{"meetings", 2}, {"people", 1}, {"lists", 1}};
  }

  @Test(dataProvider = "templates")
  public void theTemplatesAreRead(String name, int rows) throws IOException {
    try (InputStream in =
        ImportsTest.class.getResourceAsStream("/static/templates/" + name + ".csv")) {
      JsonNode report = bring(name, new String(in.readAllBytes(), StandardCharsets.UTF_8), true);
      assertEquals(report.get("refused").intValue(), 0, report.toString());
      assertEquals(report.get("added").intValue(), rows, report.toString());
    }
  }

  @DataProvider
  public Object[][] bad() {
    String big = "X".repeat(33 * 1024 * 1024);
    return new Object[][] {
      {"", 400, "empty"},
      {"hello there", 400, "no header that is known"},
      {"title,colour,start\nx,y,z\n", 422, "colour"},
      {"PK\u0003\u0004", 400, "archive"},
      {"BEGIN:VCARD\r\nEND:VCARD\r\n", 400, "no calendar"},
      {"{\"format\": \"other/9\"}", 422, "/format"},
      {big, 413, "32 MiB"},
    };
  }

  @Test(dataProvider = "bad")
  public void whatCannotBeReadIsSaidSo(String text, int status, String words) {
    Answer told = sendRaw(WARDEN, "/api/exchange/files?name=x&dryRun=false", text);
    assertEquals(told.status(), status, told.body());
    assertTrue(told.body().contains(words), told.body());
  }

  /** A calendar of 30 MB is read to its end, and the server answers others meanwhile. */
  @Test
  public void aCalendarOfThirtyMegabytes() {
    StringBuilder events = new StringBuilder();
    String agenda = "DESCRIPTION:" + "All hands on the quay. ".repeat(350) + "\r\n";
    int count = 0;
    while (events.length() < 29 * 1024 * 1024) {
      events.append(event("big-" + count + "@x", "Big " + count, agenda));
      count++;
    }
    String whole = calendar(events.toString());
    tokenOf(WARDEN); // before two ask for it
    CompletableFuture<JsonNode> reading =
        CompletableFuture.supplyAsync(() -> bring("big.ics", whole, true));
    get(WARDEN, "/api/health").is(200);
    assertFalse(reading.isDone(), "answered while it is read");
    assertEquals(reading.join().get("added").intValue(), count);
  }
}
