package app.uprightwarden.acceptance;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import org.testng.annotations.AfterClass;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;

/**
 * Every page and the dialogs against axe-core 4.14, all its rules at their defaults: WCAG 2.0 to
 * 2.2, levels A and AA, and its best practices; in the dark theme, those on colours. What it cannot
 * judge by itself, such as whether a label says something, is not judged here.
 */
public class AccessibilityTest {
  static final List<String> PAGES =
      List.of(
          "/lookout",
          "/rulebook?family=waiting-room&control=lobby-bypass",
          "/rulebook/compare",
          "/rulebook/editions",
          "/outbox",
          "/register",
          "/register?view=week",
          "/register/new",
          "/register/m-0001",
          "/register/m-0001/edit",
          "/register/cancelled",
          "/people",
          "/people/groups",
          "/people/m.okafor@saltmarsh.example",
          "/audit",
          "/audit/compare",
          "/audit/trends",
          "/audit/remedies",
          "/audit/requests",
          "/audit/waivers",
          "/audit/runs",
          "/floor",
          "/account",
          "/house/accounts",
          "/house/tokens",
          "/house/directory",
          "/house/conference",
          "/house/alerts",
          "/house/keeping",
          "/house/service",
          "/ledger",
          "/door?meeting=m-0001",
          "/help",
          "/help/checks",
          "/nowhere");
  private static final String RUN =
      "const done = arguments[arguments.length - 1];"
          + "axe.run(document, {resultTypes: ['violations'] RULES}).then(r => done(r.violations.flatMap("
          + "v => v.nodes.map(n => v.id + ' at ' + n.target.join(' ')))))";

  private static final String ALL_RULES = RUN.replace("RULES", "");

  /** What else a theme could break: it changes colours, and no element. */
  private static final String COLOURS =
      RUN.replace(
          "RULES", ", runOnly: {type: 'rule', values: ['color-contrast', 'link-in-text-block']}");

  /** Comes back when what was asked for is on the screen. */
  private static final String DRAWN =
      "const done = arguments[arguments.length - 1];"
          + "requestAnimationFrame(() => requestAnimationFrame(() => done()))";

  private RunningWarden warden;
  private String axe;

  @BeforeClass
  public void start() throws IOException, InterruptedException {
    warden = RunningWarden.startAnew("warden_accessibility", Map.of());
    axe = Files.readString(Path.of("../web/node_modules/axe-core/axe.min.js"));
  }

  @AfterClass(alwaysRun = true)
  public void stop() {
    if (warden != null) {
      warden.close();
    }
  }

  /** Names that files and addresses have, wherever people read: of checks, controls, meetings. */
  private static final String IDS =
      "const done = arguments[arguments.length - 1];"
          + "fetch('/api/catalogue').then(r => r.ok ? r.json() : {checks: [], controls: []}).then(c"
          + " => {"
          // sign-in is a word
          + "  const ids = [...c.checks, ...c.controls].map(i => i.id).filter(i =>"
          + " i.includes('-') && i !== 'sign-in');"
          + "  const one = new RegExp('(?<![\\\\w-])(' + [...ids, 'm-\\\\d{4}'].join('|') +"
          + " ')(?![\\\\w-])', 'g');"
          + "  done([...new Set(document.body.innerText.match(one) ?? [])]);"
          + "})";

  /** Tables in which a row has more or fewer cells than there are headings. */
  private static final String UNEVEN =
      "const width = r => [...r.cells].reduce((n, c) => n + c.colSpan, 0);"
          + "return [...document.querySelectorAll('table')].flatMap(t => {"
          + "  if (t.tHead?.rows.length !== 1 || t.querySelector('[rowspan]')) return [];"
          + "  const row = [...t.tBodies].flatMap(b => [...b.rows])"
          + "      .find(r => width(r) !== width(t.tHead.rows[0]));"
          + "  return row ? [row.innerText.slice(0, 60)] : [];"
          + "});";

  /** Looks at what is open in both themes: another theme is another mark at the root. */
  private void look(Browser browser, String where, List<String> faults) {
    browser.script(axe);
    faults(browser, ALL_RULES, "light " + where, faults);
    for (Object each : (List<?>) browser.asynchronously(IDS)) {
      faults.add(where + " shows a name that only files have: " + each);
    }
    for (Object each : (List<?>) browser.script(UNEVEN)) {
      faults.add(where + " has a row that its headings do not fit: " + each);
    }
    browser.script("document.documentElement.dataset.theme = 'dark'");
    faults(browser, COLOURS, "dark " + where, faults);
    browser.script("document.documentElement.dataset.theme = 'light'");
  }

  private static void faults(Browser browser, String run, String where, List<String> faults) {
    for (Object each : (List<?>) browser.asynchronously(run)) {
      faults.add(where + ": " + each);
    }
  }

