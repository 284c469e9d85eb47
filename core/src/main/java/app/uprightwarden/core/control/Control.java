package app.uprightwarden.core.control;

import static app.uprightwarden.core.control.Family.*;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * The table of controls: every security setting of a meeting, declared once. Each declares its
 * family, its scale (values loosest to strictest), whether it takes part in the exposure matrix,
 * its friction in a remedy, its title, what it does, and what a loose setting lets happen. Ladders,
 * forms, imports, schema, findings and help all derive from here. The order is the table's order.
 */
public enum Control {
  // spotless:off
  PASSCODE(Family.PASSCODE, ladder("none", "required"), true, 1, "Passcode",
      "Whether people type a passcode to come in", "Anybody who has the number comes in without a passcode."),
  PASSCODE_LENGTH(Family.PASSCODE, numbers("characters", null, true, 64, "none"), false, 1, "Passcode length",
      "How many characters the passcode has", "A short passcode can be guessed by trying."),
  PASSCODE_MAKEUP(Family.PASSCODE, ladder("digits:digits only", "letters-digits:letters and digits", "mixed:with a symbol"), false, 1, "Passcode makeup",
      "Which characters the passcode is made of", "A passcode of few kinds of characters can be guessed by trying."),
  PASSCODE_IN_LINK(Family.PASSCODE, ladder("embedded:in the link", "separate:apart from the link"), true, 1, "Passcode in link",
      "Whether the link opens the meeting without typing the passcode", "Anybody who finds the link has the passcode with it."),
  PASSCODE_IN_MAIL(Family.PASSCODE, ladder("shown:in the invitation", "left-out:left out"), true, 1, "Passcode in mail",
      "Whether the invitation shows the passcode", "A forwarded invitation carries the passcode."),

  WAITING_ROOM(Family.WAITING_ROOM, ladder("off", "on"), true, 2, "Waiting room",
      "Hold people at the door until let in", "Nobody is held at the door, so nobody looks at who comes in."),
  LOBBY_BYPASS(Family.WAITING_ROOM, ladder("anyone", "partners", "guests", "members", "named:by name", "hosts"), true, 2, "Lobby bypass",
      "Who walks past the waiting room", "More people walk past the waiting room than should."),
  PHONE_BYPASS(Family.WAITING_ROOM, ladder("straight-in:straight in", "waits:wait"), true, 1, "Phone bypass",
      "People who come by telephone", "A caller nobody can recognise is in at once."),
  EARLY_ENTRY(Family.WAITING_ROOM, numbers("minutes", "any-time:any time", false, 10080, "after a host"), true, 1, "Early entry",
      "How long before the start people are in without a host", "People are in the room before any host is there to see it."),
  DOOR_KEEPER(Family.WAITING_ROOM, ladder("anyone-inside:anyone inside", "presenters", "hosts"), true, 1, "Door keeper",
      "Who may let people in", "People nobody vetted can let strangers in."),

  SIGN_IN(ENTRY, ladder("none:not needed", "any-account:any account", "known-account:known account"), true, 3, "Sign-in",
      "Whether people sign in first, and where", "People come in without saying who they are."),
  REGISTRATION(ENTRY, ladder("none", "open", "approved"), true, 3, "Registration",
      "Whether people register, and are approved", "People who were never approved come in."),
  MEETING_NUMBER(ENTRY, ladder("reusable:reused", "one-off:once only"), false, 1, "Meeting number",
      "Whether the number is used again", "People from an earlier meeting still hold this number."),
  LATE_ENTRY(ENTRY, numbers("minutes", "open:stays open", false, 10080, "at the start"), false, 1, "Late entry",
      "When the meeting locks itself after the start", "The door stays open long after the meeting began."),
  RETURN_AFTER_REMOVAL(ENTRY, ladder("allowed", "barred"), true, 1, "Return after removal",
      "Whether someone removed may come back", "Somebody who was removed simply comes back."),
  REGIONS(ENTRY, Scale.Sets.countries(), true, 1, "Regions",
      "Countries people may join from", "People join from countries the meeting is not meant for."),
  FORWARDING(ENTRY, ladder("allowed", "blocked"), true, 1, "Forwarding",
      "Whether a forwarded invitation is good for entry", "Whoever is passed the invitation counts as invited."),
  LISTING(ENTRY, ladder("public", "organisation", "invitees:invitees only"), false, 1, "Listing",
      "Who sees that the meeting exists", "People who are not invited see the meeting and how to reach it."),
  ARRIVAL_NOTICE(ENTRY, ladder("silent", "announced"), false, 1, "Arrival notice",
      "Whether an arrival is heard or seen", "Somebody comes in and nobody notices."),

