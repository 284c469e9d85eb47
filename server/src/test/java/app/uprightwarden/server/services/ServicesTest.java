package app.uprightwarden.server.services;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.server.rulebook.RulebookService;
import app.uprightwarden.standins.Make;
import app.uprightwarden.standins.StandIn;
import java.io.IOException;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import org.springframework.beans.factory.annotation.Autowired;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.MissingNode;
import tools.jackson.databind.node.ObjectNode;

/** What is decided here becomes true in both stand-ins, or it is seen that it is not. */
public class ServicesTest extends ServicesCase {
  @Autowired private RulebookService rulebook;

  @Test(dataProvider = "makes")
  public void whatIsMadeThereAppearsWithItsFindings(Make make) {
    String id = made(make, "Made there", Map.of("waiting-room", "off"));
    JsonNode held = held(id);
    assertEquals(held.path("name").stringValue(), make.title());
    assertEquals(held.path("writing").stringValue(), "none");
    assertEquals(held.path("differences").size(), 0);
    assertTrue(
        held.path("link")
            .stringValue()
            .contains(make.title().toLowerCase(java.util.Locale.ROOT) + ".example"));
    assertFalse(meeting(id).path("number").isNull());
    of(make).cancelBehindOurBack(id, SOMEBODY);
    until("it is cancelled here", () -> get(WARDEN, "/api/meetings/" + id).status() == 404);
  }

  /** Where two have to agree, one of them alone makes this server speak with nobody. */
  @Test
  public void aSecondWardenAgreesBeforeAServiceIsSpokenWith() throws IOException {
    Path file = Files.createTempDirectory("second").resolve("held.jsonl");
    try (StandIn third = new StandIn(Make.REDSHANK, 0, KEY, file, Clock.systemUTC())) {
      Map<String, String> wanted =
          Map.of("name", "Third", "address", third.address().toString(), "key", KEY);
      send(WARDEN, "PUT", "/api/rulebook/drafts/consent?needed=true", null).is(200);
      try {
        post(WARDEN, "/api/services", wanted).is(409);
        post(
                WARDEN,
                "/api/services/attempt",
                Map.of("address", third.address().toString(), "key", KEY))
            .is(409);
        JsonNode waits = post(WARDEN, "/api/services/proposals", wanted).is(201).json().path(0);
        assertEquals(waits.path("name").stringValue(), "Third");
        assertFalse(waits.toString().contains(KEY), "the key is told nobody");
        String path = "/api/services/proposals/" + waits.path("id").longValue();
        post(WARDEN, path, null).is(403);
        assertEquals(third.requests(), 0, "it was asked nothing");
        third.faults().away = true;
        post(SECOND_WARDEN, path, null).is(422);
        assertEquals(get(WARDEN, "/api/services/proposals").json().size(), 1, "it waits on");
        third.faults().clear();
        post(SECOND_WARDEN, path, null).is(200);
        post(SECOND_WARDEN, path, null).is(404);
        long id =
            get(WARDEN, "/api/services")
                .json()
                .valueStream()
                .filter(each -> each.path("name").stringValue("").equals("Third"))
                .findFirst()
                .orElseThrow()
                .path("id")
                .longValue();
        send(WARDEN, "DELETE", "/api/services/" + id, null).is(200);
        // proposed once more, and taken back: nothing of it is left to agree to
        post(WARDEN, "/api/services/proposals", wanted).is(201);
        send(WARDEN, "DELETE", path, null).is(200);
        post(SECOND_WARDEN, path, null).is(404);
      } finally {
        send(WARDEN, "PUT", "/api/rulebook/drafts/consent?needed=false", null).is(200);
        send(SECOND_WARDEN, "PUT", "/api/rulebook/drafts/consent?needed=false", null).is(200);
      }
    }
  }