  @Test
  public void nothingIsInTheWayOfThoseWhoHearOrTypeAPageAndNothingIsBesideTheEdge() {
    List<String> faults = new ArrayList<>();
    Set<String> titles = new TreeSet<>();
    try (Browser browser = new Browser(warden.address())) {
      browser.go("/");
      browser.sees("Address");
      browser.script("document.documentElement.dataset.theme = 'light'");
      look(browser, "sign-in", faults);
      browser.knowsWhatIsAsked();
      browser.signIn("m.sachs");
      browser.go("/help/controls"); // says what controls are called in files
      browser.sees("in files");
      assertFalse(((List<?>) browser.asynchronously(IDS)).isEmpty(), "such names are found");
      for (String page : PAGES) {
        browser.opens(page);
        look(browser, page, faults);
        titles.add((String) browser.script("return document.title"));
        if (!page.contains("view=week")) { // seven days have the width that they need
          atEveryWidth(browser, page, faults);
        }
      }
      browser.go("/register");
      browser.press("Import and export");
      browser.sees("Export");
      look(browser, "import dialog", faults);
      browser.go("/audit");
      browser.sees("by urgency");
      browser.find("[role=rowheader] button").click();
      browser.sees("because");
      look(browser, "an open finding", faults);
      browser.find("[role=rowheader] ~ [role=cell] button[aria-label$='Guarantees']").click();
      browser.sees("How it would go");
      look(browser, "a broken guarantee", faults);
      browser.keys("?");
      browser.sees("Keys");
      look(browser, "keys", faults);
      // a session of the demo: removing and locking are within reach
      browser.go("/floor");
      browser.sees("Sessions");
      browser.find("tbody a").click();
      browser.sees("At the door");
      atEveryWidth(browser, "session", faults);
    }
    assertEquals(faults, List.of(), String.join("\n", faults));
    assertEquals(titles.size() > 25, true, "pages have titles of their own: " + titles);
  }

  @Test
  public void aThemeIsChosenAndKept() {
    String theme = "return document.documentElement.dataset.theme";
    String other = "header button:has(.hidden-label)"; // Dark, and behind it unseen: theme
    try (Browser browser = new Browser(warden.address())) {
      browser.signIn("m.sachs");
      assertEquals(browser.script(theme), "light");
      browser.find(other).click();
      browser.until("it is dark", b -> browser.script(theme).equals("dark"));
      browser.go("/register");
      browser.sees("Import and export");
      assertEquals(browser.script(theme), "dark");
      browser.find(other).click();
      browser.until("it is light", b -> browser.script(theme).equals("light"));
    }
  }

  private static final String BEYOND =
      "const out = [];"
          + "if (document.scrollingElement.scrollWidth > innerWidth) out.push('the page scrolls"
          + " sideways');"
          + "for (const e of document.querySelectorAll('#work, #work *')) {"
          + "  const o = getComputedStyle(e).overflowX;"
          + "  if ((o === 'auto' || o === 'scroll') && e.scrollWidth > e.clientWidth + 1)"
          + "    out.push(e.tagName + '.' + e.className + ' scrolls sideways');"
          + "  if (e.getBoundingClientRect().right > innerWidth + 1 && !e.closest('.hidden-label, svg,"
          + " .truncate') && o !== 'hidden')"
          + "    out.push(e.tagName + '.' + (e.className.baseVal ?? e.className) + ' is beside the"
          + " edge');"
          + "}"
          + "return out.slice(0, 3)";

  /** As wide as a screen, a small one, half of it, a tablet and a telephone. */
  private static void atEveryWidth(Browser browser, String page, List<String> faults) {
    for (int width : List.of(1280, 1024, 900, 600, 390)) {
      beyondTheEdge(browser, width, page, faults);
    }
    browser.width(1280);
  }

  /** Notes what of the page that is open would be beside the edge at a width. */
  static void beyondTheEdge(Browser browser, int width, String page, List<String> faults) {
    browser.width(width);
    browser.asynchronously(DRAWN);
    for (Object each : (List<?>) browser.script(BEYOND)) {
      faults.add(width + " " + page + ": " + each);
    }
  }

  @Test
  public void aHostHasEverythingOnATelephone() {
    List<String> faults = new ArrayList<>();
    try (Browser host = new Browser(warden.address())) {
      host.knowsWhatIsAsked();
      host.signIn("m.okafor");
      host.width(390);
      for (String page : List.of("/lookout", "/corner", "/register/new", "/floor", "/account")) {
        host.opens(page);
        for (Object each : (List<?>) host.script(BEYOND)) {
          faults.add("host " + page + ": " + each);
        }
      }
    }
    assertEquals(faults, List.of(), String.join("\n", faults));
  }
}
