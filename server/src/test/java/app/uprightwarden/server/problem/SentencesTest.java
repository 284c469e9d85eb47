package app.uprightwarden.server.problem;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.core.audit.Auditor;
import app.uprightwarden.core.audit.Check;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** What the server says in other languages: all of it, with all that is in it. */
public class SentencesTest {
  private static final Path SERVER =
      Path.of("src/main/java/app/uprightwarden/server").toAbsolutePath();
  private static final Path CORE =
      Path.of("../core/src/main/java/app/uprightwarden/core").toAbsolutePath().normalize();

  /** What no page shows and no letter has: protocols, the demo, starting up; printed pages. */
  private static final List<String> NOT_SAID =
      List.of(
          "access/SecondFactor",
          "bridge/SignedTelling",
          "bridge/standin/",
          "calendars/Recognised",
          "demo/",
          "floor/FloorFiles",
          "ledger/LedgerAnchors",
          "limits/TrustedProxies",
          "limits/WithBody",
          "persistence/",
          "print/",
          "reports/Evidence",
          "reports/Sarif",
          "schema/OpenApi",
          "scim/",
          "services/AdapterCheck",
          "vault/KeyFile",
          "OpenApiConfig",
          "DeadlockRetry");

  /** Declared things have their German in the catalogue's bundle, and these the findings' own. */
  private static final List<String> DECLARED =
      List.of(
          "audit/",
          "control/",
          "door/",
          "drafting/RegisterIndex",
          "exposure/EntryTable",
          "meeting/",
          "people/",
          "remedy/",
          "rulebook/Level",
          "rulebook/TraceStep",
          "session/SessionBook");

  private static final Set<String> NO_WORDS_OF_OURS =
      Set.of(
          "Bearer {}",
          "Basic {}",
          "upright warden",
          "Upright Warden",
          "a text cannot fail to be read");

  private static Map<String, String> spoken() throws IOException {
    Map<String, String> all = new LinkedHashMap<>(SourceTexts.of(SERVER, NOT_SAID));
    SourceTexts.of(CORE, DECLARED).forEach(all::putIfAbsent);
    NO_WORDS_OF_OURS.forEach(all::remove);
    return all;
  }

  @DataProvider
  public Object[][] others() {
    return Languages.ALL.stream()
        .filter(language -> !language.equals(Locale.ENGLISH))
        .map(language -> new Object[] {language})
        .toArray(Object[][]::new);
  }

  @Test(dataProvider = "others")
  public void everySentenceOfTheSourcesIsThere(Locale language) throws IOException {
    Map<String, String> texts = Sentences.texts(language);
    List<String> missing = new ArrayList<>();
    spoken()
        .forEach(
            (text, file) -> {
              if (!texts.containsKey(text) && !texts.containsKey(text + ":")) {
                missing.add(file + ": " + text);
              }
            });
    assertEquals(missing, List.of(), String.join("\n", missing));
  }

  @Test(dataProvider = "others")
  public void noneIsThereThatNobodySays(Locale language) throws IOException {
    Set<String> said = new HashSet<>(spoken().keySet());
    StringBuilder sources = new StringBuilder();
    for (Path base : List.of(SERVER, CORE)) {
      try (Stream<Path> files = Files.walk(base)) {
        for (Path file : files.filter(f -> f.toString().endsWith(".java")).toList()) {
          sources.append(Files.readString(file));
        }
      }
    }
    List<String> unused =
        Sentences.texts(language).keySet().stream()
            .filter(text -> !said.contains(text))
            // a label has its colon in the bundle alone
            .filter(text -> !text.endsWith(":") || sources.indexOf('"' + cut(text) + '"') < 0)
            .filter(text -> sources.indexOf('"' + text + '"') < 0)
            .filter(text -> !text.contains("{}") || sources.indexOf(text.replace("{}", "")) < 0)
            .toList();
    assertEquals(unused, List.of(), String.join("\n", unused));
  }

  private static String cut(String label) {
    return label.substring(0, label.length() - 1);
  }

