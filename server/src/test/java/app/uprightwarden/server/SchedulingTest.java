package app.uprightwarden.server;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertNotEquals;
import static org.testng.Assert.assertTrue;

import java.net.URI;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;

/** Scheduling over HTTP: what is stamped, refused, sent, answered, put back. */
public class SchedulingTest extends ServerTest {
  private static final String GUEST = "j.sato@brownsand-survey.example";
  private static final String MAYOR = "mayor@town.example";
  private final String day = LocalDate.now(ZoneOffset.UTC).plusDays(40).toString();

  private Map<String, Object> form(String title) {
    Map<String, Object> form = new LinkedHashMap<>();
    form.put("title", title);
    form.put("host", WARDEN);
    form.put("start", day + "T10:00");
    form.put("zone", "Europe/Dublin");
    form.put("minutes", 45);
    form.put(
        "invitees",
        List.of(
            Map.of("email", GUEST, "need", "required"),
            Map.of("email", MAYOR, "need", "optional")));
    return form;
  }

  private static Map<String, Object> save(Map<String, Object> form, boolean send) {
    Map<String, Object> body = new LinkedHashMap<>();
    body.put("version", 0);
    body.put("meeting", form);
    body.put("send", send);
    return body;
  }

  private String schedule(Map<String, Object> form, boolean send) {
    return post(WARDEN, "/api/meetings", save(form, send)).is(200).json().get("id").stringValue();
  }

  private JsonNode messages(String id) {
    return get(WARDEN, "/api/outbox?about=meeting:" + id).is(200).json();
  }

  @Test
  public void aNewMeetingIsStampedWithTheStartsInForce() {
    String id = schedule(form("Stamped"), false);
    JsonNode meeting = get(WARDEN, "/api/meetings/" + id).is(200).json();
    meeting
        .get("assessment")
        .get("resolved")
        .properties()
        .forEach(
            rule -> {
              // read off the passcode that was made
              if (!rule.getKey().startsWith("passcode-")) {
                assertEquals(
                    meeting.get("controls").get(rule.getKey()),
                    rule.getValue().get("start"),
                    rule.getKey());
              }
            });
    assertTrue(meeting.get("number").stringValue().matches("\\d{3} \\d{3} \\d{3}"));
    assertTrue(meeting.get("hasPasscode").booleanValue());
    assertEquals(meeting.get("assessment").get("findings").size(), 0, meeting.toString());
  }

  @Test
  public void whatIsReadIsWhatIsSent() {
    Map<String, Object> form = form("Read before sent");
    form.put("number", "482 119 731");
    form.put("passcode", "kelp-Rudder-basin-41");
    form.put("phonePasscode", "90417352");
    JsonNode letter =
        post(WARDEN, "/api/scheduling/letter", Map.of("meeting", form, "to", GUEST)).is(200).json();
    assertEquals(letter.get("all").size(), 2);
    String text = letter.get("text").stringValue();
    assertTrue(text.contains("Your time"), "Tokyo's clock too: " + text);
    assertTrue(text.contains("kelp-Rudder-basin-41"), text);
    assertTrue(text.contains("90417352"), text);
    String id = schedule(form, true);
    JsonNode sent = messages(id);
    assertEquals(sent.size(), 2);
    boolean same = false;
    for (JsonNode message : sent) {
      same |=
          message.get("to").stringValue().equals(GUEST)
              && message.get("body").stringValue().equals(text);
      assertTrue(message.get("calendar").stringValue().contains("METHOD:REQUEST"));
      assertEquals(message.get("state").stringValue(), "kept");
    }
    assertTrue(same, "the letter as it was read");
  }

  @Test
  public void thePasscodeIsLeftOutWhereTheControlSaysSo() {
    Map<String, Object> form = form("Left out");
    form.put("passcode", "kelp-Rudder-basin-42");
    form.put("controls", Map.of("passcode-in-mail", "left-out"));
    String id = schedule(form, true);
    for (JsonNode message : messages(id)) {
      byte[] raw =
          bytes(
              HttpRequest.newBuilder(
                      URI.create(
                          "http://127.0.0.1:"
                              + port
                              + "/api/outbox/"
                              + message.get("id").longValue()
                              + "/mail"))
                  .header("Authorization", "Bearer " + tokensForTests.tokenFor(WARDEN))
                  .build());
      assertFalse(new String(raw, java.nio.charset.StandardCharsets.UTF_8).contains("Rudder"));
      assertTrue(message.get("body").stringValue().contains("another way"));
    }
  }

