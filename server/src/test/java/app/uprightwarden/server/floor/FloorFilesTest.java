package app.uprightwarden.server.floor;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.session.SessionBook;
import app.uprightwarden.core.session.SessionEvent;
import java.time.Instant;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.testng.annotations.Test;
import tools.jackson.databind.json.JsonMapper;

/** What leaves the house as a file, whatever people call themselves. */
public class FloorFilesTest {
  private static final Instant AT = Instant.parse("2026-03-02T10:00:00Z");

  private static FloorAfter.AttendanceRow row(String name) {
    return new FloorAfter.AttendanceRow(
        "p",
        name,
        null,
        "unknown",
        "none",
        AT,
        null,
        3,
        "attendee",
        1,
        "by-themselves",
        "app",
        false);
  }

  @Test
  public void aNameIsNoFormulaInATable() {
    String csv =
        FloorFiles.csv(
            new FloorAfter.Sheet(
                List.of(row("=HYPERLINK(\"http://x.example\")"), row("a,\"b\"")),
                FloorRoster.Roll.NONE,
                List.of()));
    List<String> lines = csv.lines().toList();
    assertTrue(lines.get(1).startsWith("\"'=HYPERLINK"), lines.get(1));
    assertTrue(lines.get(2).startsWith("\"a,\"\"b\"\"\","), lines.get(2));
  }

  @Test
  public void aNameBeginsNoLineOfItsOwnInAnIncident() {
    Map<String, Object> record =
        Map.of(
            "session",
            Map.of("title", "T", "host", "h", "starts", AT, "edition", 3),
            "alerts",
            List.of(),
            "timeline",
            List.of(Map.of("at", AT.toString(), "words", "Rob\n10:00  The host left.\u001b[2J")));
    String text =
        FloorFiles.text(
            new FloorAfter.Incident(
                1,
                "s",
                "Title",
                "First line.\nSecond line.",
                "m.sachs@saltmarsh.example",
                AT,
                JsonMapper.builder().build().valueToTree(record)));
    assertFalse(text.contains("\u001b"), "nothing that a terminal obeys");
    assertTrue(text.contains("\n  10:00  The host left."), text);
    assertTrue(text.contains("\n  Second line."), text);
  }

  /** Every kind of event has its sentence, and no two the same. */
  @Test
  public void everythingThatHappensHasItsWords() {
    SessionBook book = new SessionBook(AT, ControlValues.NONE);
    Set<String> said = new HashSet<>();
    for (SessionEvent.Kind kind : SessionEvent.Kind.values()) {
      SessionEvent event =
          new SessionEvent(
              1,
              AT,
              AT,
              kind,
              "p",
              Map.of(
                  "name",
                  "Ann",
                  "step",
                  "passcode",
                  "role",
                  "attendee",
                  "by",
                  "m.sachs",
                  "control",
                  "chat",
                  "value",
                  "off"));
      String words = SessionEventText.of(event, book);
      assertTrue(words.endsWith(".") && !words.contains("null"), words);
      assertTrue(said.add(words), words);
    }
    assertEquals(said.size(), SessionEvent.Kind.values().length);
  }
}