  @Test(dataProvider = "others")
  public void valuesGoWhereTheyBelong(Locale language) {
    List<String> faults = new ArrayList<>();
    Sentences.texts(language)
        .forEach(
            (english, other) -> {
              int places = english.split("\\{}", -1).length - 1;
              Set<Integer> used = new TreeSet<>();
              Pattern.compile("\\{(\\d+)!?}")
                  .matcher(other)
                  .results()
                  .forEach(place -> used.add(Integer.parseInt(place.group(1))));
              boolean isPlain = !Pattern.compile("\\{}|\\{(?!\\d+!?})").matcher(other).find();
              if (!isPlain || used.stream().anyMatch(n -> n < 1 || n > places)) {
                faults.add(english + " → " + other);
              }
            });
    assertEquals(faults, List.of(), String.join("\n", faults));
  }

  @DataProvider
  public static Object[][] german() {
    return new Object[][] {
      {"Some values are wrong.", "Einige Werte sind falsch."},
      {"There is no audit 7 for you.", "Ein Audit 7 gibt es für Sie nicht."},
      // a number, and what is counted beside it
      {
        "2 meetings refer to it. Take it out of those first. Nothing was changed.",
        "2 Besprechungen beziehen sich darauf. Nehmen Sie es dort zuerst heraus. Nichts wurde"
            + " geändert."
      },
      // what stands within is of ours too, and what people wrote stays theirs
      {
        "Waiting room may be no looser than “members” in this session. A warden can allow it for"
            + " this session.",
        "Warteraum darf in dieser Sitzung nicht lockerer sein als „Mitglieder“. Eine Aufsicht kann"
            + " es für diese Sitzung erlauben."
      },
      {
        "There is a draft “Some values are wrong.” already. Choose another name.",
        "Einen Entwurf „Some values are wrong.“ gibt es schon. Wählen Sie einen anderen Namen."
      },
      {
        "The password is guessed too easily; four words that do not belong together make a good"
            + " one. Nothing was changed.",
        "Das Kennwort ist zu leicht zu erraten; vier Wörter, die nicht zusammengehören, ergeben ein"
            + " gutes. Nichts wurde geändert."
      },
      // two values side by side: where the first is ours it ends with it
      {
        "Rob, someone who finds the link, can share the screen and came in without being let in.",
        "Rob: wer den Link findet, kann den Bildschirm teilen und kam herein, ohne eingelassen zu"
            + " werden."
      },
      {
        "A meeting in which nothing was changed breaks this: someone who finds the link can share"
            + " the screen once a host lets them in.",
        "Eine Besprechung, in der nichts geändert wurde, bricht dies: wer den Link findet, kann den"
            + " Bildschirm teilen, sobald ein Gastgeber einlässt."
      },
      {
        "Nobody who was passed an invitation or finds the link may share the screen or record,"
            + " except once a host lets them in.",
        "Niemand, der eine Einladung weitergereicht bekam oder den Link findet, darf den Bildschirm"
            + " teilen oder aufnehmen, außer sobald ein Gastgeber einlässt."
      },
      {"Nobody who finds the link may listen in.", "Niemand, der den Link findet, darf zuhören."},
      {
        "Rob shares the screen and was not invited.",
        "Rob teilt den Bildschirm und war nicht eingeladen."
      },
      {
        "Rob shares the screen as attendee, more than the rule has.",
        "Rob teilt den Bildschirm als teilnehmend, mehr als die Regel hat."
      },
      {
        "Screen share was set to “everyone” by Malachy Stack.",
        "Bildschirm teilen wurde von Malachy Stack auf „alle“ gesetzt."
      },
      {
        "Rob is in as attendee, let in by Ann.",
        "Rob ist drinnen als teilnehmend, eingelassen von Ann."
      },
      {"Rob was removed and barred by Ann.", "Rob wurde entfernt und ausgesperrt von Ann."},
      {"Rob was made co-host by Ann.", "Rob hat von Ann die Rolle Mitgastgeber bekommen."},
      {"Rob was made co-host.", "Rob hat die Rolle Mitgastgeber bekommen."},
      {"The meeting was locked.", "Die Besprechung wurde verschlossen."},
      {"Rob came to the door by telephone.", "Rob kam an die Tür per Telefon."},
      // several in a row, and lines of a letter
      {
        "There is no such request. Some values are wrong.",
        "Diese Anfrage gibt es nicht. Einige Werte sind falsch."
      },
      {
        "A reminder: nobody has answered this yet.\n\n1. Endless\n   Proposed: Chat: off\n",
        "Eine Erinnerung: darauf hat noch niemand geantwortet.\n\n1. Endless\n   Vorgeschlagen: Chat:"
            + " off\n"
      },
      // dates within, as each of our letters has them
      {
        "After Thursday 3 December, 09:30 UTC the change may be made without you.",
        "Nach Donnerstag, den 3. Dezember, 09:30 UTC kann die Änderung ohne Sie vorgenommen werden."
      },
      {
        "The waiver for 3 March 2026 10:00 ends on Tuesday 3 March 2026 at 10:00 UTC.",
        "Die Ausnahme für 3 March 2026 10:00 endet am Dienstag, den 3. März 2026 um 10:00 UTC."
      },
      {"comes into force on 1 May 2026 at 00:00 UTC", "tritt in Kraft am 1. Mai 2026 um 00:00 UTC"},
      {
        "a@b.example has named you to stand in as the warden of Pilots, from 1 May 2026 08:00 to"
            + " 12 May 2026 18:00 (UTC).",
        "a@b.example hat Sie benannt, als Aufsicht für Pilots zu vertreten, von 1. Mai 2026 08:00"
            + " bis 12. Mai 2026 18:00 (UTC)."
      },
      {
        "a@b.example set what this account signs in with on 1 October 2026 08:00 UTC. Its consent"
            + " counts from 2 October 2026 08:00 UTC on.",
        "a@b.example hat am 1. Oktober 2026 08:00 UTC gesetzt, womit sich dieses Konto anmeldet."
            + " Seine Zustimmung zählt ab 2. Oktober 2026 08:00 UTC."
      },
      {
        "a@b.example proposes Thu 3 Dec 2026 09:30 Europe/Berlin for “Pilots”. Nothing was changed:"
            + " move the meeting, or tell them that it stays.",
        "a@b.example schlägt Do., 3. Dez. 2026 09:30 Europe/Berlin vor für „Pilots“. Nichts wurde"
            + " geändert: verlegen Sie die Besprechung, oder sagen Sie, dass sie bleibt."
      },
      {
        "a@b.example proposes Thu 3 Dec 2026 09:30 for “Pilots”. Nothing was changed: move the"
            + " meeting, or tell them that it stays.",
        "a@b.example schlägt Do., 3. Dez. 2026 09:30 vor für „Pilots“. Nichts wurde geändert:"
            + " verlegen Sie die Besprechung, oder sagen Sie, dass sie bleibt."
      },
      // no day of that name is this one
      {
        "After Tomorrow 3 December, 09:30 UTC the change may be made without you.",
        "Nach Tomorrow 3 December, 09:30 UTC kann die Änderung ohne Sie vorgenommen werden."
      },
      {"Storm call, outer channel", "Storm call, outer channel"},
      {"", ""},
      {" \n ", " \n "},
    };
  }