  @Test
  public void changesAreSentWithARaisedSequenceAndThoseDroppedAreTold() {
    String id = schedule(form("Moves"), true);
    Map<String, Object> moved = form("Moves");
    moved.put("start", day + "T11:30");
    moved.put("invitees", List.of(Map.of("email", GUEST)));
    send(WARDEN, "PUT", "/api/meetings/" + id, save(moved, true)).is(200);
    JsonNode meeting = get(WARDEN, "/api/meetings/" + id).json();
    assertEquals(meeting.get("sequence").intValue(), 1);
    JsonNode all = messages(id);
    assertEquals(all.size(), 4);
    Map<String, String> newest = new LinkedHashMap<>();
    for (JsonNode message : all) {
      newest.putIfAbsent(message.get("to").stringValue(), message.get("calendar").stringValue());
    }
    assertTrue(newest.get(GUEST).contains("METHOD:REQUEST"), newest.get(GUEST));
    assertTrue(newest.get(GUEST).contains("SEQUENCE:1"), newest.get(GUEST));
    String cancelled = newest.get(MAYOR);
    assertTrue(cancelled.contains("METHOD:CANCEL"), cancelled);
    // RFC 5546 section 3.2.5: the meeting is held, and only this invitation is taken back
    assertFalse(cancelled.contains("STATUS:CANCELLED"), cancelled);
    assertTrue(cancelled.contains("SEQUENCE:1"), cancelled);
    assertFalse(cancelled.contains(GUEST), "their own object names nobody else");
    // a new title alone is no other time: the sequence stays (RFC 5546 section 2.1.4)
    moved.put("title", "Moves, renamed");
    Map<String, Object> again = save(moved, false);
    again.put("version", meeting.get("version").longValue());
    send(WARDEN, "PUT", "/api/meetings/" + id, again).is(200);
    assertEquals(get(WARDEN, "/api/meetings/" + id).json().get("sequence").intValue(), 1);
    long version = get(WARDEN, "/api/meetings/" + id).json().get("version").longValue();
    send(WARDEN, "DELETE", "/api/meetings/" + id + "?version=" + version + "&word=Fog", null)
        .is(200);
    JsonNode last = messages(id).get(0);
    assertTrue(last.get("calendar").stringValue().contains("SEQUENCE:2"), last.toString());
    assertTrue(last.get("body").stringValue().contains("Fog"));
    get(WARDEN, "/api/meetings/" + id).is(404);
  }

  private String newest(String id, String to, String part) {
    for (JsonNode message : messages(id)) {
      if (message.get("to").stringValue().equals(to)) {
        return message.get(part).stringValue();
      }
    }
    throw new AssertionError("no message to " + to);
  }

  @Test
  public void whoIsNoLongerInvitedIsToldWithANewerSequenceThoughNothingElseChanged() {
    String id = schedule(form("Fewer"), true);
    Map<String, Object> fewer = form("Fewer");
    fewer.put("invitees", List.of(Map.of("email", GUEST)));
    send(WARDEN, "PUT", "/api/meetings/" + id, save(fewer, true)).is(200);
    String cancelled = newest(id, MAYOR, "calendar");
    assertTrue(cancelled.contains("METHOD:CANCEL"), cancelled);
    assertTrue(cancelled.contains("SEQUENCE:1"), cancelled);
    assertTrue(newest(id, MAYOR, "body").contains("taken back your invitation"));
  }

  @Test
  public void aChangedInvitationSaysWhatChanged() {
    String id = schedule(form("Says what"), true);
    Map<String, Object> changed = form("Says what, and where");
    changed.put("start", day + "T11:30");
    send(WARDEN, "PUT", "/api/meetings/" + id, save(changed, true)).is(200);
    String text = newest(id, GUEST, "body");
    assertTrue(text.contains("What changed"), text);
    assertTrue(text.contains("Title: Says what, and where; it was Says what"), text);
    assertTrue(text.matches("(?s).*When: .*11:30.*it was .*10:00.*"), text);
    assertTrue(newest(id, GUEST, "html").contains("What changed"));
  }

  /** RFC 7986 section 5.11, and LOCATION for those that know it not. */
  @Test
  public void theLinkIsWhereProgramsLookForIt() {
    Map<String, Object> form = form("Linked");
    form.put("number", "482 119 744");
    form.put("passcode", "kelp-Rudder-basin-44");
    String id = schedule(form, true);
    String calendar = newest(id, GUEST, "calendar").replace("\r\n ", "");
    assertTrue(calendar.contains("CONFERENCE;VALUE=URI;FEATURE=AUDIO,VIDEO"), calendar);
    assertTrue(calendar.contains("LOCATION:http"), calendar);
    for (String line : calendar.split("\r\n")) {
      boolean isPlace = line.startsWith("CONFERENCE") || line.startsWith("LOCATION");
      assertFalse(isPlace && line.contains("Rudder"), "the rule keeps it apart: " + line);
    }
  }

