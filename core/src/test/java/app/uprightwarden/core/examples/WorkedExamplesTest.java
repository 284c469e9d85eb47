package app.uprightwarden.core.examples;

import static org.testng.Assert.assertEquals;

import app.uprightwarden.core.audit.Auditor;
import app.uprightwarden.core.audit.Detail;
import app.uprightwarden.core.audit.FactsBuilder;
import app.uprightwarden.core.audit.Judgement;
import app.uprightwarden.core.audit.MeetingFacts;
import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.door.Door;
import app.uprightwarden.core.door.DoorStep;
import app.uprightwarden.core.door.Moment;
import app.uprightwarden.core.door.Passage;
import app.uprightwarden.core.door.Roles;
import app.uprightwarden.core.people.Joiner;
import app.uprightwarden.core.people.Persona;
import app.uprightwarden.core.people.Right;
import app.uprightwarden.core.people.Role;
import app.uprightwarden.core.people.Route;
import app.uprightwarden.core.people.Standing;
import app.uprightwarden.core.people.Tie;
import app.uprightwarden.core.remedy.Remedy;
import app.uprightwarden.core.remedy.RemedySearch;
import app.uprightwarden.core.rulebook.ResolvedRule;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.Set;
import java.util.TreeSet;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;

/** Every worked example: door cases, matrices, scores, findings, resolved rules, remedies. */
public class WorkedExamplesTest {
  private static final Set<String> CHECKS_COVERED =
      Set.of("beyond-limit", "off-fix", "not-evidenced", "no-effect", "guarantee-broken");

  private record Case(String name, MeetingFacts facts, Judgement judgement, JsonNode expected) {
    @Override
    public String toString() {
      return name;
    }
  }

  @DataProvider
  public Object[][] cases() {
    List<Object[]> cases = new ArrayList<>();
    int line = 0;
    for (JsonNode example : ExampleReader.lines("assess.jsonl")) {
      line++;
      FactsBuilder builder = ExampleReader.factsBuilder(example.get("bundle"));
      Auditor auditor = new Auditor();
      for (int i = 0; i < example.get("expected").size(); i++) {
        JsonNode expected = example.get("expected").get(i);
        JsonNode meeting = example.get("bundle").get("meetings").get(i);
        MeetingFacts facts = builder.build(ExampleReader.meeting(meeting));
        String name = "line " + line + " " + facts.id();
        cases.add(new Object[] {new Case(name, facts, auditor.judge(facts), expected)});
      }
    }
    return cases.toArray(Object[][]::new);
  }

  @Test(dataProvider = "cases")
  public void matrix(Case c) {
    for (Persona persona : Persona.all()) {
      for (Right right : Right.all()) {
        assertEquals(
            c.judgement().basis().matrix().level(persona, right).id(),
            c.expected().get("matrix").get(persona.id()).get(right.id()).stringValue(),
            persona.id() + " " + right.id());
      }
    }
  }

  @Test(dataProvider = "cases")
  public void scores(Case c) {
    JsonNode exposure = c.expected().get("exposure");
    var ours = c.judgement().basis().exposure();
    assertEquals(ours.score(), exposure.get("score").doubleValue());
    assertEquals(ours.intrusion(), exposure.get("intrusion").doubleValue());
    assertEquals(ours.disruption(), exposure.get("disruption").doubleValue());
    assertEquals(ours.band().id(), exposure.get("band").stringValue());
  }

  @Test(dataProvider = "cases")
  public void findings(Case c) {
    Set<String> expected = new TreeSet<>();
    for (JsonNode f : c.expected().get("findings")) {
      List<String> by = new ArrayList<>(ExampleReader.strings(f.path("defeatedBy")));
      by.sort(null);
      String subject = f.path("control").stringValue(f.path("guarantee").stringValue(""));
      expected.add(
          String.join(
              " ",
              f.get("check").stringValue(),
              subject,
              f.get("severity").toString(),
              by.toString(),
              f.path("level").stringValue("")));
    }
    Set<String> found = new TreeSet<>();
    for (Detail d : c.judgement().details()) {
      if (CHECKS_COVERED.contains(d.check().id())) {
        List<String> by = new ArrayList<>(d.defeatedBy().stream().map(Control::id).toList());
        by.sort(null);
        found.add(
            String.join(
                " ",
                d.check().id(),
                d.subject(),
                Integer.toString(d.severity()),
                by.toString(),
                d.worst() == null ? "" : d.worst().level().id()));
      }
    }
    assertEquals(found, expected);
  }