  PRESENTER_ROLE(ROLES, ladder("everyone", "members", "named:by name", "hosts"), true, 1, "Presenter role",
      "Who comes in as a presenter", "People come in as presenters who should only attend: they can silence and remove others."),
  JOINER_MODE(ROLES, ladder("attendee", "onlooker"), true, 3, "Joiner mode",
      "Whether the rest take part or only watch", "People take part who should only watch and listen."),

  SCREEN_SHARE(SCREEN_SHARING, ladder("everyone", "presenters", "hosts"), true, 1, "Screen share",
      "Who may show their screen", "Anybody let in can take over the screen."),
  ANNOTATION(SCREEN_SHARING, ladder("everyone", "presenters", "off"), true, 1, "Annotation",
      "Who may draw on what is shown", "Anybody let in can draw over what is shown."),
  WHITEBOARD(SCREEN_SHARING, ladder("everyone", "presenters", "off"), true, 1, "Whiteboard",
      "Who may write on the board", "Anybody let in can write on the board."),
  REMOTE_CONTROL(SCREEN_SHARING, ladder("allowed", "off"), true, 1, "Remote control",
      "Whether one may steer another's screen", "A stranger can be handed control of a screen."),
  SLIDE_BROWSING(SCREEN_SHARING, ladder("free", "presenter-led:presenter leads"), true, 1, "Slide browsing",
      "Whether people page through slides on their own", "People page ahead through slides not yet shown."),

  CHAT(Family.CHAT, ladder("always", "in-session:in session", "hosts-post:hosts post", "off"), true, 2, "Chat",
      "Who may write to all, and when", "People write to everybody when they should not."),
  PRIVATE_CHAT(Family.CHAT, ladder("anyone", "to-hosts:to hosts", "off"), true, 1, "Private chat",
      "Whom people may write to alone", "People write to each other where no host sees it."),
  REACTIONS(Family.CHAT, ladder("on", "off"), true, 1, "Reactions",
      "Whether people may send signs", "Signs can be used to disturb."),
  RENAME_SELF(Family.CHAT, ladder("allowed", "barred"), true, 1, "Rename self",
      "Whether people may change their shown name", "A stranger can take another person's name."),
  QUESTIONS(Family.CHAT, neutral("off", "on"), false, 1, "Questions",
      "A moderated question box", "The question box is not set as the rule says."),
  POLLS(Family.CHAT, neutral("off", "on"), false, 1, "Polls",
      "Votes held in the meeting", "Polls are not set as the rule says."),
  HAND_RAISING(Family.CHAT, neutral("off", "on"), false, 1, "Hand raising",
      "Whether people ask for the floor by a sign", "Hand raising is not set as the rule says."),
  SHARED_NOTES(Family.CHAT, neutral("off", "on"), false, 1, "Shared notes",
      "Notes that all write together", "Shared notes are not set as the rule says."),

