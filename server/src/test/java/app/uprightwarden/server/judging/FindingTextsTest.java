package app.uprightwarden.server.judging;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.core.audit.Auditor;
import app.uprightwarden.core.audit.Check;
import app.uprightwarden.core.audit.FindingArguments;
import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.door.DoorReason;
import app.uprightwarden.core.exposure.Matrix;
import app.uprightwarden.core.meeting.Weakness;
import app.uprightwarden.core.people.Persona;
import app.uprightwarden.core.people.Right;
import app.uprightwarden.core.rulebook.Level;
import app.uprightwarden.core.rulebook.Mode;
import app.uprightwarden.core.rulebook.Scope;
import app.uprightwarden.core.rulebook.TraceStep;
import app.uprightwarden.server.problem.Languages;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.function.Supplier;
import org.springframework.context.i18n.LocaleContextHolder;
import org.testng.annotations.Test;

/** What is found, door and rules, said in German; each English sentence has one. */
public class FindingTextsTest {
  private static final Control CHAT = Objects.requireNonNull(Control.byId("chat"));

  private static String german(Supplier<String> said) {
    LocaleContextHolder.setLocale(Locale.GERMANY);
    try {
      return said.get();
    } finally {
      LocaleContextHolder.resetLocaleContext();
    }
  }

  private static Check check(String id) {
    return Auditor.catalogue().stream().filter(c -> c.id().equals(id)).findFirst().orElseThrow();
  }

  private static FindingArguments about(Object value, Object allowed, boolean fix) {
    return new FindingArguments(CHAT, fix, value, allowed, null, List.of(CHAT), null);
  }

  @Test
  public void everyCheckHasASentence() {
    Matrix.Cell worst =
        new Matrix.Cell(
            Persona.all().iterator().next(),
            Right.all().iterator().next(),
            Level.all().iterator().next());
    var there =
        new FindingArguments.There("Curlew", "h@x.example", "2026-11-02T09:00:00Z", "it is shut");
    for (Check check : Auditor.catalogue()) {
      boolean isCount =
          List.of("host-double-booked", "number-spillover", "reused-passcode", "list-waits")
              .contains(check.id());
      boolean isControl =
          List.of(
                  "beyond-limit",
                  "off-fix",
                  "no-effect",
                  "not-evidenced",
                  "beyond-means",
                  "changed-there",
                  "not-taken")
              .contains(check.id());
      FindingArguments found =
          new FindingArguments(
              isControl ? CHAT : null,
              false,
              isControl ? "always" : isCount ? 3 : List.of("a@x.example", "b@x.example"),
              isControl ? "off" : 90,
              worst,
              List.of(CHAT),
              there);
      String said = german(() -> FindingTexts.of(check, found));
      String english = FindingTexts.of(check, found);
      assertEquals(english, check.text(found), check.id());
      assertFalse(said.equals(english), check.id());
      assertFalse(said.contains("{") || said.contains("null"), said);
      assertTrue(said.endsWith("."), said);
    }
  }

  @Test
  public void sentencesReadAsPeopleWouldSayThem() {
    assertEquals(
        german(() -> FindingTexts.of(check("beyond-limit"), about("always", "off", false))),
        "Chat ist „immer“; die Regel erlaubt nichts Lockereres als „aus“. Leute schreiben an alle,"
            + " wenn sie es nicht sollten.");
    assertEquals(
        german(() -> FindingTexts.of(check("beyond-limit"), about("always", "off", true)))
            .substring(0, 39),
        "Chat ist „immer“; die Regel sagt „aus“.");
    assertEquals(
        german(
            () ->
                FindingTexts.of(
                    check("changed-there"),
                    new FindingArguments(
                        CHAT,
                        false,
                        "always",
                        "off",
                        null,
                        List.of(),
                        new FindingArguments.There("Curlew", null, null, null)))),
        "Curlew führt Chat als „immer“; entschieden war „aus“. Es wurde dort geändert.");
    assertEquals(
        german(
            () ->
                FindingTexts.of(
                    check("guarantee-broken"),
                    new FindingArguments(
                        null,
                        false,
                        null,
                        null,
                        new Matrix.Cell(
                            Objects.requireNonNull(Persona.byId("link-finder")),
                            Objects.requireNonNull(Right.byId("share-screen")),
                            Objects.requireNonNull(Level.byId("unattended"))),
                        List.of(),
                        null))),
        "Wer den Link findet, kann den Bildschirm teilen, bevor ein Gastgeber da ist.");
    var times = new FindingArguments(null, false, 1, null, null, List.of(), null);
    assertEquals(
        german(() -> FindingTexts.of(check("host-double-booked"), times)).substring(0, 6),
        "Einmal");
  }

  @Test
  public void whyAPasscodeIsWeakIsSaid() {
    for (Weakness weakness : Weakness.values()) {
      if (weakness != Weakness.NONE) {
        var found =
            new FindingArguments(null, false, weakness.phrase(), null, null, List.of(), null);
        String said = german(() -> FindingTexts.of(check("weak-passcode"), found));
        assertFalse(said.contains(weakness.phrase()), said);
      }
    }
  }

  @Test
  public void theDoorsReasonsAndTheRulesAreSaid() {
    for (DoorReason reason : DoorReason.values()) {
      assertEquals(FindingTexts.of(reason), reason.words());
      assertFalse(german(() -> FindingTexts.of(reason)).equals(reason.words()), reason.id());
    }
    for (Mode mode : Mode.values()) {
      for (TraceStep.Action action : TraceStep.Action.values()) {
        for (boolean sealed : new boolean[] {true, false}) {
          var said =
              new TraceStep.Said(
                  Scope.parse("unit:pilotage"), CHAT, mode, CHAT.parse("off"), sealed, action);
          assertEquals(FindingTexts.of(said), said.words());
          String german = german(() -> FindingTexts.of(said));
          assertTrue(german.startsWith("Der Bereich pilotage "), german);
          assertTrue(german.contains(" aus") && german.endsWith("."), german);
        }
      }
    }
  }

  @Test
  public void whatIsTheSameForEverybodyIsEnglish() {
    assertEquals(
        german(() -> Languages.inEnglish(() -> FindingTexts.of(DoorReason.WAITS))),
        DoorReason.WAITS.words());
    assertEquals(Languages.of(Locale.forLanguageTag("de-AT")), Locale.GERMAN);
    assertEquals(Languages.of(Locale.FRENCH), Locale.ENGLISH);
    assertEquals(Languages.current(), Locale.ENGLISH);
  }
}