  @Test(dataProvider = "cases")
  public void resolvedRules(Case c) {
    JsonNode resolved = c.expected().get("resolved");
    assertEquals(c.facts().rules().rules().size(), resolved.size());
    for (ResolvedRule rule : c.facts().rules().rules()) {
      JsonNode node = resolved.get(rule.control().id());
      assertEquals(rule.mode().id(), node.get("mode").stringValue(), rule.control().id());
      assertEquals(
          rule.control().plain(rule.start()),
          ExampleReader.plain(node.get("start")),
          rule.control().id());
      if (node.get("limit").isNull()) {
        assertEquals(rule.limit(), null);
      } else {
        assertEquals(
            rule.control().plain(Objects.requireNonNull(rule.limit())),
            ExampleReader.plain(node.get("limit")));
      }
      assertEquals(rule.importance(), node.get("importance").intValue());
      assertEquals(rule.sealed(), node.get("sealed").booleanValue());
    }
  }

  @Test(dataProvider = "cases")
  public void cheapestRemedy(Case c) {
    Remedy remedy = RemedySearch.cheapest(c.judgement(), c.facts().reach());
    JsonNode expected = c.expected().get("remedy");
    List<String> theirs = new ArrayList<>();
    for (JsonNode change : expected.get("changes")) {
      theirs.add(
          change.get("control").stringValue()
              + " "
              + (change.get("from").isNull() ? null : ExampleReader.plain(change.get("from")))
              + " → "
              + ExampleReader.plain(change.get("to")));
    }
    List<String> ours = new ArrayList<>();
    for (Remedy.Change change : remedy.changes()) {
      Control control = change.control();
      ours.add(
          control.id()
              + " "
              + Judgement.plain(control, change.from())
              + " → "
              + control.plain(change.to()));
    }
    theirs.sort(null);
    ours.sort(null);
    assertEquals(ours.toString(), theirs.toString());
    assertEquals(remedy.complete(), expected.get("complete").booleanValue());
  }

  @DataProvider
  public Object[][] doorCases() {
    return ExampleReader.lines("door.jsonl").stream()
        .map(node -> new Object[] {node})
        .toArray(Object[][]::new);
  }

  @Test(dataProvider = "doorCases")
  public void door(JsonNode c) {
    ControlValues values = ExampleReader.controls(c.get("controls"));
    JsonNode j = c.get("joiner");
    Joiner joiner =
        new Joiner(
            Standing.valueOf(j.get("standing").stringValue().toUpperCase(Locale.ROOT)),
            Tie.valueOf(j.get("tie").stringValue().toUpperCase(Locale.ROOT).replace('-', '_')),
            Route.valueOf(j.get("route").stringValue().toUpperCase(Locale.ROOT)),
            j.get("holdsPasscode").booleanValue(),
            j.get("removed").booleanValue(),
            j.get("region").stringValue(null),
            j.get("listedPresenter").booleanValue());
    JsonNode m = c.get("moment");
    Passage passage =
        Door.pass(
            values,
            joiner,
            new Moment(
                m.get("minutesFromStart").intValue(),
                m.get("hostIn").booleanValue(),
                m.get("locked").booleanValue()));
    JsonNode expected = c.get("expected");
    assertEquals(passage.outcome().id(), expected.get("outcome").stringValue());
    DoorStep step = passage.step();
    assertEquals(step == null ? null : step.id(), expected.get("step").stringValue(null));
    if (expected.has("role")) {
      Role role = Objects.requireNonNull(passage.role());
      assertEquals(role.id(), expected.get("role").stringValue());
      if (expected.has("rights")) {
        List<String> rights =
            Roles.list(Roles.rights(values, role, joiner.route())).stream().map(Right::id).toList();
        assertEquals(
            new TreeSet<>(rights), new TreeSet<>(ExampleReader.strings(expected.get("rights"))));
      }
    }
  }
}