  MUTE_ON_ENTRY(SOUND_AND_PICTURE, ladder("off", "on"), false, 1, "Mute on entry",
      "Whether people come in silenced", "People burst in with their microphone open."),
  ATTENDEE_MICROPHONE(SOUND_AND_PICTURE, ladder("allowed", "off"), true, 2, "Attendee microphone",
      "Whether attendees may speak", "Anybody let in can speak over the meeting."),
  ATTENDEE_CAMERA(SOUND_AND_PICTURE, ladder("allowed", "off"), true, 2, "Attendee camera",
      "Whether attendees may show themselves", "Anybody let in can show a picture to all."),
  CAMERA_ON_ENTRY(SOUND_AND_PICTURE, ladder("on", "off"), false, 1, "Camera on entry",
      "Whether cameras are on as people come in", "People are seen before they are ready."),
  HOST_CAMERA_ON_ENTRY(SOUND_AND_PICTURE, neutral("off", "on"), false, 1, "Host camera on entry",
      "Whether the host's camera is on at first", "The host's camera is not set as the rule says."),
  AUDIO_ROUTES(SOUND_AND_PICTURE, new Scale.Sets(false, Set.of("computer", "phone"), "audio routes: computer, phone"), true, 1, "Audio routes",
      "Ways people hear and speak", "People join by a way on which nobody can recognise them."),
  DIAL_IN_COUNTRIES(SOUND_AND_PICTURE, Scale.Sets.countries(), false, 1, "Dial-in countries",
      "Countries with a number to call", "There are numbers to call from countries the meeting is not meant for."),

  RECORDING(Family.RECORDING, ladder("everyone", "presenters", "hosts", "off"), true, 1, "Recording",
      "Who may record", "People can record what they should not."),
  AUTO_RECORD(Family.RECORDING, neutral("off", "on"), false, 1, "Auto-record",
      "Whether recording starts by itself", "Recording does not start as the rule says."),
  RECORDING_CONSENT(Family.RECORDING, ladder("none", "notice", "consent"), false, 1, "Recording consent",
      "What people are told or asked before they are recorded", "People are recorded without having been asked."),
  RECORDING_STORE(Family.RECORDING, ladder("own-device:own device", "organisation-store:organisation store"), false, 1, "Recording store",
      "Where recordings are kept", "Recordings lie on private machines, out of reach of the organisation."),
  RECORD_SHARING(Family.RECORDING, ladder("co-hosts:with co-hosts", "host-alone:host alone"), false, 1, "Record sharing",
      "Who gets recording, chat log and attendance", "Recording, chat log and attendance go to every co-host."),

  ATTENDANCE_RECORD(FOLLOW_UP, ladder("off", "on"), false, 1, "Attendance record",
      "Whether it is kept who was there", "Afterwards nobody can tell who was there."),
  CONDUCT_REPORTS(FOLLOW_UP, ladder("off", "on"), false, 1, "Conduct reports",
      "Whether people may report misconduct", "Misconduct cannot be reported from within the meeting."),
  BREAKOUT_GROUPS(FOLLOW_UP, neutral("off", "on-demand:on demand", "pre-assigned:assigned before"), false, 1, "Breakout groups",
      "Small groups apart from the meeting", "Breakout groups are not set as the rule says."),
  CAPTIONS(FOLLOW_UP, neutral("off", "on"), false, 1, "Captions",
      "Spoken words shown as text", "Captions are not set as the rule says."),
  INTERPRETATION(FOLLOW_UP, neutral("off", "on"), false, 1, "Interpretation",
      "Spoken words in another language", "Interpretation is not set as the rule says."),
  DATA_REGION(FOLLOW_UP, new Scale.Sets(true, null, "region names"), false, 1, "Data region",
      "Where the meeting's data may lie", "The meeting's data may lie where it must not.");
  // spotless:on

  public static final int COUNT = values().length;

  private static final List<Control> ALL = List.of(values());
  private static final List<Control> MATRIX = ALL.stream().filter(Control::inMatrix).toList();
  private static final Map<String, Control> BY_ID =
      ALL.stream().collect(Collectors.toUnmodifiableMap(Control::id, Function.identity()));

  private final String id;
  private final Family family;
  private final Scale scale;
  private final boolean inMatrix;
  private final int friction;
  private final String title;
  private final String effect;
  private final String risk;
  private final Value loosest;

  Control(
      Family family,
      Scale scale,
      boolean inMatrix,
      int friction,
      String title,
      String effect,
      String risk) {
    this.id = name().toLowerCase(Locale.ROOT).replace('_', '-');
    this.family = family;
    this.scale = scale;
    this.inMatrix = inMatrix;
    this.friction = friction;
    this.title = title;
    this.effect = effect;
    this.risk = risk;
    this.loosest = scale.loosest();
  }

  private static Scale ladder(String... rungs) {
    return Scale.Words.of(false, rungs);
  }

