package app.uprightwarden.core.audit;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.exposure.Effects;
import app.uprightwarden.core.exposure.Explanation;
import app.uprightwarden.core.exposure.Matrix;
import app.uprightwarden.core.meeting.Invitee;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.meeting.OccurrenceChange;
import app.uprightwarden.core.meeting.PasscodeFacts;
import app.uprightwarden.core.meeting.Reach;
import app.uprightwarden.core.passcode.PasscodeJudge;
import app.uprightwarden.core.people.Directory;
import app.uprightwarden.core.people.Person;
import app.uprightwarden.core.people.Persona;
import app.uprightwarden.core.people.Right;
import app.uprightwarden.core.people.Standing;
import app.uprightwarden.core.rulebook.Layer;
import app.uprightwarden.core.rulebook.Level;
import app.uprightwarden.core.rulebook.ResolvedRulebook;
import app.uprightwarden.core.rulebook.Rule;
import app.uprightwarden.core.rulebook.Rulebook;
import app.uprightwarden.core.rulebook.Scope;
import app.uprightwarden.core.service.Held;
import app.uprightwarden.core.service.Means;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import org.testng.annotations.Test;

/**
 * The checks, one by one, and facts of the trade: common practice among those who run meetings,
 * with no source to cite.
 */
public class ChecksTest {
  private static final String HOST = "h@saltmarsh.example";
  private static final String MEMBER = "m@saltmarsh.example";
  private static final String OUTSIDER = "o@elsewhere.example";

  private static final Directory DIRECTORY =
      new Directory(
          List.of(
              new Person(HOST, "Host", Standing.MEMBER, null, true),
              new Person(MEMBER, "Member", Standing.MEMBER, null, true),
              new Person("gone@saltmarsh.example", "Gone", Standing.MEMBER, null, false),
              new Person("g@tugs.example", "Guest", Standing.GUEST, null, true)),
          List.of("coast.example"),
          Map.of(),
          Map.of("list:crew", List.of(MEMBER, "a@x.example", "b@x.example")));

  /** A meeting in the making; what is not said is empty. */
  private static final class Draft {
    private String id = "m";
    private String kind = null;
    private String host = HOST;
    private List<String> coHosts = List.of();
    private List<String> presenters = List.of();
    private List<String> invitees = List.of();
    private List<String> lists = List.of();
    private int minutes = 60;
    private String recurrence = null;
    private String number = null;
    private String passcode = null;
    private String description = "";
    private ControlValues controls = ControlValues.NONE;
    private final List<OccurrenceChange> changes = new ArrayList<>();
    private Held held = null;

    Draft set(String control, Object value) {
      Control of = Control.byId(control);
      controls = controls.with(of, of.parse(value));
      return this;
    }

    MeetingFacts facts(Rulebook rulebook) {
      PasscodeFacts judged =
          passcode == null
              ? null
              : PasscodeJudge.judge(passcode, "Tide talk", description, host, passcode);
      Meeting meeting =
          new Meeting(
              id,
              "Tide talk",
              description,
              kind,
              host,
              coHosts,
              presenters,
              invitees.stream().map(e -> new Invitee(e, Invitee.Need.REQUIRED)).toList(),
              lists,
              null,
              LocalDateTime.of(2027, 1, 11, 9, 0),
              ZoneId.of("UTC"),
              minutes,
              recurrence,
              List.of(),
              List.of(),
              number,
              judged,
              controls,
              changes);
      return new FactsBuilder(DIRECTORY, rulebook, Set.of("inquiry"), new MeetingFacts.Plan(3, 120))
          .build(meeting, held);
    }
  }

  private static Set<String> found(Draft draft, Rulebook rulebook) {
    Set<String> found = new TreeSet<>();
    new Auditor()
        .audit(
            draft.facts(rulebook),
            (meeting, occurrence, detail) -> {
              assertFalse(detail.text().isBlank());
              found.add(
                  detail.check().id()
                      + " "
                      + detail.subject()
                      + " "
                      + detail.severity()
                      + (occurrence == null ? "" : " on " + occurrence));
            });
    return found;
  }

  private static Set<String> found(Draft draft) {
    return found(draft, Rulebook.EMPTY);
  }

  private static Rulebook rules(Rule... rules) {
    return new Rulebook(List.of(new Layer(Scope.ORGANISATION, List.of(rules), List.of())));
  }