  /** What breaks no rule and will not go as it is meant. */
  @Test
  public void whatWillNotGoAsItIsMeantIsSaidWhileItIsChosen() {
    Map<String, Object> form = form("Hints");
    form.put("start", "2020-03-02T10:00");
    form.put("presenters", List.of("o.treharne@saltmarsh.example"));
    form.put("controls", Map.of("presenter-role", "hosts", "arrival-notice", "announced"));
    form.put("lists", List.of("everybody"));
    String hints =
        post(WARDEN, "/api/scheduling/foretaste", Map.of("meeting", form))
            .is(200)
            .json()
            .get("hints")
            .toString();
    assertTrue(hints.contains("begins in the past"), hints);
    assertTrue(hints.contains("only hosts present"), hints);
    assertTrue(hints.contains("coming and going is announced"), hints);
    form.put("start", "2030-03-04T10:00");
    form.put("controls", Map.of("presenter-role", "named", "arrival-notice", "silent"));
    assertEquals(
        post(WARDEN, "/api/scheduling/foretaste", Map.of("meeting", form))
            .is(200)
            .json()
            .get("hints")
            .size(),
        0);
  }

  /** One control at fault leaves the others as they are. */
  @Test
  public void aCountryThatIsNoneMakesNothingElseUnknown() {
    Map<String, Object> form = form("Ireland");
    JsonNode before =
        post(WARDEN, "/api/scheduling/foretaste", Map.of("meeting", form)).is(200).json();
    form.put("controls", Map.of("dial-in-countries", List.of("Ireland"), "chat", "off"));
    JsonNode after =
        post(WARDEN, "/api/scheduling/foretaste", Map.of("meeting", form)).is(200).json();
    assertTrue(after.get("faults").toString().contains("/controls/dial-in-countries"));
    assertEquals(after.get("controls").get("chat").stringValue(), "off");
    assertEquals(
        after.get("controls").get("waiting-room"), before.get("controls").get("waiting-room"));
    assertTrue(
        after.get("exposure").get("score").doubleValue()
            <= before.get("exposure").get("score").doubleValue());
  }

  @Test
  public void aCancelledMeetingIsPutBackWithItsPasscode() {
    Map<String, Object> form = form("Comes back");
    form.put("passcode", "kelp-Rudder-basin-43");
    String id = schedule(form, false);
    send(WARDEN, "DELETE", "/api/meetings/" + id + "?version=0&send=false", null).is(200);
    assertTrue(get(WARDEN, "/api/meetings/cancelled").body().contains(id));
    JsonNode story = get(WARDEN, "/api/meetings/" + id + "/history").is(200).json();
    assertTrue(story.get("cancelled").booleanValue());
    long version = story.get("entries").get(1).get("restorable").longValue();
    post(WARDEN, "/api/meetings/" + id + "/restore?version=" + version, "").is(200);
    assertEquals(
        get(WARDEN, "/api/meetings/" + id + "/passcode").json().get("passcode").stringValue(),
        "kelp-Rudder-basin-43");
    assertFalse(get(WARDEN, "/api/meetings/cancelled").body().contains(id));
  }

  @Test
  public void theHistorySaysWhoChangedWhat() {
    String id = schedule(form("History"), false);
    Map<String, Object> changed = form("History, longer");
    changed.put("minutes", 90);
    send(SECOND_WARDEN, "PUT", "/api/meetings/" + id, save(changed, false)).is(200);
    JsonNode newest = get(WARDEN, "/api/meetings/" + id + "/history").json().get("entries").get(0);
    assertEquals(newest.get("by").stringValue(), SECOND_WARDEN);
    assertTrue(newest.get("differences").toString().contains("\"from\":\"45\",\"to\":\"90\""));
    assertFalse(newest.get("differences").toString().contains("sequence"), "nobody changes that");
    assertFalse(newest.toString().contains("passcode\""), "no secret in a history");
  }