  @Test(dataProvider = "makes")
  public void whatIsDecidedIsDoneOnceItWasReadBack(Make make) {
    String id = made(make, "Decided", Map.of("waiting-room", "off"));
    of(make).faults().away = true;
    decide(id, "waiting-room", "on");
    JsonNode waits = held(id);
    assertEquals(waits.path("writing").stringValue(), "waiting");
    assertEquals(waits.path("differences").path(0).path("decided").stringValue(), "on");
    assertEquals(waits.path("differences").path(0).path("held").stringValue(), "off");
    assertEquals(
        meeting(id).path("controls").path("waiting-room").stringValue(),
        "off",
        "what is judged is what is held");
    assertEquals(there(make, id, "waiting-room"), "off");
    until("it is late", () -> held(id).path("late").booleanValue());
    assertTrue(isFound(id, "not-taken"));
    until(
        "the page says that it is away",
        () -> service(make).path("state").stringValue("").equals("away"));
    of(make).faults().clear();
    untilWriting(id, "confirmed");
    assertEquals(there(make, id, "waiting-room"), "on");
    assertEquals(meeting(id).path("controls").path("waiting-room").stringValue(), "on");
    assertEquals(held(id).path("differences").size(), 0);
    assertFalse(isFound(id, "not-taken"));
    until(
        "and that it is in touch",
        () -> service(make).path("state").stringValue("").equals("in-touch"));
  }

  @Test(dataProvider = "makes")
  public void whatSomebodyLoosensThereIsFoundAndSetBack(Make make) {
    String id = made(make, "Behind our back", Map.of("waiting-room", "off"));
    decide(id, "waiting-room", "on");
    untilWriting(id, "confirmed");
    of(make).behindOurBack(id, SOMEBODY, control("waiting-room", "off"));
    until("it is found", () -> isFound(id, "changed-there"));
    JsonNode difference = held(id).path("differences").path(0);
    assertEquals(difference.path("cause").stringValue(), "changed-there");
    assertEquals(difference.path("by").stringValue(), SOMEBODY);
    assertEquals(there(make, id, "waiting-room"), "off", "nothing is written over unseen");
    post(WARDEN, "/api/meetings/" + id + "/service/decided", null).is(204);
    until("it is as decided", () -> !isFound(id, "changed-there"));
    untilWriting(id, "confirmed");
    assertEquals(there(make, id, "waiting-room"), "on");
    post(WARDEN, "/api/meetings/" + id + "/service/decided", null).is(409);
  }

  @Test(dataProvider = "makes")
  public void itMayBeDecidedThatItStaysAsItIsThere(Make make) {
    String id = made(make, "Let it be", Map.of("chat", "off"));
    decide(id, "chat", "always");
    untilWriting(id, "confirmed");
    of(make).behindOurBack(id, SOMEBODY, control("chat", "off"));
    until("it differs", () -> held(id).path("differences").size() == 1);
    post(WARDEN, "/api/meetings/" + id + "/service/held", null).is(204);
    assertEquals(held(id).path("differences").size(), 0);
    assertEquals(there(make, id, "chat"), "off");
    of(make).behindOurBack(id, SOMEBODY, control("chat", "always"));
    until("what was accepted is what was decided", () -> isFound(id, "changed-there"));
  }

  @Test(dataProvider = "makes")
  public void aLaterDecisionStands(Make make) {
    String id = made(make, "Twice", Map.of("waiting-room", "off"));
    of(make).faults().away = true;
    decide(id, "waiting-room", "on");
    decide(id, "waiting-room", "off");
    decide(id, "mute-on-entry", "on");
    of(make).faults().clear();
    untilWriting(id, "confirmed");
    assertEquals(there(make, id, "waiting-room"), "off");
    assertEquals(there(make, id, "mute-on-entry"), "on");
  }

  @Test(dataProvider = "makes")
  public void whatWasChangedHereAndThereAtOnceIsShownAndNotWrittenOver(Make make) {
    String id = made(make, "Both at once", Map.of("screen-share", "everyone"));
    set(make, "write", true); // paused, so that both come before either is told
    decide(id, "screen-share", "hosts");
    of(make).behindOurBack(id, SOMEBODY, control("screen-share", "presenters"));
    set(make, "write", false);
    until("it differs", () -> isFound(id, "changed-there"));
    assertEquals(there(make, id, "screen-share"), "presenters", "not written over unseen");
    assertEquals(held(id).path("differences").path(0).path("by").stringValue(), SOMEBODY);
    post(WARDEN, "/api/meetings/" + id + "/service/decided", null).is(204);
    untilWriting(id, "confirmed");
    assertEquals(there(make, id, "screen-share"), "hosts");
  }