  @Test
  public void aCleanMeetingHasNoFindings() {
    Draft draft = new Draft();
    draft.passcode = "kelp-Rudder-41";
    draft.invitees = List.of(MEMBER);
    assertEquals(found(draft), Set.of());
  }

  @Test
  public void peopleWhoShouldNotBeWhatTheyAre() {
    Draft draft = new Draft();
    draft.coHosts = List.of("x@coast.example");
    draft.presenters = List.of("stray@x.example", MEMBER);
    draft.invitees = List.of(MEMBER);
    assertEquals(found(draft), Set.of("co-host-not-member  3", "presenter-not-invited  2"));

    Draft named = new Draft().set("presenter-role", "named");
    assertEquals(found(named), Set.of("no-presenter  1"));

    for (String gone : List.of("gone@saltmarsh.example", "never@saltmarsh.example")) {
      Draft hosted = new Draft();
      hosted.host = gone;
      assertEquals(found(hosted), Set.of("host-gone  4"));
    }
  }

  @Test
  public void anInquiryIsForThoseTheDirectoryKnows() {
    Draft draft = new Draft();
    draft.kind = "inquiry";
    draft.invitees = List.of(MEMBER, "g@tugs.example", OUTSIDER);
    assertEquals(found(draft), Set.of("outsider-invited  3"));
    draft.kind = "hearing";
    assertEquals(found(draft), Set.of());
  }

  /** Common practice: a name on a distribution list is not a named invitee. */
  @Test
  public void whoIsOnAListWaits() {
    Draft draft = new Draft().set("waiting-room", "on").set("lobby-bypass", "named");
    draft.lists = List.of("crew");
    assertEquals(found(draft), Set.of("list-waits  1"));
    draft.invitees = List.of(MEMBER, "a@x.example", "b@x.example");
    assertEquals(found(draft), Set.of(), "all of them are named as well");
  }

  /** Common practice: early entry does nothing while everyone is held. */
  @Test
  public void earlyEntryIsIdleWhileEveryoneIsHeld() {
    Draft draft =
        new Draft()
            .set("waiting-room", "on")
            .set("lobby-bypass", "hosts")
            .set("phone-bypass", "waits")
            .set("early-entry", 15);
    assertEquals(found(draft), Set.of("early-entry-idle  1"));
    assertEquals(found(draft.set("phone-bypass", "straight-in")), Set.of(), "a caller passes");
    assertEquals(
        found(draft.set("audio-routes", List.of("computer"))),
        Set.of("early-entry-idle  1"),
        "but not where nobody may call");
    assertEquals(found(draft.set("early-entry", 0)), Set.of());
  }

  /** Common practice: microphones off does nothing where everyone presents. */
  @Test
  public void microphonesOffDoesNothingWhereEveryonePresents() {
    ControlValues values =
        new Draft().set("presenter-role", "everyone").set("attendee-microphone", "off").controls;
    assertTrue(Effects.dead(values, Control.ATTENDEE_MICROPHONE));
    assertEquals(
        Effects.defeatedBy(values, Control.ATTENDEE_MICROPHONE), List.of(Control.PRESENTER_ROLE));
    Draft draft = new Draft().set("presenter-role", "everyone").set("attendee-microphone", "off");
    Rulebook rulebook =
        rules(
            Rule.bound(
                Control.ATTENDEE_MICROPHONE,
                Control.ATTENDEE_MICROPHONE.parse("off"),
                Control.ATTENDEE_MICROPHONE.parse("off"),
                false,
                3,
                ""));
    assertEquals(
        found(draft, rulebook), Set.of("no-effect attendee-microphone 4"), "3, and 1 for exposure");
  }

  /** Common practice: a forwarded invitation counts as invited unless forwarding is blocked. */
  @Test
  public void aForwardedInvitationCountsUnlessBlocked() {
    Draft draft = new Draft().set("waiting-room", "on").set("lobby-bypass", "named");
    assertTrue(Matrix.of(draft.controls).entry(Persona.FORWARDED).compareTo(Level.FREE) >= 0);
    draft.set("forwarding", "blocked");
    assertEquals(Matrix.of(draft.controls).entry(Persona.FORWARDED), Level.PEER_LETS_IN);
  }