  @Test(dataProvider = "german")
  public void aSentenceIsFoundAgainByWhatItSays(String english, String german) {
    assertEquals(Sentences.said(english, Locale.GERMAN), german);
    assertEquals(Sentences.said(english, Locale.ENGLISH), english);
    assertEquals(Sentences.said(english, Locale.FRENCH), english);
  }

  @Test
  public void longOnesAndThoseThatPretendAreReadInOneGo() {
    String long_ = "x was set to “" + "”; the rule says “".repeat(200);
    assertTrue(Sentences.said(long_, Locale.GERMAN).startsWith("x "));
    String letter = "Some values are wrong.\n".repeat(1000);
    assertEquals(Sentences.said(letter, Locale.GERMAN), "Einige Werte sind falsch.\n".repeat(1000));
    String nested = "The calendar ".repeat(300) + ".";
    assertFalse(Sentences.said(nested, Locale.GERMAN).isEmpty());
  }

  @Test
  public void sourcesAreReadAsTheCompilerReadsThem() throws IOException {
    Map<String, String> found = SourceTexts.of(SERVER, List.of());
    assertTrue(found.containsKey("There is no audit {} for you."));
    assertTrue(found.values().stream().anyMatch(file -> file.startsWith("demo/")));
    for (Check check : Auditor.catalogue()) {
      assertFalse(found.containsKey(check.title()), check.id());
    }
  }
}