  @Test(dataProvider = "makes")
  public void aChangeOfSomethingElseThereIsNoConflict(Make make) {
    String id = made(make, "Beside", Map.of("screen-share", "everyone"));
    set(make, "write", true);
    decide(id, "screen-share", "hosts");
    of(make).behindOurBack(id, SOMEBODY, Map.of("title", "Beside the quay"));
    set(make, "write", false);
    untilWriting(id, "confirmed");
    assertEquals(there(make, id, "screen-share"), "hosts");
    assertEquals(meeting(id).path("title").stringValue(), "Beside the quay");
  }

  @Test
  public void whatAServiceCannotHoldIsSaid() {
    String id = made(Make.CURLEW, "Cannot", Map.of());
    decide(id, "phone-bypass", "waits");
    until("it is found", () -> isFound(id, "not-taken"));
    assertTrue(held(id).path("differences").path(0).path("why").stringValue().contains("no such"));
    // what stands for a value that it has not is as good as the value
    decide(id, "lobby-bypass", "named");
    until("it is stricter there", () -> there(Make.CURLEW, id, "lobby-bypass").equals("hosts"));
    untilWriting(id, "confirmed");
  }

  @Test(dataProvider = "makes")
  public void nothingIsSentToAServiceThatIsLinkedForReading(Make make) {
    String id = made(make, "Only read", Map.of("waiting-room", "off"));
    set(make, "read", false);
    long before = of(make).revision(id);
    decide(id, "waiting-room", "on");
    assertEquals(held(id).path("writing").stringValue(), "kept");
    assertTrue(isFound(id, "not-taken"));
    post(WARDEN, "/api/meetings/" + id + "/service/decided", null).is(409);
    assertEquals(of(make).revision(id), before);
    set(make, "suggest", false);
    assertEquals(held(id).path("writing").stringValue(), "kept");
    post(WARDEN, "/api/meetings/" + id + "/service/decided", null).is(204);
    untilWriting(id, "confirmed");
    set(make, "write", false);
    assertEquals(there(make, id, "waiting-room"), "on");
  }

  @Test(dataProvider = "makes")
  public void aMeetingFromHereIsMadeThereWithANumberOfItsOwn(Make make) {
    String id = "m-0001";
    if (make == Make.CURLEW) {
      id = "m-0002";
    }
    String meeting = id;
    String path = "/api/meetings/" + meeting + "/service";
    send(WARDEN, "PUT", path, Map.of("service", linked.get(make))).is(204);
    untilWriting(meeting, "confirmed");
    send(WARDEN, "PUT", path, Map.of("service", linked.get(make))).is(409);
    assertEquals(
        of(make).ids().stream()
            .filter(
                each ->
                    of(make)
                        .holds(each)
                        .path("number")
                        .stringValue()
                        .equals(meeting(meeting).path("number").stringValue()))
            .count(),
        1);
    int held = of(make).ids().size();
    send(
            WARDEN,
            "DELETE",
            "/api/meetings/"
                + meeting
                + "?version="
                + meeting(meeting).path("version").longValue()
                + "&send=false",
            null)
        .is(200);
    until("it is cancelled there", () -> of(make).ids().size() == held - 1);
  }

