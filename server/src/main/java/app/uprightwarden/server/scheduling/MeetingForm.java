package app.uprightwarden.server.scheduling;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.passcode.PasscodeMaker;
import app.uprightwarden.core.rulebook.ResolvedRulebook;
import app.uprightwarden.server.people.Organisation;
import app.uprightwarden.server.problem.Fault;
import app.uprightwarden.server.register.ControlsJson;
import app.uprightwarden.server.register.Details;
import app.uprightwarden.server.register.MeetingJsonParser;
import app.uprightwarden.server.register.RegisterService;
import app.uprightwarden.server.register.Scheduled;
import app.uprightwarden.server.register.StoredMeeting;
import app.uprightwarden.server.schema.BundleSchema;
import java.security.SecureRandom;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/** A meeting as the scheduling page has it, which is a bundle's meeting, made whole and read. */
@Component
class MeetingForm {
  private static final int DIGITS = 9;

  private final BundleSchema schema;
  private final RegisterService register;
  private final JsonMapper json;
  private final SecureRandom random = new SecureRandom();

  MeetingForm(BundleSchema schema, RegisterService register, JsonMapper json) {
    this.schema = schema;
    this.register = register;
    this.json = json;
  }

  /**
   * Reads a form.
   *
   * @param before the meeting it changes, whose passcode stays where the form says nothing of one
   * @param faults gets what is wrong with it
   * @return null where it has faults
   */
  @Nullable Scheduled read(
      JsonNode form,
      @Nullable StoredMeeting before,
      Organisation organisation,
      List<Fault> faults) {
    return read(form, newId(), before, organisation, faults);
  }

  static String newId() {
    return "m-" + UUID.randomUUID();
  }

  /**
   * The same.
   *
   * @param id of a new meeting
   */
  @Nullable Scheduled read(
      JsonNode form,
      String id,
      @Nullable StoredMeeting before,
      Organisation organisation,
      List<Fault> faults) {
    if (!form.isObject()) {
      faults.add(new Fault("", "a meeting is a JSON object"));
      return null;
    }
    ObjectNode document = (ObjectNode) form.deepCopy();
    document.put("id", before == null ? id : before.meeting().id());
    // what a meeting is called in calendars is ours to say: it decides whose answers it gets
    document.remove(List.of("uid", "sequence", "foreign"));
    if (before != null && !document.has("controls")) {
      // a form that says nothing of controls means none of them to be lost
      document.set("controls", json.valueToTree(ControlsJson.plain(before.meeting().controls())));
    }
    faults.addAll(schema.meetingFaults(document));
    Scheduled read =
        faults.isEmpty()
            ? new MeetingJsonParser(
                    faults, MeetingJsonParser.Known.of(organisation), register::judge)
                .read(document, "")
            : null;
    if (read == null) {
      return null;
    }
    Details details =
        read.details().withIdentityOf(before == null ? Details.NONE : before.details());
    return withStoredPasscode(
        new Scheduled(
            read.meeting(), details, read.passcode(), read.passcodeLeftOut(), read.phonePasscode()),
        before);
  }

  private Scheduled withStoredPasscode(Scheduled read, @Nullable StoredMeeting before) {
    if (!read.passcodeLeftOut() || before == null || before.meeting().passcode() == null) {
      return read;
    }
    Meeting meeting = read.meeting();
    String passcode = register.passcode(meeting.id());
    return passcode == null ? read : RegisterService.keeping(withPasscode(read, passcode), before);
  }

  private Scheduled withPasscode(Scheduled of, String passcode) {
    Meeting meeting = of.meeting();
    return new Scheduled(
        meeting.withPasscode(
            register.judge(passcode, meeting.title(), meeting.description(), meeting.host())),
        of.details(),
        passcode,
        false,
        of.phonePasscode());
  }

  /**
   * Adds to a form what a new meeting is stamped with: the starts in force for controls it has no
   * value for.
   */
  JsonNode stamped(JsonNode form, ResolvedRulebook rules) {
    if (!form.isObject()) {
      return form;
    }
    ObjectNode document = (ObjectNode) form.deepCopy();
    JsonNode given = document.path("controls");
    ObjectNode controls = given.isObject() ? (ObjectNode) given : json.createObjectNode();
    for (Map.Entry<String, Object> start : ControlsJson.plain(rules.starts()).entrySet()) {
      if (!controls.has(start.getKey())) {
        controls.set(start.getKey(), json.valueToTree(start.getValue()));
      }
    }
    // length and makeup are read off the passcode itself, once there is one
    document.set("controls", controls);
    return document;
  }

  /**
   * A passcode and a number where the meeting wants one and has none.
   *
   * @param hasService a conference service holds it, which gives the number
   */
  Scheduled completed(Scheduled of, ResolvedRulebook rules, boolean hasService) {
    Scheduled whole = of;
    if (whole.passcode() == null && whole.meeting().controls().is(Control.PASSCODE, "required")) {
      whole = withPasscode(whole, passcode(atLeast(rules)));
    }
    if (hasService || whole.meeting().number() != null) {
      return whole;
    }
    Meeting numbered = whole.meeting().withNumber(number());
    return new Scheduled(numbered, whole.details(), whole.passcode(), false, whole.phonePasscode());
  }

  /** The length that the rules ask for; 0 where they ask for none. */
  static int atLeast(ResolvedRulebook rules) {
    var rule = rules.rule(Control.PASSCODE_LENGTH);
    Object plain =
        rule == null
            ? null
            : Control.PASSCODE_LENGTH.plain(rule.limit() == null ? rule.start() : rule.limit());
    return plain instanceof Integer length ? length : 0;
  }

  String passcode(int atLeast) {
    return PasscodeMaker.make(atLeast, random::nextInt);
  }

  String phonePasscode() {
    return PasscodeMaker.makeDigits(random::nextInt);
  }

  /** A number that no meeting has, in groups of three. */
  String number() {
    for (int attempt = 0; attempt < 100; attempt++) {
      StringBuilder digits = new StringBuilder().append(1 + random.nextInt(9));
      while (digits.length() < DIGITS) {
        digits.append(random.nextInt(10));
      }
      String number = digits.insert(6, ' ').insert(3, ' ').toString();
      if (!register.hasNumber(number)) {
        return number;
      }
    }
    throw new IllegalStateException("no free number was found; are nearly all of them used?");
  }
}