  /** Common practice: what was scheduled before a default changes keeps its values. */
  @Test
  public void whatWasScheduledBeforeKeepsItsValues() {
    Rulebook before = rules(Rule.suggest(Control.CHAT, Control.CHAT.parse("always"), 2, ""));
    Rulebook after =
        rules(
            Rule.bound(
                Control.CHAT, Control.CHAT.parse("off"), Control.CHAT.parse("off"), false, 2, ""));
    Draft draft = new Draft();
    draft.controls = ResolvedRulebook.of(before.layers()).starts();
    assertEquals(found(draft, before), Set.of());
    assertEquals(found(draft, after), Set.of("beyond-limit chat 3"));
  }

  /** Every level can say how it came about, and says nothing else than the matrix. */
  @Test
  public void everyLevelIsExplained() {
    ControlValues values =
        new Draft()
            .set("waiting-room", "on")
            .set("lobby-bypass", "named")
            .set("passcode", "required")
            .set("presenter-role", "hosts")
            .set("joiner-mode", "onlooker")
            .controls;
    for (Persona persona : Persona.all()) {
      for (Right right : Right.all()) {
        Explanation explanation = Explanation.of(values, persona, right);
        assertEquals(explanation.level(), Matrix.of(values).level(persona, right));
        assertTrue(explanation.words().startsWith("Someone who "), explanation.words());
        boolean never = explanation.level() == Level.NEVER;
        assertEquals(!explanation.words().contains(" can "), never, explanation.words());
      }
    }
  }

  @Test
  public void passcodesAndTheirPlaces() {
    Draft draft = new Draft();
    draft.passcode = "1234";
    assertEquals(found(draft), Set.of("weak-passcode  3"));
    draft.passcode = "kelp-Rudder-41";
    draft.description = "Use kelp-Rudder-41";
    assertEquals(found(draft), Set.of("leaked-passcode  2"));
    assertEquals(found(draft.set("listing", "public")), Set.of("leaked-passcode  4"));
  }

  @Test
  public void sizesAndEnds() {
    Draft draft = new Draft();
    draft.minutes = 121;
    draft.recurrence = "FREQ=WEEKLY";
    draft.lists = List.of("crew");
    draft.invitees = List.of(OUTSIDER, MEMBER);
    assertEquals(found(draft), Set.of("over-length  2", "endless-series  2", "over-capacity  2"));
    draft.minutes = 120;
    draft.recurrence = "FREQ=WEEKLY;COUNT=3";
    draft.invitees = List.of(MEMBER);
    assertEquals(found(draft), Set.of(), "each person counts once");
  }

  @Test
  public void anOccurrenceThatDiffersIsNamed() {
    Draft draft = new Draft().set("waiting-room", "on");
    LocalDateTime second = LocalDateTime.of(2027, 1, 18, 9, 0);
    Control room = Control.WAITING_ROOM;
    draft.changes.add(
        new OccurrenceChange(second, null, null, ControlValues.NONE.with(room, room.parse("off"))));
    Rulebook rulebook = rules(Rule.fix(room, room.parse("on"), false, 3, ""));
    assertEquals(
        found(draft, rulebook),
        Set.of(
            "no-effect waiting-room 4", // nobody is asked for anything, and anyone walks past it
            "beyond-limit waiting-room 4 on " + second));
  }

  /** Findings are the same ones in two audits, whatever else has changed. */
  @Test
  public void identitySurvivesUnrelatedChanges() {
    Control room = Control.WAITING_ROOM;
    Rulebook rulebook = rules(Rule.fix(room, room.parse("on"), false, 3, ""));
    Draft draft = new Draft().set("waiting-room", "off");
    Set<String> before = identities(draft, rulebook);
    draft.set("chat", "off").set("recording", "off").set("sign-in", "known-account");
    draft.invitees = List.of(OUTSIDER);
    assertEquals(identities(draft, rulebook), before);
    assertEquals(before, Set.of("m||beyond-limit|waiting-room"));
  }

  private static Set<String> identities(Draft draft, Rulebook rulebook) {
    Set<String> identities = new TreeSet<>();
    new Auditor()
        .audit(
            draft.facts(rulebook),
            (meeting, occurrence, detail) ->
                identities.add(new Finding(meeting, occurrence, detail).identity()));
    return identities;
  }