  @Test(dataProvider = "makes")
  public void whatIsScheduledIsMadeInTheUnitsServiceBeforeAnybodyIsWrittenTo(Make make) {
    setUnits(make, List.of(""));
    try {
      of(make).faults().away = true;
      JsonNode saved = schedule("Made in " + make.title(), null).is(200).json();
      String id = saved.path("id").stringValue();
      assertEquals(saved.path("madeBy").stringValue(), make.title());
      assertEquals(saved.path("sent").intValue(), 1);
      assertEquals(held(id).path("link").stringValue(null), null, "no link is invented");
      assertTrue(meeting(id).path("number").isMissingNode() || meeting(id).path("number").isNull());
      assertEquals(letters(id).size(), 0);
      of(make).faults().away = false;
      untilWriting(id, "confirmed");
      String link = held(id).path("link").stringValue();
      assertTrue(
          link.startsWith("https://" + make.title().toLowerCase(Locale.ROOT) + ".example/"), link);
      until("they are written to", () -> !letters(id).isEmpty());
      String letter = letters(id).get(0);
      assertTrue(letter.contains(link), letter);
      assertTrue(letter.contains(meeting(id).path("number").stringValue()), letter);
      JsonNode join = get(HOST, "/api/meetings/" + id + "/join").is(200).json();
      assertEquals(join.path("link").stringValue(), link);
      assertTrue(join.path("text").stringValue().contains(link), join.toString());
      assertFalse(join.path("text").stringValue().contains("When you come"), join.toString());
      get(AUDITOR, "/api/meetings/" + id + "/join").is(403);
      // who complains has the link, the number or an invitee, and the meeting is found by each
      for (String trace :
          List.of(link, meeting(id).path("number").stringValue(), "b.oneill@elsewhere.example")) {
        String at = "/api/meetings?text=" + URLEncoder.encode(trace, StandardCharsets.UTF_8);
        assertTrue(get(WARDEN, at).is(200).body().contains(id), trace);
      }
      JsonNode line =
          get(
                  WARDEN,
                  "/api/meetings?text=Made%20in%20" + make.title() + "&service=" + linked.get(make))
              .is(200)
              .json();
      assertEquals(line.path("total").intValue(), 1, line.toString());
      assertEquals(line.at("/items/0/service").stringValue(), make.title());
      assertEquals(
          get(WARDEN, "/api/meetings?text=Made%20in%20" + make.title() + "&service=0")
              .is(200)
              .json()
              .path("total")
              .intValue(),
          0);
    } finally {
      setUnits(make, List.of());
    }
    String none = schedule("Held by none", null).is(200).json().path("id").stringValue();
    assertTrue(meeting(none).path("held").isNull() || meeting(none).path("held").isMissingNode());
    String letter = letters(none).get(0);
    assertTrue(letter.contains("no conference service holds it"), letter);
    String chosen = schedule("Chosen", linked.get(make)).is(200).json().path("id").stringValue();
    untilWriting(chosen, "confirmed");
    schedule("Nowhere", 9_999L).is(422);
  }

  private int called(String title) {
    return get(WARDEN, "/api/meetings?text=" + URLEncoder.encode(title, StandardCharsets.UTF_8))
        .is(200)
        .json()
        .path("total")
        .intValue();
  }

  /** A service that names its meetings itself: one that takes our names is told from the first. */
  @Test
  public void whatWasMadeThereUnheardIsOneMeetingInTheEnd() {
    Make make = Make.CURLEW;
    String title = "Made unheard in " + make.title();
    setUnits(make, List.of(""));
    try {
      of(make).faults().deaf = true;
      String id = schedule(title, null).is(200).json().path("id").stringValue();
      // nobody heard that it was made: it is read as one that somebody made there
      until("it is there, and read", () -> called(title) == 2);
      of(make).faults().clear();
      untilWriting(id, "confirmed");
      assertEquals(called(title), 1, "one of it");
      long there =
          of(make).ids().stream()
              .map(of(make)::holds)
              .filter(held -> held != null && held.path("title").stringValue("").equals(title))
              .count();
      assertEquals(there, 1, "and one there");
      decide(id, "waiting-room", "on");
      untilWriting(id, "confirmed");
      // what else waits for the service is written as before
      String next =
          schedule("Next in " + make.title(), null).is(200).json().path("id").stringValue();
      untilWriting(next, "confirmed");
    } finally {
      of(make).faults().clear();
      setUnits(make, List.of());
    }
  }

  private void setUnits(Make make, List<String> units) {
    set(make, "write", false);
    JsonNode before = service(make);
    String path = "/api/services/" + linked.get(make);
    // by somebody who saw them as they were some time ago, and who sees them as they are
    send(WARDEN, "PUT", path, Map.of("units", List.of(), "unitsSeen", List.of("elsewhere")))
        .is(409);
    List<String> seen = before.path("units").valueStream().map(JsonNode::stringValue).toList();
    send(WARDEN, "PUT", path, Map.of("units", units, "unitsSeen", seen)).is(200);
    JsonNode now = service(make);
    assertEquals(now.path("units").size(), units.size());
    // whatever was decided about writing since somebody opened this stays
    for (String same : List.of("name", "level", "state")) {
      assertEquals(now.path(same), before.path(same));
    }
  }

