package app.uprightwarden.server.demo;

import app.uprightwarden.server.problem.InOrder;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** The three editions of the demo organisation's rulebook. */
final class DemoRulebooks {
  private DemoRulebooks() {}

  static Map<String, Object> edition(int number) {
    List<Object> organisation = new ArrayList<>(first());
    List<Object> guarantees = new ArrayList<>();
    guarantees.add(
        guarantee(
            "no-stranger-unwatched",
            List.of("link-finder", "number-guesser"),
            List.of("listen"),
            "host-lets-in",
            4,
            "Nobody we do not know sits in a meeting before a host has looked."));
    if (number >= 2) {
      organisation.addAll(second());
      guarantees.add(
          guarantee(
              "no-stranger-on-screen",
              List.of("forwarded", "link-finder", "number-guesser", "removed"),
              List.of("share-screen", "annotate"),
              "host-lets-in",
              4,
              "The spring hearing was ended by a stranger's screen."));
    }
    List<Object> layers = new ArrayList<>();
    if (number >= 3) {
      organisation.addAll(third());
      guarantees.add(
          guarantee(
              "removed-stays-out",
              List.of("removed"),
              List.of("listen"),
              "never",
              3,
              "Whoever was shown out stays out."));
    }
    layers.add(layer("organisation", null, organisation, guarantees));
    if (number >= 2) {
      layers.add(layer("unit", "pilotage", pilotage(), List.of()));
    }
    if (number >= 3) {
      layers.add(
          layer(
              "unit",
              "community",
              List.of(
                  bound("registration", "open", "open", false, 2, "Residents say who they are.")),
              List.of()));
    }
    layers.add(layer("kind", "hearing", hearing(number), List.of()));
    layers.add(layer("kind", "inquiry", inquiry(), List.of()));
    if (number >= 3) {
      layers.add(
          layer(
              "kind",
              "open-day",
              List.of(
                  bound("listing", "public", "public", false, 1, "Everybody is to find it."),
                  bound(
                      "joiner-mode",
                      "onlooker",
                      "onlooker",
                      false,
                      2,
                      "Visitors watch and listen.")),
              List.of()));
    }
    return Map.of("layers", layers);
  }

  /** What the second administrator is working on: stricter hearings for the winter round. */
  static Map<String, Object> draft() {
    Map<String, Object> edition = edition(3);
    List<Object> layers = new ArrayList<>((List<?>) edition.get("layers"));
    List<Object> rules = new ArrayList<>(hearing(3));
    rules.add(bound("screen-share", "hosts", "hosts", false, 4, "Plans are shown by the chair."));
    rules.add(bound("private-chat", "off", "to-hosts", false, 2, ""));
    layers.replaceAll(
        layer ->
            InOrder.map("level", "kind", "id", "hearing").equals(((Map<?, ?>) layer).get("scope"))
                ? layer("kind", "hearing", rules, List.of())
                : layer);
    return Map.of("layers", layers);
  }

  static String reason(int edition) {
    return switch (edition) {
      case 1 -> "First rules, after the spring review.";
      case 2 -> "After the interrupted hearing: screens, presenters and pilotage calls.";
      default -> "Recording, removal and the community evenings.";
    };
  }

  private static List<Object> first() {
    return List.of(
        fix("passcode", "required", true, 4, "Every meeting has one, since the spring review."),
        bound("passcode-length", 10, 8, false, 2, "Six digits were guessed in the spring."),
        bound("passcode-makeup", "letters-digits", "letters-digits", false, 1, ""),
        fix("passcode-in-link", "separate", false, 3, "Links travel further than we think."),
        suggest("passcode-in-mail", "shown"),
        bound("waiting-room", "on", "on", true, 4, "Somebody looks before anybody is in."),
        bound("lobby-bypass", "named", "named", false, 3, "Whoever is invited walks in."),
        bound("phone-bypass", "waits", "waits", false, 3, "A caller's name is not shown."),
        bound("early-entry", 0, 10, false, 2, "Not long, and never where it is confidential."),
        suggest("sign-in", "none"),
        suggest("registration", "none"),
        suggest("meeting-number", "one-off"),
        suggest("late-entry", "open"),
        suggest("forwarding", "allowed"),
        bound("listing", "organisation", "organisation", false, 2, ""),
        suggest("arrival-notice", "announced"),
        suggest("joiner-mode", "attendee"),
        suggest("whiteboard", "presenters"),
        suggest("slide-browsing", "free"),
        suggest("reactions", "on"),
        suggest("attendee-microphone", "allowed"),
        suggest("attendee-camera", "allowed"),
        suggest("camera-on-entry", "off"),
        bound("recording", "hosts", "hosts", false, 4, "What is recorded is a record."));
  }

