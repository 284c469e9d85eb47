package app.uprightwarden.acceptance;

import java.io.IOException;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import org.openqa.selenium.Keys;
import org.testng.annotations.Test;

/**
 * How long it takes from signing in until the first page can be used, at 10 Mbit/s (and 40 ms of
 * latency) with a processor four times as slow; run by {@code ./bench/run first}.
 */
@Test(groups = "bench")
public class FirstPageBench {
  private static final int TIMES = 11;

  /** Visits before those that count: a server that has just been started is slower. */
  private static final int NOT_COUNTED = 8;

  private static final int BITS_A_SECOND = 10_000_000;

  /**
   * From the press of the key that signs in until the Lookout's lists are painted and the page does
   * what it is given next. Seen as it happens: to look at intervals counts what is drawn after it.
   */
  private static final String WATCH =
      """
      window.until = new Promise(done => {
        addEventListener('keydown', event => {
          if (event.key !== 'Enter') return;
          const pressed = performance.now();
          const look = () => {
            if (!document.querySelector('main')?.textContent.includes('Gravest first')) return;
            seen.disconnect();
            requestAnimationFrame(() => setTimeout(() => {
              window.usable = performance.now();
              done(window.usable - pressed);
            }));
          };
          const seen = new MutationObserver(look);
          seen.observe(document.body, { childList: true, subtree: true });
        }, true);
      });
      """;

  /** From the end of the answer to the password until then; the answer before is who is there. */
  private static final String SINCE_ANSWER =
      "return window.usable - performance.getEntriesByType('resource')"
          + ".filter(entry => entry.name.endsWith('/api/session')).at(-1).responseEnd";

  /** What the machine is worth at this moment, to compare runs by. */
  private static final String SUM =
      "const began = performance.now(); let sum = 0;"
          + " for (let i = 0; i < 1e8; i++) sum = (sum + i) | 0;"
          + " return performance.now() - began + (sum === 1 ? 1 : 0)";

  @Test
  public void measure() throws IOException, InterruptedException {
    try (RunningWarden warden = RunningWarden.start("warden_first_page")) {
      List<Double> cold = new ArrayList<>();
      List<Double> signedIn = new ArrayList<>();
      List<Double> sums = new ArrayList<>();
      long bytes = 0;
      for (int i = -NOT_COUNTED; i < TIMES; i++) {
        try (Browser browser = new Browser(warden.address())) {
          double sum = ((Number) browser.script(SUM)).doubleValue();
          if (i >= 0) {
            sums.add(sum);
            browser.slowed(BITS_A_SECOND, 40, 4);
          }
          browser.go("/");
          browser.sees("Address");
          browser.until("the field has the focus", b -> browser.focused().equals("email"));
          browser.script(WATCH);
          browser.keys("m.sachs@saltmarsh.example", Keys.TAB, "low-water-0642", Keys.ENTER);
          Object millis =
              browser.asynchronously(
                  "const done = arguments[arguments.length - 1]; window.until.then(done)");
          if (i < 0) {
            continue;
          }
          cold.add(((Number) millis).doubleValue());
          signedIn.add(((Number) browser.script(SINCE_ANSWER)).doubleValue());
          bytes =
              ((Number)
                      browser.script(
                          "return [...performance.getEntriesByType('resource'),"
                              + " ...performance.getEntriesByType('navigation')]"
                              + ".reduce((sum, entry) => sum + entry.encodedBodySize, 0)"))
                  .longValue();
        }
      }
      Collections.sort(cold);
      Collections.sort(signedIn);
      Collections.sort(sums);
      System.out.printf(
          "from signing in to the first page, %d visits, nothing cached: median %.0f ms, fastest"
              + " %.0f, slowest %.0f%n",
          TIMES, cold.get(TIMES / 2), cold.get(0), cold.get(TIMES - 1));
      System.out.printf(
          "of that, after the answer that one is signed in: median %.0f ms, fastest %.0f, slowest"
              + " %.0f%n",
          signedIn.get(TIMES / 2), signedIn.get(0), signedIn.get(TIMES - 1));
      System.out.printf(
          "the same browser, not slowed, adds up a hundred million numbers in %.0f ms (median)%n",
          sums.get(TIMES / 2));
      System.out.printf("fetched by then, as it went over the line: %,d bytes%n", bytes);
    }
  }
}