  private static Map<String, Integer> together(Collection<Draft> drafts, int[]... times) {
    Register register = new Register();
    List<String> ids = new ArrayList<>();
    int i = 0;
    for (Draft draft : drafts) {
      int[] at = times[i++];
      ids.add(draft.id);
      register.add(draft.facts(Rulebook.EMPTY), new int[] {at[0]}, new int[] {at[1]});
    }
    Map<String, Integer> found = new HashMap<>();
    new Auditor()
        .auditTogether(
            register,
            (meeting, detail) ->
                found.merge(detail.check().id() + " " + ids.get(meeting), 1, Integer::sum));
    return found;
  }

  private static Draft draft(String id) {
    Draft draft = new Draft();
    draft.id = id;
    return draft;
  }

  @Test
  public void meetingsThatGetInEachOthersWay() {
    Draft a = draft("a");
    Draft b = draft("b");
    a.number = b.number = "1";
    b.host = MEMBER;
    assertEquals(
        together(List.of(a, b), new int[] {0, 60}, new int[] {74, 90}),
        Map.of("number-spillover b", 1));
    assertEquals(together(List.of(a, b), new int[] {0, 60}, new int[] {75, 90}), Map.of());
    b.set("meeting-number", "one-off");
    assertEquals(together(List.of(a, b), new int[] {0, 60}, new int[] {60, 90}), Map.of());

    b.host = HOST;
    b.set("early-entry", 0);
    assertEquals(
        together(List.of(a, b), new int[] {0, 60}, new int[] {30, 90}),
        Map.of("host-double-booked a", 1),
        "b lets nobody in before its host");
    a.coHosts = List.of(MEMBER);
    assertEquals(together(List.of(a, b), new int[] {0, 60}, new int[] {30, 90}), Map.of());

    a.passcode = b.passcode = "kelp-Rudder-41";
    assertEquals(
        together(List.of(a, b), new int[] {0, 60}, new int[] {100, 160}),
        Map.of("reused-passcode a", 1, "reused-passcode b", 1));
  }

  @Test
  public void reachComparesNamesByWhomTheyLetThrough() {
    Control lobby = Control.LOBBY_BYPASS;
    Reach members =
        Reach.of(HOST, List.of(), List.of(), List.of(invitee(MEMBER), invitee(HOST)), DIRECTORY);
    Reach mixed =
        Reach.of(
            HOST, List.of(), List.of(), List.of(invitee(MEMBER), invitee(OUTSIDER)), DIRECTORY);
    Reach nobody = Reach.of(HOST, List.of(), List.of(), List.of(invitee(HOST)), DIRECTORY);
    assertTrue(members.within(lobby, lobby.parse("named"), lobby.parse("members"), true));
    assertFalse(members.within(lobby, lobby.parse("named"), lobby.parse("members"), false));
    assertFalse(mixed.within(lobby, lobby.parse("named"), lobby.parse("partners"), true));
    assertTrue(mixed.within(lobby, lobby.parse("named"), lobby.parse("anyone"), false));
    assertTrue(nobody.within(lobby, lobby.parse("named"), lobby.parse("hosts"), true));
    assertFalse(members.within(lobby, lobby.parse("named"), lobby.parse("hosts"), true));
    Control role = Control.PRESENTER_ROLE;
    Reach presents = Reach.of(HOST, List.of(), List.of(HOST, MEMBER), List.of(), DIRECTORY);
    assertTrue(presents.within(role, role.parse("named"), role.parse("members"), false));
    assertFalse(presents.within(role, role.parse("named"), role.parse("hosts"), false));
  }

  private static Held held(Held.Difference... differences) {
    Means.Holds all =
        new Means.Holds(null, Map.of(), Set.of(Means.Place.MEETING), Set.of(Means.Place.MEETING));
    return new Held(
        "Curlew",
        new Means(Map.of(Control.WAITING_ROOM, all, Control.CHAT, all)),
        List.of(differences));
  }

  private static Held.Difference difference(
      String control, Object decided, Object holds, Held.Cause cause, String why) {
    Control of = Control.byId(control);
    return new Held.Difference(
        null,
        of,
        of.parse(decided),
        holds == null ? null : of.parse(holds),
        cause,
        "k.rosen@saltmarsh.example",
        Instant.parse("2027-01-04T09:12:00Z"),
        why);
  }

