package app.uprightwarden.check;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertTrue;

import com.contrastsecurity.sarif.Result;
import com.contrastsecurity.sarif.SarifSchema210;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.List;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** The command line: what it finds, how it says it, and the status it ends with. */
public class WardenCheckTest {
  private static final Clock NOW =
      Clock.fixed(Instant.parse("2027-01-04T08:00:00Z"), ZoneOffset.UTC);

  private Path directory;

  private record Ran(int status, String out, String err) {}

  private static Ran run(Object... args) {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    ByteArrayOutputStream err = new ByteArrayOutputStream();
    String[] texts = new String[args.length];
    for (int i = 0; i < args.length; i++) {
      texts[i] = String.valueOf(args[i]);
    }
    int status =
        WardenCheck.run(
            texts,
            new PrintStream(out, true, StandardCharsets.UTF_8),
            new PrintStream(err, true, StandardCharsets.UTF_8),
            NOW);
    return new Ran(
        status, out.toString(StandardCharsets.UTF_8), err.toString(StandardCharsets.UTF_8));
  }

  private Path file(String name, String text) throws IOException {
    return Files.writeString(directory.resolve(name), text);
  }

  private static String rule(String control, String value, int importance) {
    return """
    {"control": "%s", "mode": "bound", "start": "%s", "limit": "%s", "importance": %d, "reason": "Because."}
    """
        .formatted(control, value, value, importance);
  }

  private static String rulebook(String... rules) {
    return """
    {"layers": [{"scope": {"level": "organisation"}, "rules": [%s], "guarantees": []}]}
    """
        .formatted(String.join(",", rules));
  }

  private static String bundle(String rulebook, String controls) {
    return """
    {"format": "upright-warden/1",
     "organisation": {"name": "Quay", "domains": ["quay.example"], "partners": [],
       "plan": {"maxParticipants": 100, "maxMinutes": 600}, "units": [], "kinds": [], "spaces": [], "lists": []},
     "people": [{"email": "h@quay.example", "name": "H", "standing": "member", "unit": null, "active": true}],
     "rulebook": %s,
     "meetings": [{"id": "m-1", "title": "Tide\\ntable", "host": "h@quay.example", "start": "2027-01-11T09:00",
       "zone": "UTC", "minutes": 30, "controls": %s}]}
    """
        .formatted(rulebook, controls);
  }

  @BeforeClass
  public void make() throws IOException {
    directory = Files.createTempDirectory("warden-check");
  }

  @Test
  public void whatIsWithinTheRulesIsCleanAndTheGravestIsTheStatus() throws IOException {
    String rules = rulebook(rule("waiting-room", "on", 3), rule("chat", "in-session", 1));
    Path good = file("good.json", bundle(rules, "{\"waiting-room\": \"on\", \"chat\": \"off\"}"));
    Ran clean = run("--as", "json", good);
    JsonNode said = JsonMapper.builder().build().readTree(clean.out);
    assertFalse(
        said.get("findings")
            .valueStream()
            .anyMatch(f -> f.at("/finding/check").stringValue().equals("beyond-limit")));
    Path bad = file("bad.json", bundle(rules, "{\"waiting-room\": \"off\", \"chat\": \"always\"}"));
    Ran found = run(bad);
    assertEquals(found.status, 4, found.out);
    assertTrue(found.out.contains("[4 beyond-limit] Waiting room is “off”"), found.out);
    assertTrue(found.out.contains("Tide table"), "a title begins no line of its own");
    assertTrue(found.out.lines().findFirst().orElseThrow().contains("[4 "), "the gravest first");
    assertEquals(run("--fail-from", 5, bad).status, 0, "what is less grave does not make it fail");
    assertEquals(run("--fail-from", 4, bad).status, 4);
  }

  @Test
  public void anotherRulebookShowsWhatItWouldChangeAndOnlyMoreFails() throws IOException {
    Path meeting =
        file(
            "meeting.json",
            bundle(rulebook(), "{\"waiting-room\": \"off\", \"chat\": \"always\"}"));
    Path now = file("now.json", rulebook(rule("chat", "off", 2)));
    Path proposed = file("proposed.json", rulebook(rule("waiting-room", "on", 4)));
    Ran ran = run("--rulebook", proposed, "--against", now, meeting);
    assertEquals(ran.status, 5, ran.out);
    assertTrue(ran.out.contains("+ ") && ran.out.contains("- "), ran.out);
    assertTrue(ran.out.lines().anyMatch(l -> l.startsWith("+ ") && l.contains("Waiting room")));
    assertTrue(ran.out.lines().anyMatch(l -> l.startsWith("- ") && l.contains("Chat")));
    Ran same = run("--rulebook", proposed, "--against", proposed, meeting);
    assertEquals(same.status, 0, same.out);
    assertTrue(same.out.startsWith("0 more and 0 fewer"), same.out);
  }