  private static List<Object> second() {
    return List.of(
        bound("door-keeper", "hosts", "presenters", false, 2, ""),
        bound("presenter-role", "hosts", "members", false, 3, "A presenter can silence people."),
        bound("screen-share", "presenters", "presenters", false, 3, "The interrupted hearing."),
        bound("annotation", "presenters", "presenters", false, 2, ""),
        fix("remote-control", "off", false, 3, "Nobody steers a harbour machine from outside."),
        bound("chat", "in-session", "in-session", false, 1, ""),
        bound("private-chat", "to-hosts", "anyone", false, 1, ""),
        bound("mute-on-entry", "on", "on", false, 1, ""),
        bound("dial-in-countries", List.of("IE"), List.of("GB", "IE"), false, 1, ""));
  }

  private static List<Object> third() {
    return List.of(
        fix("return-after-removal", "barred", false, 3, "Whoever was shown out stays out."),
        bound(
            "rename-self", "barred", "barred", false, 2, "A resident spoke under another's name."),
        fix("auto-record", "off", false, 2, "Recording is a decision."),
        bound(
            "recording-consent",
            "consent",
            "notice",
            false,
            3,
            "The data protection officer asks."),
        fix(
            "recording-store",
            "organisation-store",
            false,
            3,
            "No recordings on private machines."),
        suggest("record-sharing", "host-alone"),
        bound("attendance-record", "on", "on", false, 1, ""),
        suggest("conduct-reports", "on"),
        suggest("captions", "on"),
        bound("data-region", List.of("eu-west"), List.of("eu-north", "eu-west"), false, 3, ""));
  }

  private static List<Object> pilotage() {
    return List.of(
        bound("early-entry", 10, 15, false, 2, "Pilots come straight off the boat."),
        bound("phone-bypass", "waits", "straight-in", false, 2, "Boats call in by telephone."));
  }

  private static List<Object> hearing(int edition) {
    List<Object> rules = new ArrayList<>();
    rules.add(bound("listing", "public", "public", false, 1, "A hearing is announced."));
    rules.add(suggest("registration", "open"));
    if (edition >= 2) {
      rules.add(fix("presenter-role", "named", false, 4, "Speakers are called by the chair."));
      rules.add(bound("attendee-microphone", "off", "off", false, 3, "The chair gives the floor."));
      rules.add(bound("chat", "hosts-post", "hosts-post", false, 2, ""));
      rules.add(suggest("questions", "on"));
    }
    return rules;
  }

  private static List<Object> inquiry() {
    return List.of(
        fix("forwarding", "blocked", true, 4, "An inquiry is for those called."),
        fix("sign-in", "known-account", true, 4, "We know who is in the room."),
        fix("recording", "off", false, 4, "The clerk keeps the record."),
        bound("listing", "invitees", "invitees", false, 3, "Nobody learns who is heard."),
        bound("early-entry", 0, 0, false, 3, "Witnesses do not meet alone."));
  }

  private static Map<String, Object> layer(
      String level, @Nullable String id, List<Object> rules, List<Object> guarantees) {
    Map<String, Object> scope = new LinkedHashMap<>();
    scope.put("level", level);
    if (id != null) {
      scope.put("id", id);
    }
    Map<String, Object> layer = new LinkedHashMap<>();
    layer.put("scope", scope);
    layer.put("rules", rules);
    layer.put("guarantees", guarantees);
    return layer;
  }

  private static Map<String, Object> suggest(String control, Object start) {
    Map<String, Object> rule = new LinkedHashMap<>();
    rule.put("control", control);
    rule.put("mode", "suggest");
    rule.put("start", start);
    return rule;
  }

  private static Map<String, Object> bound(
      String control, Object start, Object limit, boolean sealed, int importance, String reason) {
    Map<String, Object> rule = new LinkedHashMap<>();
    rule.put("control", control);
    rule.put("mode", "bound");
    rule.put("start", start);
    rule.put("limit", limit);
    return rest(rule, sealed, importance, reason);
  }

  private static Map<String, Object> fix(
      String control, Object value, boolean sealed, int importance, String reason) {
    Map<String, Object> rule = new LinkedHashMap<>();
    rule.put("control", control);
    rule.put("mode", "fix");
    rule.put("value", value);
    return rest(rule, sealed, importance, reason);
  }

  private static Map<String, Object> rest(
      Map<String, Object> rule, boolean sealed, int importance, String reason) {
    if (sealed) {
      rule.put("sealed", true);
    }
    rule.put("importance", importance);
    if (!reason.isEmpty()) {
      rule.put("reason", reason);
    }
    return rule;
  }

  private static Map<String, Object> guarantee(
      String id,
      List<String> who,
      List<String> rights,
      String ceiling,
      int importance,
      String reason) {
    Map<String, Object> map = new LinkedHashMap<>();
    map.put("id", id);
    map.put("who", who);
    map.put("rights", rights);
    map.put("ceiling", ceiling);
    map.put("importance", importance);
    map.put("reason", reason);
    return map;
  }
}