  @Test
  public void ofManyWhoSaveAtOnceOneWins() throws Exception {
    String id = schedule(form("Contested"), false);
    ExecutorService pool = Executors.newFixedThreadPool(6);
    try {
      List<Callable<Integer>> saves = new ArrayList<>();
      for (int i = 0; i < 6; i++) {
        Map<String, Object> mine = form("Contested by " + i);
        saves.add(() -> send(WARDEN, "PUT", "/api/meetings/" + id, save(mine, false)).status());
      }
      List<Integer> statuses = new ArrayList<>();
      for (Future<Integer> done : pool.invokeAll(saves)) {
        statuses.add(done.get());
      }
      assertEquals(statuses.stream().filter(s -> s == 200).count(), 1, statuses.toString());
      assertEquals(statuses.stream().filter(s -> s == 409).count(), 5, statuses.toString());
    } finally {
      pool.shutdown();
    }
  }

  @Test
  public void looserIsRefusedForHostsAndAskedAboutOfAdministrators() {
    Map<String, Object> mine = form("Loose");
    mine.put("host", HOST);
    mine.put("controls", Map.of("waiting-room", "off"));
    Answer refused = post(HOST, "/api/meetings", save(mine, false)).is(422);
    assertTrue(refused.body().contains("/controls/waiting-room"), refused.body());
    assertTrue(refused.body().contains("waiver"), refused.body());
    Answer unsaid = post(WARDEN, "/api/meetings", save(mine, false)).is(422);
    assertTrue(unsaid.body().contains("Say why"), unsaid.body());
    Map<String, Object> reasoned = save(mine, false);
    reasoned.put("reason", "The lobby system is down today.");
    String id = post(WARDEN, "/api/meetings", reasoned).is(200).json().get("id").stringValue();
    assertTrue(
        get(WARDEN, "/api/meetings/" + id + "/history").body().contains("lobby system is down"));
    // the host may go on with what stands, and not loosen more
    Map<String, Object> renamed = new LinkedHashMap<>(mine);
    renamed.put("title", "Loose, renamed");
    renamed.put(
        "controls",
        get(HOST, "/api/meetings/" + id + "/form").json().get("meeting").get("controls"));
    send(HOST, "PUT", "/api/meetings/" + id, save(renamed, false)).is(200);
  }

  @Test
  public void aHostAsksForAWaiver() {
    Map<String, Object> mine = form("Waiver");
    mine.put("host", HOST);
    String id =
        post(HOST, "/api/meetings", save(mine, false)).is(200).json().get("id").stringValue();
    Map<String, Object> wish =
        Map.of("control", "waiting-room", "wanted", "off", "reason", "An open evening");
    JsonNode told = post(HOST, "/api/meetings/" + id + "/waiver-requests", wish).is(200).json();
    assertTrue(told.get("sent").intValue() >= 2, "every warden is written to");
    assertTrue(messages(id).toString().contains("An open evening"));
    assertEquals(
        get(WARDEN, "/api/meetings/" + id + "/waiver-requests")
            .json()
            .get(0)
            .get("wanted")
            .stringValue(),
        "off");
    post(WARDEN, "/api/meetings/" + id + "/waiver-requests", wish).is(403);
  }

  private int writtenOf(String meeting) {
    return get(WARDEN, "/api/meetings/" + meeting + "/waiver-requests").json().size();
  }

  @Test
  public void whatAHostHasAskedForIsNotAskedAgain() throws Exception {
    Map<String, Object> mine = form("Asked once");
    mine.put("host", HOST);
    String id =
        post(HOST, "/api/meetings", save(mine, false)).is(200).json().get("id").stringValue();
    String path = "/api/meetings/" + id + "/waiver-requests";
    Map<String, Object> wish =
        Map.of("control", "waiting-room", "wanted", "off", "reason", "An open evening");
    ExecutorService pool = Executors.newFixedThreadPool(6);
    List<Integer> answers = new ArrayList<>();
    try {
      Callable<Integer> asks = () -> post(HOST, path, wish).status();
      for (Future<Integer> each : pool.invokeAll(Collections.nCopies(6, asks))) {
        answers.add(each.get());
      }
    } finally {
      pool.shutdownNow();
    }
    Collections.sort(answers);
    assertEquals(answers, List.of(200, 409, 409, 409, 409, 409));
    assertEquals(writtenOf(id), 1);
    int sent = messages(id).size();
    Map<String, Object> again =
        Map.of("control", "waiting-room", "wanted", "off", "reason", "In other words");
    Answer told = post(HOST, path, again).is(409);
    assertTrue(told.body().contains("waits for an answer. Nothing was sent again."), told.body());
    assertEquals(messages(id).size(), sent);
    // something else is another request
    post(HOST, path, Map.of("control", "chat", "wanted", "always", "reason", "To ask")).is(200);
    assertEquals(writtenOf(id), 2);
    // and once it is answered, it can be asked for again
    String asked = get(WARDEN, path).json().get(1).get("id").toString();
    post(
            WARDEN,
            "/api/host-requests/waivers/" + asked + "/answer",
            Map.of("granted", false, "answer", "Not this evening"))
        .is(200);
    post(HOST, path, again).is(200);
  }

