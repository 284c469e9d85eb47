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
 * Every page and the dialogs in both themes against axe-core 4.14, all its rules at their defaults:
 * WCAG 2.0 to 2.2, levels A and AA, and its best practices. What it cannot judge by itself, such as
 * whether a label says something, is not judged here.
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
          + "axe.run(document, {resultTypes: ['violations']}).then(r => done(r.violations.flatMap("
          + "v => v.nodes.map(n => v.id + ' at ' + n.target.join(' ')))))";

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

  private void look(Browser browser, String where, List<String> faults) {
    browser.script(axe);
    for (Object each : (List<?>) browser.asynchronously(RUN)) {
      faults.add(where + ": " + each);
    }
    for (Object each : (List<?>) browser.asynchronously(IDS)) {
      faults.add(where + " shows a name that only files have: " + each);
    }
  }

  @Test
  public void nothingIsInTheWayOfThoseWhoHearOrTypeAPage() throws IOException {
    List<String> faults = new ArrayList<>();
    Set<String> titles = new TreeSet<>();
    try (Browser browser = new Browser(warden.address())) {
      browser.go("/");
      browser.sees("Address");
      look(browser, "sign-in", faults);
      browser.knowsWhatIsAsked();
      browser.signIn("m.sachs");
      browser.go("/help/controls"); // says what controls are called in files
      browser.sees("in files");
      assertFalse(((List<?>) browser.asynchronously(IDS)).isEmpty(), "such names are found");
      for (String theme : List.of("light", "dark")) {
        browser.go("/lookout");
        browser.sees("Gravest first");
        browser.script("localStorage.setItem('warden-theme', '" + theme + "')");
        for (String page : PAGES) {
          browser.opens(page);
          look(browser, theme + " " + page, faults);
          titles.add((String) browser.script("return document.title"));
        }
        browser.go("/register");
        browser.press("Import and export");
        browser.sees("Export");
        look(browser, theme + " import dialog", faults);
        browser.go("/audit");
        browser.sees("by urgency");
        browser.find("[role=rowheader] button").click();
        browser.sees("because");
        look(browser, theme + " an open finding", faults);
        browser.find("[role=rowheader] ~ [role=cell] button[aria-label$='Guarantees']").click();
        browser.sees("How it would go");
        look(browser, theme + " a broken guarantee", faults);
        browser.keys("?");
        browser.sees("Keys");
        look(browser, theme + " keys", faults);
      }
    }
    assertEquals(faults, List.of(), String.join("\n", faults));
    assertEquals(titles.size() > 25, true, "pages have titles of their own: " + titles);
  }

  static final String BEYOND =
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
  @Test
  public void nothingIsCutOrScrolledSidewaysAtAnyWidth() throws IOException {
    List<String> faults = new ArrayList<>();
    try (Browser browser = new Browser(warden.address())) {
      browser.knowsWhatIsAsked();
      browser.signIn("m.sachs");
      for (int width : List.of(1280, 1024, 900, 600, 390)) {
        browser.width(width);
        for (String page : PAGES) {
          if (page.contains("view=week")) {
            continue; // seven days beside each other have the width that they need
          }
          browser.opens(page);
          for (Object each : (List<?>) browser.script(BEYOND)) {
            faults.add(width + " " + page + ": " + each);
          }
        }
        // a session of the demo: removing and locking are within reach
        browser.go("/floor");
        browser.sees("Sessions");
        browser.find("tbody a").click();
        browser.sees("At the door");
        for (Object each : (List<?>) browser.script(BEYOND)) {
          faults.add(width + " session: " + each);
        }
      }
    }
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
