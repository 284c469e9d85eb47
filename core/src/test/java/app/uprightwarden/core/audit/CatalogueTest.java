package app.uprightwarden.core.audit;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertNotEquals;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.exposure.Matrix;
import app.uprightwarden.core.meeting.Reach;
import app.uprightwarden.core.people.Persona;
import app.uprightwarden.core.people.Right;
import app.uprightwarden.core.people.Standing;
import app.uprightwarden.core.rulebook.Level;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** What the catalogue of checks declares: how grave each is by itself, and what it says. */
public class CatalogueTest {
  private static final Control CHAT = Control.CHAT;

  /** The table of checks; 0 where a rule's or a guarantee's importance counts. */
  private static final Map<String, Integer> SEVERITIES =
      Map.ofEntries(
          Map.entry("beyond-limit", 0),
          Map.entry("off-fix", 1),
          Map.entry("guarantee-broken", 0),
          Map.entry("no-effect", 0),
          Map.entry("not-evidenced", 2),
          Map.entry("weak-passcode", 3),
          Map.entry("reused-passcode", 2),
          Map.entry("leaked-passcode", 2),
          Map.entry("number-spillover", 3),
          Map.entry("presenter-not-invited", 2),
          Map.entry("no-presenter", 1),
          Map.entry("co-host-not-member", 3),
          Map.entry("host-gone", 4),
          Map.entry("host-double-booked", 3),
          Map.entry("list-waits", 1),
          Map.entry("early-entry-idle", 1),
          Map.entry("endless-series", 2),
          Map.entry("over-capacity", 2),
          Map.entry("over-length", 2),
          Map.entry("outsider-invited", 3),
          // those of meetings that a conference service holds
          Map.entry("beyond-means", 0),
          Map.entry("changed-there", 3),
          Map.entry("not-taken", 3),
          Map.entry("long-unread", 1));

  @Test
  public void eachCheckIsAsGraveAsTheTableSays() {
    Map<String, Integer> declared = new TreeMap<>();
    Auditor.catalogue().forEach(check -> declared.put(check.id(), check.baseSeverity()));
    assertEquals(declared, new TreeMap<>(SEVERITIES));
  }

  @Test
  public void noTwoChecksHaveOneTitle() {
    Set<String> titles = new HashSet<>();
    for (Check check : Auditor.catalogue()) {
      assertTrue(!check.title().isBlank() && titles.add(check.title()), check.title());
    }
  }

  private static FindingArguments about(Object value, Object allowed, boolean isFix) {
    return new FindingArguments(CHAT, isFix, value, allowed, null, List.of(), null);
  }

  private static FindingArguments of(Object value) {
    return new FindingArguments(null, false, value, null, null, List.of(), null);
  }

  private static FindingArguments broken(String persona, String right, Level level) {
    Matrix.Cell worst =
        new Matrix.Cell(
            Objects.requireNonNull(Persona.byId(persona)),
            Objects.requireNonNull(Right.byId(right)),
            level);
    return new FindingArguments(null, false, null, null, worst, List.of(), null);
  }

  @DataProvider
  Object[][] sentences() {
    FindingArguments defeated =
        new FindingArguments(
            CHAT, false, "off", null, null, List.of(Control.JOINER_MODE, Control.SIGN_IN), null);
    FindingArguments there =
        new FindingArguments(
            CHAT,
            false,
            "always",
            "off",
            null,
            List.of(),
            new FindingArguments.There("Curlew", null, null, null));
    String clash =
        " the host is due in another meeting at the same time, with no co-host to stand in.";
    return new Object[][] {
      {
        "beyond-limit",
        about("always", "off", false),
        "Chat is “always”; the rule allows no looser than “off”. " + CHAT.risk()
      },
      {
        "beyond-limit",
        about(null, "off", true),
        "Chat is “not known”; the rule says “off”. " + CHAT.risk()
      },
      {
        "off-fix",
        about("off", "always", true),
        "Chat is “off”; the rule says “always”. That is stricter than asked and lets nothing happen."
      },
      {
        "no-effect",
        defeated,
        "Chat is “off” and changes nothing here, because of Joiner mode, Sign-in."
      },
      {
        "guarantee-broken",
        broken("link-finder", "share-screen", Level.UNATTENDED),
        "Someone who finds the link can share the screen before any host is there."
      },
      {"host-double-booked", of(1), "Once" + clash},
      {"host-double-booked", of(2), "2 times" + clash},
      {
        "number-spillover",
        of(3),
        "3 times it begins less than 15 minutes after another meeting on the same number ends."
      },
      {"reused-passcode", of(2), "2 meetings share this passcode."},
      {
        "leaked-passcode",
        of("public"),
        "The passcode stands in the title or description, where anybody can read it."
      },
      {
        "leaked-passcode",
        of("not public"),
        "The passcode stands in the title or description; whoever sees the entry has it."
      },
      {
        "outsider-invited",
        of(List.of("a@x.example", "b@x.example")),
        "Invited to a confidential meeting, but unknown to the directory: a@x.example, b@x.example."
      },
      {
        "changed-there",
        there,
        "Curlew holds Chat as “always”; “off” was decided. It was changed there."
      },
    };
  }

  @Test(dataProvider = "sentences")
  public void eachIsSaidInASentence(String check, FindingArguments found, String said) {
    assertEquals(byId(check).text(found), said);
  }

  private static Check byId(String id) {
    return Auditor.catalogue().stream().filter(c -> c.id().equals(id)).findFirst().orElseThrow();
  }

  private static ControlValues random(Random random) {
    Map<Control, Value> values = new EnumMap<>(Control.class);
    for (Control control : Control.matrix()) {
      List<Value> all = new ArrayList<>(List.of(control.loosest()));
      all.addAll(control.tightenings(control.loosest()));
      values.put(control, all.get(random.nextInt(all.size())));
    }
    return ControlValues.of(values);
  }

  /** One more from an exposure of 50 on, one less below 10: at 50.0 and 10.0 themselves too. */
  @Test
  public void exposureMovesASeverityAtItsBounds() {
    Random random = new Random(11);
    Set<Integer> wanted = new TreeSet<>(List.of(99, 100, 499, 500));
    for (int round = 0; round < 2_000_000 && !wanted.isEmpty(); round++) {
      Judgement.Basis basis =
          new Judgement.Basis(random(random), new Reach(false, Standing.MEMBER, true, true));
      int tenths = basis.exposure().scoreTenths();
      if (wanted.remove(tenths)) {
        int bump = tenths == 500 ? 1 : tenths == 99 ? -1 : 0;
        assertEquals(basis.bumped(3), 3 + bump, "at " + tenths + " tenths");
        assertNotEquals(basis.bumped(1), 0, "a severity is 1 at least");
        assertTrue(basis.bumped(5) <= 5, "and 5 at most");
      }
    }
    assertEquals(wanted, Set.of(), "a set of values for each exposure");
  }
}