  @Test
  public void aHostHasFiftyRequestsUnderWayAtMost() {
    Map<String, Object> mine = form("Asked much");
    mine.put("host", HOST);
    String id =
        post(HOST, "/api/meetings", save(mine, false)).is(200).json().get("id").stringValue();
    String path = "/api/meetings/" + id + "/waiver-requests";
    int minutes = 1;
    int status = 200;
    while (status == 200 && minutes < 100) {
      status =
          post(
                  HOST,
                  path,
                  Map.of("control", "early-entry", "wanted", minutes++, "reason", "Earlier"))
              .status();
    }
    assertEquals(status, 409);
    // those of other tests wait as well
    assertTrue(writtenOf(id) > 30 && writtenOf(id) <= 50, writtenOf(id) + " requests");
    get(WARDEN, path)
        .json()
        .forEach(
            each ->
                post(
                        WARDEN,
                        "/api/host-requests/waivers/" + each.get("id") + "/answer",
                        Map.of("granted", false, "answer", "No"))
                    .is(200));
  }

  @Test
  public void aHostNeitherLearnsNorTakesAnothersNumber() {
    Map<String, Object> theirs = form("Reusable");
    theirs.put("number", "777 111 222");
    theirs.put("controls", Map.of("meeting-number", "reusable"));
    schedule(theirs, false);
    Map<String, Object> draft = Map.of("meeting", theirs);
    assertTrue(post(WARDEN, "/api/scheduling/foretaste", draft).body().contains("\"777 111 222\""));
    JsonNode told = post(HOST, "/api/scheduling/foretaste", draft).is(200).json();
    assertEquals(told.get("numbers").size(), 0, told.toString());
    Map<String, Object> mine = form("Taken");
    mine.put("host", HOST);
    mine.put("number", "777 111 222");
    assertTrue(post(HOST, "/api/meetings", save(mine, false)).is(422).body().contains("/number"));
    mine.put("number", "777 111 223");
    post(HOST, "/api/meetings", save(mine, false)).is(200);
  }

  @Test
  public void hostsScheduleForThemselves() {
    post(HOST, "/api/meetings", save(form("Somebody else's"), false)).is(403);
    get(HOST, "/api/meetings/m-0002/form").is(404);
    send(HOST, "PUT", "/api/meetings/m-0002", save(form("x"), false)).is(404);
    send(HOST, "DELETE", "/api/meetings/m-0002?version=0", null).is(404);
    get(HOST, "/api/meetings/m-0002/history").is(404);
  }

  @Test
  public void theForetasteSaysWhatDoesNothingAndWhatMendsIt() {
    Map<String, Object> form = form("Foretaste");
    form.put("kind", "hearing");
    form.put("controls", Map.of("attendee-microphone", "off", "presenter-role", "everyone"));
    JsonNode answer =
        post(
                WARDEN,
                "/api/scheduling/foretaste",
                Map.of("meeting", form, "control", "attendee-microphone"))
            .is(200)
            .json();
    JsonNode idle = null;
    for (JsonNode each : answer.get("idle")) {
      idle = each.get("control").stringValue().equals("attendee-microphone") ? each : idle;
    }
    assertEquals(idle.get("by").get(0).get("control").stringValue(), "presenter-role");
    Object to = json.treeToValue(idle.get("by").get(0).get("to"), Object.class);
    form.put("controls", Map.of("attendee-microphone", "off", "presenter-role", to));
    JsonNode mended =
        post(WARDEN, "/api/scheduling/foretaste", Map.of("meeting", form)).is(200).json();
    assertFalse(mended.get("idle").toString().contains("attendee-microphone"), mended.toString());
    assertEquals(mended.get("beyond").size(), 0, "and is what the rule allows");
  }