  private Answer schedule(String title, @Nullable Long service) {
    Map<String, Object> meeting = new LinkedHashMap<>();
    meeting.put("title", title);
    meeting.put("host", HOST);
    meeting.put("start", "2027-02-11T09:00");
    meeting.put("zone", "Europe/Dublin");
    meeting.put("minutes", 60);
    meeting.put(
        "invitees", List.of(Map.of("email", "b.oneill@elsewhere.example", "need", "required")));
    Map<String, Object> wanted = new LinkedHashMap<>();
    wanted.put("version", 0);
    wanted.put("meeting", meeting);
    wanted.put("send", true);
    wanted.put("service", service);
    return post(WARDEN, "/api/meetings", wanted);
  }

  /** As a warden reads them: one with a passcode is sealed in the table. */
  private List<String> letters(String meeting) {
    List<String> bodies = new ArrayList<>();
    get(WARDEN, "/api/outbox?about=meeting:" + meeting)
        .is(200)
        .json()
        .forEach(letter -> bodies.add(letter.path("body").stringValue("")));
    return bodies;
  }

  private String soon(String title) {
    Instant start = Instant.now().truncatedTo(ChronoUnit.MINUTES).plus(Duration.ofMinutes(8));
    Map<String, Object> meeting = new LinkedHashMap<>();
    meeting.put("title", title);
    meeting.put("host", HOST);
    meeting.put("start", start.atZone(ZoneOffset.UTC).toLocalDateTime().toString());
    meeting.put("zone", "UTC");
    meeting.put("minutes", 30);
    meeting.put("controls", Map.of());
    String id = of(Make.REDSHANK).make(HOST, meeting);
    until("it is here", () -> get(WARDEN, "/api/meetings/" + id).status() == 200);
    return id;
  }

  @Test
  public void aHostIsRemindedOnceWithTheLinkAndHasItInTheirOwnFeed() {
    String id = soon("In eight minutes");
    String link = held(id).path("link").stringValue();
    until("the host is reminded", () -> !letters(id).isEmpty());
    assertTrue(letters(id).get(0).contains(link), letters(id).get(0));
    String path =
        post(HOST, "/api/feeds", Map.of("name", "own", "person", HOST))
            .is(200)
            .json()
            .path("path")
            .stringValue();
    String feed = get(null, path).is(200).body().replace("\r\n ", "");
    // RFC 7986 section 5.11
    assertTrue(feed.contains("CONFERENCE;VALUE=URI") && feed.contains(link), feed);
    String others =
        post(WARDEN, "/api/feeds", Map.of("name", "others", "person", HOST))
            .is(200)
            .json()
            .path("path")
            .stringValue();
    assertFalse(get(null, others).is(200).body().contains("CONFERENCE"), "of others, no link");
    // the reminders go by again and again: twice more, as those of later meetings show
    for (String title : List.of("Later than that", "Later still")) {
      String later = soon(title);
      until("its host is reminded too", () -> !letters(later).isEmpty());
    }
    assertEquals(letters(id).size(), 1, "once");
  }

  @Test
  public void whatWaitsIsKeptBackWhereNothingMayBeWrittenAnyMore() {
    Make make = Make.REDSHANK;
    String id = made(make, "Kept back", Map.of("waiting-room", "off"));
    of(make).faults().away = true;
    decide(id, "waiting-room", "on");
    assertEquals(held(id).path("writing").stringValue(), "waiting");
    set(make, "read", false);
    assertEquals(held(id).path("writing").stringValue(), "kept");
    of(make).faults().away = false;
    set(make, "write", false);
    untilWriting(id, "confirmed");
    assertEquals(there(make, id, "waiting-room"), "on");
  }