  private static Scale neutral(String... rungs) {
    return Scale.Words.of(true, rungs);
  }

  private static Scale numbers(
      String unit, @Nullable String unlimited, boolean largerIsStricter, int max, String zero) {
    return new Scale.Numbers(
        unit, unlimited == null ? null : Scale.Rung.of(unlimited), largerIsStricter, max, zero);
  }

  /** All controls in the table's order. */
  public static List<Control> all() {
    return ALL;
  }

  /** The controls that take part in the exposure matrix, in the table's order. */
  public static List<Control> matrix() {
    return MATRIX;
  }

  /** The control with this id, or null. */
  public static @Nullable Control byId(@Nullable String id) {
    return id == null ? null : BY_ID.get(id);
  }

  /** As it is written in files and answers, stable for ever. */
  public String id() {
    return id;
  }

  /** The family it belongs to. */
  public Family family() {
    return family;
  }

  /** The values it can have. */
  public Scale scale() {
    return scale;
  }

  /** Whether the matrix of who can do what depends on it. */
  public boolean inMatrix() {
    return inMatrix;
  }

  /** Whether neither of its values is stricter than another. */
  public boolean isNeutral() {
    return scale instanceof Scale.Words words && words.neutral();
  }

  /** What changing this control costs people, 1 to 3, however far it moves. */
  public int friction() {
    return friction;
  }

  /** What the control is called. */
  public String title() {
    return title;
  }

  /** What the control decides, a phrase. */
  public String effect() {
    return effect;
  }

  /** What can happen when it is set too loosely, a sentence. */
  public String risk() {
    return risk;
  }

  /** The value that lets most happen. */
  public Value loosest() {
    return loosest;
  }

  /**
   * Reads a value of this control.
   *
   * @throws InvalidValueException where the table has no such value
   */
  public Value parse(@Nullable Object plain) {
    return scale.parse(plain);
  }

  /** A value in plain form: a word, a whole number, or a list of words. */
  public Object plain(Value value) {
    return scale.plain(value);
  }

  /** The static order: whether the value stands at the limit or on its strict side. */
  public boolean within(Value value, Value limit) {
    return scale.within(value, limit);
  }

  /** The value as people read it. */
  public String label(Value value) {
    if (scale instanceof Scale.Words words) {
      return words.rungs().get(((Value.Word) value).rank()).label();
    }
    if (scale instanceof Scale.Numbers numbers) {
      int number = ((Value.Amount) value).number();
      if (number == Value.Amount.UNLIMITED && numbers.unlimitedWord() != null) {
        return numbers.unlimitedWord().label();
      }
      return number == 0 ? numbers.zero() : number + " " + numbers.unit();
    }
    List<String> members = ((Value.Names) value).members();
    if (members.isEmpty()) {
      return ((Scale.Sets) scale).emptyIsAll() ? "all" : "none";
    }
    return String.join(", ", members);
  }

  /**
   * The stricter values a remedy may choose from, least tightening first: every stricter word;
   * {@code 0} for minutes; without {@code phone} for audio routes; nothing for other sets.
   */
  public List<Value> tightenings(Value from) {
    if (scale instanceof Scale.Words words) {
      int rank = ((Value.Word) from).rank();
      return words.neutral()
          ? List.of()
          : Collections.unmodifiableList(
              new ArrayList<Value>(words.values().subList(rank + 1, words.values().size())));
    }
    if (scale instanceof Scale.Numbers numbers) {
      boolean moves = !numbers.largerIsStricter() && ((Value.Amount) from).number() > 0;
      return moves ? List.of(new Value.Amount(0)) : List.of();
    }
    List<String> members = ((Value.Names) from).members();
    if (this == AUDIO_ROUTES && members.contains("phone")) {
      return List.of(new Value.Names(members.stream().filter(m -> !m.equals("phone")).toList()));
    }
    return List.of();
  }

  /** One step stricter, or null where there is none: the first of {@link #tightenings}. */
  public @Nullable Value oneStepStricter(Value from) {
    List<Value> stricter = tightenings(from);
    return stricter.isEmpty() ? null : stricter.get(0);
  }
}