  @Test
  public void aFormWithFaultsIsAnsweredWithThemAndTheRest() {
    Map<String, Object> form = form("");
    form.put("zone", "Atlantis/Main");
    form.put("controls", Map.of("waiting-room", "off"));
    JsonNode answer =
        post(WARDEN, "/api/scheduling/foretaste", Map.of("meeting", form)).is(200).json();
    assertTrue(answer.get("faults").toString().contains("/title"), answer.toString());
    assertTrue(answer.get("exposure").get("score").doubleValue() >= 0);
    form.put("title", "Now with one");
    JsonNode next =
        post(WARDEN, "/api/scheduling/foretaste", Map.of("meeting", form)).is(200).json();
    assertTrue(next.get("faults").toString().contains("/zone"), next.toString());
    assertTrue(next.get("beyond").toString().contains("waiting-room"), "the rest is judged");
  }

  @Test
  public void anAnswerIsTakenOutdatedOrAStrangers() {
    String id = schedule(form("Answers"), true);
    JsonNode taken = feed(reply(id, GUEST, "ACCEPTED", 0));
    assertEquals(taken.get(0).get("outcome").stringValue(), "taken");
    assertTrue(get(WARDEN, "/api/meetings/" + id + "/answers").body().contains("\"accepted\""));
    assertEquals(
        feed(reply(id, "stranger@far.example", "ACCEPTED", 0)).get(0).get("outcome").stringValue(),
        "not-invited");
    Map<String, Object> moved = form("Answers");
    moved.put("start", day + "T12:00");
    send(WARDEN, "PUT", "/api/meetings/" + id, save(moved, true)).is(200);
    assertTrue(
        get(WARDEN, "/api/meetings/" + id + "/answers").body().contains("\"sent\""),
        "another time asks anew");
    assertEquals(
        feed(reply(id, GUEST, "DECLINED", 0)).get(0).get("outcome").stringValue(), "outdated");
    assertEquals(
        feed("From: x@y.example\r\nContent-Type: multipart/mixed; boundary=b\r\n\r\n--b\r\n"
                + "Content-Type: text/calendar; method=REPLY\r\n\r\n"
                + reply(id, MAYOR, "DECLINED", 1)
                + "\r\n--b--\r\n")
            .get(0)
            .get("outcome")
            .stringValue(),
        "taken");
    sendRaw(WARDEN, "/api/scheduling/answers", "hello").is(400);
  }

  private static String reply(String meeting, String who, String state, int sequence) {
    return """
        BEGIN:VCALENDAR
        VERSION:2.0
        PRODID:-//t//EN
        METHOD:REPLY
        BEGIN:VEVENT
        UID:%s@upright-warden
        SEQUENCE:%d
        DTSTAMP:20270101T000000Z
        ATTENDEE;CN="<script>alert(1)</script>";PARTSTAT=%s:mailto:%s
        END:VEVENT
        END:VCALENDAR
        """
        .formatted(meeting, sequence, state, who)
        .replace("\n", "\r\n");
  }

  private JsonNode feed(String text) {
    return sendRaw(WARDEN, "/api/scheduling/answers", text).is(200).json();
  }

  @Test
  public void openingsAreFreeForAllWhoMustCome() {
    String id = schedule(form("Takes the morning"), false);
    Map<String, Object> asked = new LinkedHashMap<>();
    asked.put("required", List.of(WARDEN, GUEST));
    asked.put("optional", List.of(MAYOR));
    asked.put("lists", List.of());
    asked.put("rooms", List.of());
    asked.put("from", day);
    asked.put("days", 14);
    asked.put("minutes", 30);
    asked.put("zone", "Europe/Dublin");
    asked.put("opens", "00:00");
    asked.put("closes", "00:00");
    JsonNode answer = post(WARDEN, "/api/scheduling/availability", asked).is(200).json();
    assertTrue(answer.get("zones").toString().contains("Asia/Tokyo"), "the guest's own clock");
    assertTrue(answer.get("openings").size() > 0, answer.toString());
    for (JsonNode opening : answer.get("openings")) {
      for (JsonNode strip : answer.get("strips")) {
        for (JsonNode busy : strip.get("busy")) {
          boolean apart =
              opening.get("end").stringValue().compareTo(busy.get("start").stringValue()) <= 0
                  || busy.get("end").stringValue().compareTo(opening.get("start").stringValue())
                      <= 0;
          assertTrue(
              apart || strip.get("need").stringValue().equals("optional"), opening + " " + busy);
        }
      }
    }
    assertTrue(answer.toString().contains("Takes the morning"));
    assertFalse(
        post(HOST, "/api/scheduling/availability", asked)
            .is(200)
            .body()
            .contains("Takes the morning"),
        "a host sees when others are busy, not with what");
    asked.put("without", id);
    assertFalse(
        post(WARDEN, "/api/scheduling/availability", asked).body().contains("Takes the morning"));
  }

