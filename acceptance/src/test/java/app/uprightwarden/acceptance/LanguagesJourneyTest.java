package app.uprightwarden.acceptance;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertTrue;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.openqa.selenium.Keys;
import org.testng.annotations.AfterClass;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;

/** Pages in another language: chosen, kept, whole, and within the edges. */
public class LanguagesJourneyTest {
  /**
   * Keeps what the server says, so that what a page says by itself can be told from it. A code, as
   * `guarded`, is no words: whoever shows it says it by himself.
   */
  private static final String KEEP_WHAT_IS_SAID =
      "localStorage.setItem('language', 'pseudo');"
          + "window.said = '';"
          + "const fetched = window.fetch;"
          + "window.fetch = async (...all) => {"
          + "  const answer = await fetched(...all);"
          + "  answer.clone().text().then(text => {"
          + "    for (const each of text.match(/(?:\"(?:title|name|label)\":)?\"(?:[^\"\\\\]|\\\\.)*\"/g) ?? [])"
          + "      if (!/^\"[a-z][a-zA-Z0-9.-]*\"$/.test(each)) window.said += ' ' + each.toLowerCase(); });"
          + "  return answer;"
          + "};";

  /**
   * Words that are on the page and neither of the catalogue, in which each text stands in ⟦ ⟧, nor
   * said by the server: names of days, months, zones, languages and countries are the browser's.
   */
  private static final String OWN_WORDS =
      "const own = new Set();"
          + "const left = text => { let deep = 0; let out = '';"
          + "  for (const c of text) { if (c === '⟦') deep++; else if (c === '⟧') deep--;"
          + "    else if (!deep) out += c; } return out; };"
          + "const browsers = /^(mon|tue|wed|thu|fri|sat|sun|jan|feb|mar|apr|may|jun|jul|aug|sep|sept|"
          + "oct|nov|dec|utc|min|english|deutsch|chrome|linux|esc|tab|enter|ics|ireland|united|kingdom)$/;"
          + "const look = text => {"
          + "  const rest = left(text).replaceAll('Upright Warden', '').toLowerCase()"
          + "    .replace(/https?:\\S*/g, '');"
          + "  for (const word of rest.match(/\\p{L}{3,}/gu) ?? [])"
          + "    if (!browsers.test(word) && !window.said.includes(word))"
          + "      own.add(word + ' in “' + text.trim().slice(0, 60) + '”'); };"
          + "const walk = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);"
          + "while (walk.nextNode()) {"
          + "  const at = walk.currentNode.parentElement;"
          + "  if (at.closest('code, kbd, pre, script, style, .prose, [lang]:not(html)')) continue;"
          + "  look(walk.currentNode.data);"
          + "}"
          + "for (const e of document.querySelectorAll('[aria-label], [title], [placeholder]'))"
          + "  for (const name of ['aria-label', 'title', 'placeholder'])"
          + "    if (e.hasAttribute(name)) look(e.getAttribute(name));"
          + "look(document.title);"
          + "return [...own].slice(0, 12)";

  private RunningWarden warden;

  @BeforeClass
  public void start() throws IOException, InterruptedException {
    warden = RunningWarden.startAnew("warden_languages", Map.of());
  }

  @AfterClass(alwaysRun = true)
  public void stop() {
    if (warden != null) {
      warden.close();
    }
  }

  @Test
  public void everyTextOfThePagesStandsInACatalogue() {
    List<String> faults = new ArrayList<>();
    try (Browser browser = new Browser(warden.address())) {
      browser.signIn("m.sachs");
      browser.before(KEEP_WHAT_IS_SAID);
      browser.knowsWhatIsAsked();
      for (String page : AccessibilityTest.PAGES) {
        browser.opens(page);
        assertTrue(browser.text().contains("⟦"), page);
        for (Object each : (List<?>) browser.script(OWN_WORDS)) {
          faults.add(page + ": " + each);
        }
      }
      browser.opens("/lookout");
      browser.script("document.querySelector('h1').append('unheard of')");
      assertFalse(((List<?>) browser.script(OWN_WORDS)).isEmpty(), "such words are found");
    }
    assertEquals(faults, List.of(), String.join("\n", faults));
  }

  @Test
  public void aLanguageIsChosenKeptAndWithinTheEdges() {
    try (Browser browser = new Browser(warden.address())) {
      browser.go("/");
      browser.sees("Address");
      browser.find("select").sendKeys("Deutsch");
      browser.sees("Kennwort");
      assertEquals(browser.script("return document.documentElement.lang"), "de");
      browser.find("select").sendKeys("English");
      browser.sees("Password");
      browser.signIn("i.solheim");
      browser.go("/account");
      browser.sees("Where you are signed in");
      browser.knowsWhatIsAsked();
      browser.tabTo("select");
      browser.keys(Keys.ARROW_DOWN);
      browser.sees("Wo Sie angemeldet sind");
      browser.go("/lookout");
      browser.sees("Das Schwerste zuerst");
      browser.go("/help/audit");
      browser.sees("Ein Audit ist so viel wert");
      browser.go("/help/security");
      browser.sees("auf Englisch");
      // a page that a link leads to, outside of ours
      browser.go("/api/rulebook/print?of=in-force");
      browser.sees("Online-Besprechungen bei");
      List<String> faults = new ArrayList<>();
      for (String page : AccessibilityTest.PAGES) {
        if (!page.contains("view=week")) {
          browser.width(390); // as on a telephone from the beginning
          browser.opens(page);
          AccessibilityTest.beyondTheEdge(browser, 390, page, faults);
          AccessibilityTest.beyondTheEdge(browser, 1280, page, faults);
        }
      }
      assertEquals(faults, List.of(), String.join("\n", faults));
    }
    // kept with the account, so that another browser has it too
    try (Browser elsewhere = new Browser(warden.address())) {
      elsewhere.go("/");
      elsewhere.sees("Address");
      elsewhere.find("input[type=email]").sendKeys("i.solheim@saltmarsh.example");
      elsewhere.find("input[type=password]").sendKeys("low-water-0642", Keys.ENTER);
      elsewhere.sees("Das Schwerste zuerst");
    }
  }
}