  @Test
  public void yamlIsTheSameRulebook() throws IOException {
    Path meeting = file("y.json", bundle(rulebook(), "{\"waiting-room\": \"off\"}"));
    Path yaml =
        file(
            "rules.yaml",
            """
            layers:
              - scope: {level: organisation}
                guarantees: []
                rules:
                  - control: waiting-room
                    mode: bound
                    start: "on"
                    limit: "on"
                    importance: 3
                    reason: Because.
            """);
    Path json = file("rules.json", rulebook(rule("waiting-room", "on", 3)));
    assertEquals(run("--rulebook", yaml, meeting), run("--rulebook", json, meeting));
    assertEquals(run("--rulebook", yaml, meeting).status, 4, "its importance, and nobody is held");
  }

  @Test
  public void aCalendarIsJudgedByItsEvents() throws IOException {
    Path calendar =
        file(
            "week.ics",
            String.join(
                "\r\n",
                "BEGIN:VCALENDAR",
                "VERSION:2.0",
                "PRODID:-//Quay//Test//EN",
                "BEGIN:VEVENT",
                "UID:one@quay.example",
                "DTSTAMP:20270101T000000Z",
                "DTSTART:20270111T090000Z",
                "DTEND:20270111T093000Z",
                "SUMMARY:Harbour call",
                "ORGANIZER:mailto:h@quay.example",
                "END:VEVENT",
                "END:VCALENDAR",
                ""));
    Path rules = file("strict.json", rulebook(rule("waiting-room", "on", 4)));
    Ran ran = run("--rulebook", rules, "--as", "json", calendar);
    JsonNode said = JsonMapper.builder().build().readTree(ran.out);
    assertEquals(said.get("meetings").intValue(), 1, ran.out);
    assertTrue(
        said.get("findings")
            .valueStream()
            .anyMatch(
                f ->
                    f.get("title").stringValue().equals("Harbour call")
                        && f.at("/finding/check").stringValue().equals("not-evidenced")),
        ran.out);
  }

  @Test
  public void sarifIsReadByALibraryThatIsNotOurs() throws IOException {
    Path meeting = file("sarif.json", bundle(rulebook(), "{\"waiting-room\": \"off\"}"));
    Path now = file("sarif-now.json", rulebook(rule("chat", "off", 2)));
    Path proposed = file("sarif-next.json", rulebook(rule("waiting-room", "on", 4)));
    Ran ran = run("--as", "sarif", "--rulebook", proposed, "--against", now, meeting);
    // java-sarif reads it by the schema as published (OASIS SARIF 2.1.0)
    SarifSchema210 sarif = new ObjectMapper().readValue(ran.out, SarifSchema210.class);
    List<Result> results = sarif.getRuns().get(0).getResults();
    assertTrue(
        results.stream()
            .anyMatch(
                r ->
                    r.getRuleId().equals("beyond-limit")
                        && r.getLevel() == Result.Level.ERROR
                        && r.getBaselineState() == Result.BaselineState.NEW
                        && r.getLocations()
                            .get(0)
                            .getPhysicalLocation()
                            .getArtifactLocation()
                            .getUri()
                            .endsWith("sarif.json")));
    assertTrue(results.stream().anyMatch(r -> r.getBaselineState() == Result.BaselineState.ABSENT));
  }

  @Test
  public void whatIsWrongIsSaidWithWhereAndEndsWithAStatusOfItsOwn() throws IOException {
    assertEquals(run().status, WardenCheck.USAGE);
    assertEquals(run("--as", "xml", "x.json").status, WardenCheck.USAGE);
    assertEquals(run("--frob", "1", "x.json").status, WardenCheck.USAGE);
    assertEquals(run("--from", "2027-02-30", "x.json").status, WardenCheck.USAGE);
    assertEquals(run("--from", "2027-02-02", "--to", "2027-02-01", "x").status, WardenCheck.USAGE);
    Ran none = run(directory.resolve("none.json"));
    assertEquals(none.status, WardenCheck.NO_INPUT);
    assertTrue(none.err.contains("there is no such file"), none.err);
    Ran broken = run(file("broken.json", "{\"format\": "));
    assertEquals(broken.status, WardenCheck.BAD_DATA);
    assertTrue(broken.err.contains("line 1"), broken.err);
    Ran wrong = run(file("wrong.json", bundle(rulebook(), "{\"waiting-room\": \"perhaps\"}")));
    assertEquals(wrong.status, WardenCheck.BAD_DATA);
    assertTrue(wrong.err.contains("/meetings/0/controls/waiting-room"), wrong.err);
    Ran noRules = run(file("calendar.ics", "BEGIN:VCALENDAR\r\nEND:VCALENDAR\r\n"));
    assertEquals(noRules.status, WardenCheck.BAD_DATA);
    assertTrue(noRules.err.contains("none was named"), noRules.err);
    Ran help = run("--help");
    assertEquals(help.status, WardenCheck.CLEAN);
    assertTrue(help.out.contains("--against"), help.out);
  }
}