  @Test
  public void severalAtOnceOrNone() {
    String one = schedule(form("Many one"), false);
    String two = schedule(form("Many two"), false);
    Map<String, Object> act = new LinkedHashMap<>();
    act.put("ids", List.of(one, two));
    act.put("act", "control");
    act.put("control", "chat");
    act.put("value", "off");
    assertEquals(
        post(WARDEN, "/api/meetings/many", act).is(200).json().get("meetings").intValue(), 2);
    act.put("ids", List.of(one, "m-nowhere"));
    act.put("value", "hosts-post");
    post(WARDEN, "/api/meetings/many", act).is(409);
    assertEquals(
        get(WARDEN, "/api/meetings/" + one).json().get("controls").get("chat").stringValue(),
        "off",
        "none where one cannot");
    act.put("ids", List.of(one, two));
    act.put("act", "hand-over");
    act.put("to", HOST);
    post(WARDEN, "/api/meetings/many", act).is(200);
    assertEquals(get(HOST, "/api/meetings/" + two).is(200).json().get("host").stringValue(), HOST);
    act.put("act", "cancel");
    post(WARDEN, "/api/meetings/many", act).is(200);
    get(WARDEN, "/api/meetings/" + one).is(404);
  }

  @Test
  public void somebodyLeavesAndTheirMeetingsAreHandedOver() {
    String leaver = "e.tracey@saltmarsh.example";
    JsonNode before = get(WARDEN, "/api/people/" + leaver + "/page").is(200).json();
    int hosted = before.get("hosts").intValue();
    assertTrue(hosted > 0 && !before.get("active").booleanValue(), before.toString());
    Map<String, Object> to = Map.of("to", "m.zielinska@saltmarsh.example");
    post(WARDEN, "/api/people/" + leaver + "/hand-over", Map.of("to", leaver)).is(422);
    assertEquals(
        post(WARDEN, "/api/people/" + leaver + "/hand-over", to)
            .is(200)
            .json()
            .get("meetings")
            .intValue(),
        hosted);
    assertEquals(get(WARDEN, "/api/people/" + leaver + "/page").json().get("hosts").intValue(), 0);
  }

  /** Asks for what has no such tag (RFC 9110, section 13.1.2). */
  private HttpResponse<String> asked(String path, String tag) {
    HttpRequest.Builder request =
        HttpRequest.newBuilder(URI.create("http://127.0.0.1:" + port + path));
    if (!tag.isEmpty()) {
      request.header("If-None-Match", tag);
    }
    return response(request.build());
  }

  @Test
  public void aFeedIsReadByItsAddressAlone() {
    Map<String, Object> form = form("In the feed");
    form.put("passcode", "kelp-Rudder-basin-44");
    schedule(form, false);
    Map<String, Object> wish = Map.of("name", "Mine", "person", WARDEN);
    JsonNode made = post(WARDEN, "/api/feeds", wish).is(200).json();
    Answer feed = get(null, made.get("path").stringValue()).is(200);
    assertTrue(feed.body().contains("SUMMARY:In the feed"), feed.body());
    assertFalse(feed.body().contains("Rudder"));
    assertFalse(feed.body().contains(GUEST));
    String path = made.get("path").stringValue();
    String tag = asked(path, "").headers().firstValue("ETag").orElseThrow();
    assertEquals(asked(path, tag).statusCode(), 304);
    schedule(form("In the feed, too"), false);
    assertEquals(asked(path, tag).statusCode(), 200, "another meeting is another calendar");
    post(HOST, "/api/feeds", wish).is(403);
    send(HOST, "DELETE", "/api/feeds/" + made.get("id").longValue(), null).is(404);
    send(WARDEN, "DELETE", "/api/feeds/" + made.get("id").longValue(), null).is(204);
    get(null, made.get("path").stringValue()).is(404);
    get(null, "/feeds/AAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAA.ics").is(404);
  }

  @Test
  public void theTableSortsBothWaysAndTheWeekHoldsItsOccurrences() {
    List<String> up = titles("title");
    List<String> down = titles("-title");
    assertNotEquals(up, down);
    assertEquals(up.get(0).compareToIgnoreCase(up.get(1)) <= 0, true);
    JsonNode week =
        get(WARDEN, "/api/meetings/week?from=" + day + "T00:00:00Z&to=" + day + "T23:59:00Z")
            .is(200)
            .json();
    for (JsonNode on : week.get("items")) {
      assertTrue(on.get("start").stringValue().compareTo(day + "T23:59:00Z") < 0);
      assertTrue(on.get("end").stringValue().compareTo(day + "T00:00:00Z") > 0);
    }
    get(WARDEN, "/api/meetings/week?from=2027-01-01T00:00:00Z&to=2028-01-01T00:00:00Z").is(422);
  }

