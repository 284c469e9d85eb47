package app.uprightwarden.core.examples;

import app.uprightwarden.core.audit.FactsBuilder;
import app.uprightwarden.core.audit.MeetingFacts;
import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.meeting.Invitee;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.meeting.PasscodeFacts;
import app.uprightwarden.core.passcode.PasscodeJudge;
import app.uprightwarden.core.people.Directory;
import app.uprightwarden.core.people.Person;
import app.uprightwarden.core.people.Persona;
import app.uprightwarden.core.people.Right;
import app.uprightwarden.core.people.Standing;
import app.uprightwarden.core.rulebook.Guarantee;
import app.uprightwarden.core.rulebook.Layer;
import app.uprightwarden.core.rulebook.Level;
import app.uprightwarden.core.rulebook.Mode;
import app.uprightwarden.core.rulebook.Rule;
import app.uprightwarden.core.rulebook.Rulebook;
import app.uprightwarden.core.rulebook.Scope;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Reads the worked examples: invented data, worked out by code that shares nothing with ours. */
public final class ExampleReader {
  private static final JsonMapper JSON = JsonMapper.builder().build();

  private ExampleReader() {}

  public static List<JsonNode> lines(String resource) {
    try (BufferedReader reader =
        new BufferedReader(
            new InputStreamReader(
                Objects.requireNonNull(
                    ExampleReader.class.getResourceAsStream("/examples/" + resource)),
                StandardCharsets.UTF_8))) {
      return reader.lines().map(JSON::readTree).toList();
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  public static ControlValues controls(JsonNode node) {
    Map<Control, Value> values = new EnumMap<>(Control.class);
    node.properties()
        .forEach(
            e -> {
              Control control = Objects.requireNonNull(Control.byId(e.getKey()), e.getKey());
              values.put(control, control.parse(plain(e.getValue())));
            });
    return ControlValues.of(values);
  }

  public static Object plain(JsonNode node) {
    if (node.isArray()) {
      return strings(node);
    }
    return node.isNumber() ? (Object) node.intValue() : node.stringValue();
  }

  public static List<String> strings(JsonNode node) {
    List<String> list = new ArrayList<>();
    node.forEach(n -> list.add(n.stringValue()));
    return list;
  }

  public static Directory directory(JsonNode bundle) {
    JsonNode organisation = bundle.get("organisation");
    List<Person> people = new ArrayList<>();
    for (JsonNode p : bundle.get("people")) {
      people.add(
          new Person(
              p.get("email").stringValue(),
              p.get("name").stringValue(),
              Standing.valueOf(p.get("standing").stringValue().toUpperCase(Locale.ROOT)),
              p.get("unit").stringValue(null),
              p.get("active").booleanValue()));
    }
    List<String> partners = new ArrayList<>();
    organisation.get("partners").forEach(p -> partners.addAll(strings(p.get("domains"))));
    Map<String, String> parents = new HashMap<>();
    organisation
        .get("units")
        .forEach(u -> parents.put(u.get("id").stringValue(), u.get("parent").stringValue(null)));
    return new Directory(people, partners, parents, Map.of());
  }

  public static Rulebook rulebook(JsonNode node) {
    List<Layer> layers = new ArrayList<>();
    for (JsonNode layer : node.get("layers")) {
      List<Rule> rules = new ArrayList<>();
      layer.get("rules").forEach(r -> rules.add(rule(r)));
      List<Guarantee> guarantees = new ArrayList<>();
      layer.get("guarantees").forEach(g -> guarantees.add(guarantee(g)));
      JsonNode scope = layer.get("scope");
      layers.add(
          new Layer(
              new Scope(
                  Scope.Level.valueOf(scope.get("level").stringValue().toUpperCase(Locale.ROOT)),
                  scope.path("id").stringValue(null)),
              rules,
              guarantees));
    }
    return new Rulebook(layers);
  }

  private static Rule rule(JsonNode node) {
    Control control = Objects.requireNonNull(Control.byId(node.get("control").stringValue()));
    Mode mode = Mode.valueOf(node.get("mode").stringValue().toUpperCase(Locale.ROOT));
    Value start = control.parse(plain(node.get(mode == Mode.FIX ? "value" : "start")));
    Value limit =
        switch (mode) {
          case SUGGEST -> null;
          case BOUND -> control.parse(plain(node.get("limit")));
          case FIX -> start;
        };
    return new Rule(
        control,
        mode,
        start,
        limit,
        node.path("sealed").booleanValue(false),
        node.path("importance").intValue(Rule.DEFAULT_IMPORTANCE),
        node.path("reason").stringValue(""));
  }

  private static Guarantee guarantee(JsonNode node) {
    return new Guarantee(
        node.get("id").stringValue(),
        strings(node.get("who")).stream().map(Persona::byId).toList(),
        strings(node.get("rights")).stream().map(Right::byId).toList(),
        Objects.requireNonNull(Level.byId(node.get("ceiling").stringValue())),
        node.get("importance").intValue(),
        node.get("reason").stringValue());
  }

  public static FactsBuilder factsBuilder(JsonNode bundle) {
    Set<String> confidential = new HashSet<>();
    for (JsonNode kind : bundle.get("organisation").get("kinds")) {
      if (kind.get("confidential").booleanValue()) {
        confidential.add(kind.get("id").stringValue());
      }
    }
    JsonNode plan = bundle.get("organisation").get("plan");
    return new FactsBuilder(
        directory(bundle),
        rulebook(bundle.get("rulebook")),
        confidential,
        new MeetingFacts.Plan(
            plan.get("maxParticipants").intValue(), plan.get("maxMinutes").intValue()));
  }

  public static Meeting meeting(JsonNode m) {
    List<Invitee> invitees = new ArrayList<>();
    m.get("invitees")
        .forEach(
            i -> invitees.add(new Invitee(i.get("email").stringValue(), Invitee.Need.REQUIRED)));
    String passcode = m.path("passcode").stringValue(null);
    String title = m.get("title").stringValue();
    String host = m.get("host").stringValue();
    PasscodeFacts facts =
        passcode == null ? null : PasscodeJudge.judge(passcode, title, "", host, passcode);
    return new Meeting(
        m.get("id").stringValue(),
        title,
        m.get("description").stringValue(),
        m.path("kind").stringValue(null),
        host,
        strings(m.get("coHosts")),
        strings(m.get("presenters")),
        invitees,
        strings(m.get("lists")),
        m.get("space").stringValue(null),
        LocalDateTime.parse(m.get("start").stringValue()),
        ZoneId.of(m.get("zone").stringValue()),
        m.get("minutes").intValue(),
        null,
        List.of(),
        List.of(),
        null,
        facts,
        controls(m.get("controls")),
        List.of());
  }
}