  @Test
  public void onlyWardensLinkAndOnlyWhatAnswers() {
    Map<String, String> wanted =
        Map.of("name", "Third", "address", of(Make.CURLEW).address().toString(), "key", KEY);
    post(AUDITOR, "/api/services", wanted).is(403);
    post(HOST, "/api/services/attempt", Map.of("address", "a", "key", "b")).is(403);
    get(HOST, "/api/services").is(403);
    post(WARDEN, "/api/services", wanted).is(409); // it is linked already
    Map<String, String> wrong = new LinkedHashMap<>(wanted);
    wrong.put("key", "another");
    wrong.remove("name");
    Answer refused = post(WARDEN, "/api/services/attempt", wrong).is(422);
    assertEquals(refused.json().path("faults").path(0).path("pointer").stringValue(""), "/key");
    wrong.put("address", "ftp://curlew.example");
    post(WARDEN, "/api/services/attempt", wrong).is(400);
    assertFalse(get(WARDEN, "/api/services").body().contains(KEY), "the key is never told");
  }

  @Test(dataProvider = "makes")
  public void unlinkedAndLinkedAgainItIsTheSame(Make make) {
    String id = made(make, "Stays the same", Map.of("waiting-room", "off"));
    decide(id, "waiting-room", "on");
    untilWriting(id, "confirmed");
    long held = service(make).path("meetings").longValue();
    send(WARDEN, "DELETE", "/api/services/" + linked.get(make), null).is(200);
    assertTrue(meeting(id).path("held").isNull(), "it is here alone");
    assertEquals(meeting(id).path("formerly").stringValue(), make.title());
    of(make).behindOurBack(id, SOMEBODY, control("waiting-room", "off"));
    linked.put(make, link(make));
    until("everything was read", () -> !service(make).path("reading").booleanValue());
    assertEquals(service(make).path("meetings").longValue(), held, "nothing is there twice");
    assertTrue(isFound(id, "changed-there"), "what was decided is still known");
    set(make, "write", false);
    post(WARDEN, "/api/meetings/" + id + "/service/decided", null).is(204);
    untilWriting(id, "confirmed");
  }

  private JsonNode defaults(Make make) {
    return get(WARDEN, "/api/services/" + linked.get(make) + "/defaults").is(200).json();
  }

  private JsonNode line(Make make, String control) {
    for (JsonNode line : defaults(make).path("lines")) {
      if (line.path("control").stringValue("").equals(control)) {
        return line;
      }
    }
    throw new IllegalStateException("nothing is said of " + control);
  }

  private void untilDefaults(Make make, String state) {
    until(
        "the defaults are " + state,
        () -> defaults(make).path("state").stringValue("").equals(state));
  }

  private JsonNode account(Make make, String control) {
    return of(make).account().path("controls").path(control);
  }

  @Test(dataProvider = "makes")
  public void theRulebookIsWrittenAsDefaultsAndLocks(Make make) {
    untilDefaults(make, "confirmed");
    assertEquals(defaults(make).path("edition").intValue(), rulebook.inForce().number());
    assertEquals(account(make, "waiting-room").path("value").stringValue(""), "on");
    assertEquals(account(make, "waiting-room").path("lock").stringValue(""), "on");
    for (JsonNode line : defaults(make).path("lines")) {
      assertFalse(line.path("looser").booleanValue(), "" + line);
    }
    boolean isPoor = make == Make.CURLEW;
    assertEquals(
        line(make, "phone-bypass").path("carried").stringValue(), isPoor ? "cannot" : "carried");
    assertEquals(
        line(make, "lobby-bypass").path("carried").stringValue(), isPoor ? "stricter" : "carried");
    assertEquals(
        account(make, "lobby-bypass").path("value").stringValue(""), isPoor ? "hosts" : "named");
    // and the printed rulebook says so: name, locked, stricter, audits alone, cannot
    String page = get(WARDEN, "/api/rulebook/print?of=in-force").is(200).body();
    Matcher row =
        Pattern.compile("<td class=\"control\">" + make.title() + "</td>((?:<td>[^<]*</td>){4})")
            .matcher(page);
    assertTrue(row.find(), page);
    String[] held = row.group(1).split("</td>");
    assertTrue(held[0].contains("Waiting room"), row.group());
    assertEquals(held.length == 4 && held[3].contains("Phone bypass"), isPoor, row.group());
  }