  private List<String> titles(String sort) {
    List<String> titles = new ArrayList<>();
    get(WARDEN, "/api/meetings?size=500&sort=" + sort)
        .is(200)
        .json()
        .get("items")
        .forEach(line -> titles.add(line.get("title").stringValue()));
    return titles;
  }

  @Test
  public void aDirectoryIsKept() {
    String email = "n.ew@saltmarsh.example";
    Map<String, Object> person = new LinkedHashMap<>();
    person.put("name", "Nora Ewart");
    person.put("standing", "member");
    person.put("unit", "pilotage");
    person.put("active", true);
    person.put("zone", "Europe/Lisbon");
    send(WARDEN, "PUT", "/api/people/" + email, person).is(200);
    person.put("unit", "nowhere");
    person.put("zone", "Atlantis/Main");
    Answer faults = send(WARDEN, "PUT", "/api/people/" + email, person).is(422);
    assertTrue(faults.body().contains("/unit") && faults.body().contains("/zone"), faults.body());
    assertTrue(get(HOST, "/api/people?text=ewart").body().contains("Europe/Lisbon"));
    Map<String, Object> list = Map.of("name", "Test list", "members", List.of(email));
    send(WARDEN, "PUT", "/api/people/groups/lists/test-list", list).is(200);
    Map<String, Object> form = form("To a list");
    form.put("lists", List.of("test-list"));
    String id = schedule(form, true);
    assertEquals(messages(id).size(), 3, "who is on the list is written to");
    send(WARDEN, "DELETE", "/api/people/groups/lists/test-list", null).is(409);
    send(WARDEN, "DELETE", "/api/meetings/" + id + "?version=0&send=false", null).is(200);
    send(WARDEN, "DELETE", "/api/people/groups/lists/test-list", null).is(204);
  }

  /** Messages are found by whom they went to, what they are called, how they stand and when. */
  @Test
  public void messagesAreFound() {
    JsonNode all = get(WARDEN, "/api/outbox").is(200).json();
    assertTrue(all.size() > 2, all.toString());
    String to = all.get(0).get("to").asString();
    String at = all.get(0).get("at").asString();
    String part = to.substring(0, to.indexOf('@')).toUpperCase(Locale.ROOT);
    for (JsonNode each : found("text=" + part)) {
      String of = each.get("to").asString() + " " + each.get("subject").asString();
      assertTrue(of.toUpperCase(Locale.ROOT).contains(part), of);
    }
    assertTrue(found("text=" + part).size() > 0);
    assertEquals(found("text=no%25such%25words").size(), 0, "a percent sign is one");
    assertEquals(found("state=kept").size(), all.size(), "nothing is sent from here");
    assertEquals(found("state=failed").size(), 0);
    assertTrue(found("from=" + at).size() > 0, "the first instant is in it");
    assertEquals(found("to=" + at).size() + found("from=" + at).size(), all.size());
    get(WARDEN, "/api/outbox?state=lost").is(422);
    get(WARDEN, "/api/outbox?text=" + "x".repeat(201)).is(422);
  }

  /** In every list: neither case nor accents matter. */
  @Test
  public void wordsAreFoundAsPeopleReadThem() {
    String id = schedule(form("Réunion du Brise-Lames"), true);
    for (String words : List.of("reunion%20du%20brise", "R%C3%89UNION%20DU%20BRISE")) {
      assertEquals(found("about=meeting:" + id + "&text=" + words).size(), messages(id).size());
      assertTrue(get(AUDITOR, "/api/ledger?text=" + words).is(200).body().contains(id), words);
      assertTrue(get(WARDEN, "/api/meetings?text=" + words).is(200).body().contains(id), words);
      until(
          "it is on the wall",
          () ->
              get(WARDEN, "/api/audits/0/wall?show=all&text=" + words).is(200).body().contains(id));
    }
    assertEquals(found("about=meeting:" + id + "&text=reunion_du").size(), 0);
    send(WARDEN, "DELETE", "/api/meetings/" + id + "?version=0&send=false", null).is(200);
  }

  private JsonNode found(String query) {
    return get(WARDEN, "/api/outbox?" + query).is(200).json();
  }
}