  private static String text(Draft draft, String check) {
    List<String> texts = new ArrayList<>();
    new Auditor()
        .audit(
            draft.facts(Rulebook.EMPTY),
            (meeting, occurrence, detail) -> {
              if (detail.check().id().equals(check)) {
                texts.add(detail.text());
              }
            });
    return String.join("\n", texts);
  }

  @Test
  public void whatAServiceHoldsLooserThanDecidedIsFound() {
    Draft draft = new Draft();
    draft.held =
        held(
            difference("waiting-room", "on", "off", Held.Cause.CHANGED_THERE, ""),
            difference("chat", "always", "off", Held.Cause.CHANGED_THERE, "stricter is no harm"));
    assertEquals(only(draft, "changed-there"), Set.of("changed-there waiting-room 3"));
    assertEquals(
        text(draft, "changed-there"),
        "Curlew holds Waiting room as “off”; “on” was decided. k.rosen@saltmarsh.example changed it"
            + " there on 4 January 2027, 09:12 UTC.");
    Control control = Control.WAITING_ROOM;
    Rulebook rulebook = rules(Rule.fix(control, control.parse("on"), false, 2, ""));
    assertTrue(found(draft, rulebook).contains("changed-there waiting-room 2"), "as the rule says");
  }

  @Test
  public void whatIsUnderWayIsNoFinding() {
    Draft draft = new Draft();
    draft.held = held(difference("waiting-room", "on", "off", Held.Cause.UNDER_WAY, ""));
    assertEquals(only(draft, "changed-there"), Set.of());
    assertEquals(only(draft, "not-taken"), Set.of());
  }

  @Test
  public void whatIsNotTakenIsFoundWithTheReason() {
    Draft draft = new Draft();
    draft.held =
        held(
            difference("waiting-room", "on", "off", Held.Cause.REFUSED, "it is locked there"),
            difference("chat", "off", null, Held.Cause.LATE, ""));
    assertEquals(only(draft, "not-taken"), Set.of("not-taken waiting-room 3", "not-taken chat 3"));
    assertEquals(
        text(draft, "not-taken"),
        "Curlew holds Waiting room as “off”; “on” was decided. It is locked there.\n"
            + "Curlew holds Chat as “not known”; “off” was decided. It has not been confirmed yet.");
  }

  @Test
  public void aRuleThatTheServiceCannotKeepIsFound() {
    Control control = Control.PHONE_BYPASS;
    Rulebook rulebook = rules(Rule.fix(control, control.parse("waits"), false, 2, ""));
    Draft draft = new Draft();
    assertFalse(found(draft, rulebook).contains("beyond-means phone-bypass 2"));
    draft.held = held();
    assertTrue(found(draft, rulebook).contains("beyond-means phone-bypass 2"));
    assertFalse(
        found(draft, rulebook).contains("not-evidenced phone-bypass 2"),
        "what a service has not is not unknown");
  }

  @Test
  public void aServiceThatWasNotReadForLongIsFoundAndGraverBeforeTheStart() {
    Draft draft = new Draft();
    Instant since = Instant.parse("2027-01-04T09:12:00Z");
    draft.held = new Held("Curlew", held().means(), List.of(), new Held.Unread(since, false));
    assertEquals(only(draft, "long-unread"), Set.of("long-unread  1"));
    draft.held = new Held("Curlew", held().means(), List.of(), new Held.Unread(since, true));
    assertEquals(only(draft, "long-unread"), Set.of("long-unread  3"));
    assertEquals(text(draft, "long-unread"), "Curlew was read last on 4 January 2027, 09:12 UTC.");
    draft.held = held();
    assertEquals(only(draft, "long-unread"), Set.of());
  }

  private static Set<String> only(Draft draft, String check) {
    Set<String> found = found(draft);
    found.removeIf(each -> !each.startsWith(check));
    return found;
  }

  private static Invitee invitee(String email) {
    return new Invitee(email, Invitee.Need.REQUIRED);
  }

  @Test
  public void everyCheckSaysAllThereIsToSay() {
    assertEquals(Auditor.catalogue().size(), 24);
    for (Check check : Auditor.catalogue()) {
      assertFalse(check.summary().isBlank());
      assertFalse(check.why().isBlank());
      assertFalse(check.mend().isBlank());
      assertTrue(check.baseSeverity() >= 0 && check.baseSeverity() <= 4);
    }
  }
}