  @Test(dataProvider = "makes")
  public void aDefaultThatSomebodyLoosensThereIsSeenAndSetBack(Make make) {
    untilDefaults(make, "confirmed");
    of(make).changeDefaultBehindOurBack("waiting-room", "off", SOMEBODY);
    until("it is seen", () -> line(make, "waiting-room").path("looser").booleanValue());
    assertEquals(defaults(make).path("changedBy").stringValue(), SOMEBODY);
    assertEquals(account(make, "waiting-room").path("value").stringValue(), "off");
    JsonNode notice = notices(make);
    assertEquals(notice.path("check").stringValue(""), "default-differs");
    assertEquals(notice.path("severity").intValue(), 3);
    assertTrue(notice.path("text").stringValue("").contains("Waiting room"), "" + notice);
    assertTrue(notice.path("text").stringValue("").contains(SOMEBODY), "" + notice);
    post(WARDEN, "/api/services/" + linked.get(make) + "/defaults", null).is(200);
    until("it is as it was", () -> !line(make, "waiting-room").path("looser").booleanValue());
    assertEquals(account(make, "waiting-room").path("value").stringValue(), "on");
  }

  private JsonNode notices(Make make) {
    for (JsonNode each : get(WARDEN, "/api/services/notices").is(200).json()) {
      if (each.path("service").longValue() == linked.get(make)) {
        return each;
      }
    }
    return MissingNode.getInstance();
  }

  @Test
  public void aServiceThatIsAwayIsSaid() {
    of(Make.CURLEW).faults().away = true;
    until(
        "it is said",
        () -> notices(Make.CURLEW).path("check").stringValue("").equals("service-away"));
    get(HOST, "/api/services/notices").is(403);
    of(Make.CURLEW).faults().away = false;
    until("it is back", () -> notices(Make.CURLEW).isMissingNode());
  }

  @Test
  public void whatADraftPutsBeyondAServicesMeansIsCounted() {
    made(Make.CURLEW, "Beyond its means", Map.of("waiting-room", "on"));
    JsonNode document = rulebook.inForce().document().deepCopy();
    for (JsonNode rule : document.path("layers").path(0).path("rules")) {
      if (rule.path("control").stringValue("").equals("lobby-bypass")) {
        ObjectNode fixed = (ObjectNode) rule;
        fixed.remove(List.of("start", "limit"));
        fixed.put("mode", "fix");
        fixed.put("value", "named");
      }
    }
    JsonNode impact =
        post(WARDEN, "/api/rulebook/impact", Map.of("document", document, "from", 0, "size", 5))
            .is(200)
            .json();
    JsonNode line = MissingNode.getInstance();
    for (JsonNode each : impact.path("beyond")) {
      if (each.path("control").stringValue("").equals("lobby-bypass")) {
        line = each;
      }
      assertEquals(each.path("service").stringValue(), "Curlew", "Redshank can hold all");
    }
    assertEquals(line.path("before").longValue(), 0);
    assertEquals(line.path("after").longValue(), service(Make.CURLEW).path("meetings").longValue());
    assertEquals(line.path("stricter").stringValue(), "hosts");
  }

  @Test
  public void aNewEditionIsWrittenToAll() {
    untilDefaults(Make.REDSHANK, "confirmed");
    JsonNode document = rulebook.inForce().document().deepCopy();
    int changed = 0;
    for (JsonNode rule : document.path("layers").path(0).path("rules")) {
      if (rule.path("control").stringValue("").equals("passcode-in-mail")) {
        ((ObjectNode) rule).put("start", "left-out");
        changed++;
      }
    }
    assertEquals(changed, 1);
    int edition = rulebook.append(document, "passcodes are not mailed", WARDEN).number();
    for (Make make : Make.values()) {
      until(
          "edition " + edition + " is written",
          () -> account(make, "passcode-in-mail").path("value").stringValue("").equals("left-out"));
      untilDefaults(make, "confirmed");
      assertEquals(defaults(make).path("edition").intValue(), edition);
    }
  }
}
