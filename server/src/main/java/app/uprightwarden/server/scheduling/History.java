package app.uprightwarden.server.scheduling;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.people.Directory;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.people.UnitScope;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.register.MeetingDocument;
import app.uprightwarden.server.register.MeetingVersions;
import app.uprightwarden.server.register.RegisterService;
import app.uprightwarden.server.register.Scheduled;
import app.uprightwarden.server.register.StoredMeeting;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** A meeting's history as people read it: who changed what, from what to what. */
@Service
class History {
  private final RegisterService register;
  private final MeetingVersions versions;
  private final UnitScope units;
  private final JsonMapper json;

  History(RegisterService register, MeetingVersions versions, UnitScope units, JsonMapper json) {
    this.units = units;
    this.register = register;
    this.versions = versions;
    this.json = json;
  }

  /**
   * One change.
   *
   * @param restorable the version to put back for the meeting as it was after this change; null for
   *     the present one and for a cancellation
   */
  record HistoryEntry(
      @Nullable Long restorable,
      Instant at,
      String by,
      String act,
      @Nullable String remark,
      List<HistoryDifference> differences) {}

  /** What changed; values in the words of the document. */
  record HistoryDifference(String part, @Nullable String from, @Nullable String to) {}

  /** A meeting's changes, the last first. */
  record Story(String id, String title, boolean cancelled, List<HistoryEntry> entries) {}

  private record State(
      @Nullable Long version,
      Instant at,
      String by,
      String act,
      @Nullable String remark,
      @Nullable JsonNode document) {}

  @Transactional(readOnly = true)
  public Story of(String id, SignedIn who) {
    StoredMeeting now = register.find(id).orElse(null);
    List<MeetingVersions.Version> old = versions.of(id);
    mayRead(id, now, old, who);
    List<State> states = new ArrayList<>();
    if (now != null) {
      states.add(
          new State(
              null,
              now.changedAt(),
              now.changedBy(),
              now.act(),
              now.remark(),
              json.valueToTree(
                  MeetingDocument.of(new Scheduled(now.meeting(), now.details(), null)))));
    }
    for (MeetingVersions.Version v : old) {
      states.add(new State(v.id(), v.at(), v.by(), v.act(), v.remark(), v.document()));
    }
    List<HistoryEntry> entries = new ArrayList<>();
    for (int i = 0; i < states.size(); i++) {
      State state = states.get(i);
      JsonNode before = i + 1 < states.size() ? states.get(i + 1).document() : null;
      entries.add(
          new HistoryEntry(
              state.document() == null ? null : state.version(),
              state.at(),
              state.by(),
              state.act(),
              state.remark(),
              before == null || state.document() == null
                  ? List.of()
                  : differences(before, state.document())));
    }
    String title = now == null ? old.get(0).title() : now.meeting().title();
    return new Story(id, title, now == null, entries);
  }

  private void mayRead(
      String id, @Nullable StoredMeeting now, List<MeetingVersions.Version> old, SignedIn who) {
    boolean known = now != null || !old.isEmpty();
    boolean mine =
        now != null
            ? RegisterService.hosts(now.meeting(), who)
            : !old.isEmpty()
                && Directory.fold(old.get(0).host()).equals(Directory.fold(who.email()));
    String host = now != null ? now.meeting().host() : old.isEmpty() ? "" : old.get(0).host();
    if (!known || who.isHost() && !mine || !units.hasHost(who, host)) {
      throw ProblemException.notFound("There is no meeting " + id + " for you.");
    }
  }

  private static List<HistoryDifference> differences(JsonNode before, JsonNode after) {
    List<HistoryDifference> differences = new ArrayList<>();
    Set<String> parts = new LinkedHashSet<>(before.propertyNames());
    parts.addAll(after.propertyNames());
    // controls follow one by one; how it is told apart in calendars is nothing that people change
    parts.removeAll(Set.of("id", "controls", "uid", "sequence", "foreign"));
    for (String part : parts) {
      add(differences, part, before.get(part), after.get(part));
    }
    JsonNode controls = before.path("controls");
    JsonNode then = after.path("controls");
    for (Control control : Control.all()) {
      add(differences, control.id(), controls.get(control.id()), then.get(control.id()));
    }
    return differences;
  }

  private static void add(
      List<HistoryDifference> differences,
      String part,
      @Nullable JsonNode before,
      @Nullable JsonNode after) {
    String from = words(before);
    String to = words(after);
    if (!java.util.Objects.equals(from, to)) {
      differences.add(new HistoryDifference(part, from, to));
    }
  }

  private static String invitee(JsonNode item) {
    boolean isOptional = item.path("need").stringValue("").equals("optional");
    String task = item.path("task").stringValue("");
    String language = item.path("language").stringValue("");
    return item.path("email").stringValue("")
        + (isOptional ? " (optional)" : "")
        + (task.isEmpty() ? "" : " (" + task + (language.isEmpty() ? "" : ", " + language) + ")");
  }

  private static String group(JsonNode item) {
    String list = item.path("list").stringValue("");
    return item.path("name").stringValue("")
        + " ("
        + (list.isEmpty() ? "" : "list " + list + ", ")
        + item.path("members").size()
        + " by name)";
  }

  /**
   * A date that is not as the others: when it would have been, is, how long, and its own controls.
   */
  private static String date(JsonNode item) {
    String start = item.path("start").stringValue("");
    int minutes = item.path("minutes").intValue(0);
    List<String> own = new ArrayList<>(item.path("controls").propertyNames());
    if (minutes > 0) {
      own.add(0, minutes + " min");
    }
    return item.path("at").stringValue("")
        + (start.isEmpty() ? "" : " → " + start)
        + (own.isEmpty() ? "" : " (" + String.join(", ", own) + ")");
  }

  private static @Nullable String words(@Nullable JsonNode node) {
    if (node == null || node.isNull()) {
      return null;
    }
    if (node.isString()) {
      return node.stringValue();
    }
    if (node.isArray()) {
      List<String> each = new ArrayList<>();
      node.forEach(
          item ->
              each.add(
                  item.has("email")
                      ? invitee(item)
                      : item.has("members")
                          ? group(item)
                          : item.has("at")
                              ? date(item)
                              : item.isString() ? item.stringValue() : item.toString()));
      return each.isEmpty() ? null : String.join(", ", each);
    }
    return node.toString();
  }
}
