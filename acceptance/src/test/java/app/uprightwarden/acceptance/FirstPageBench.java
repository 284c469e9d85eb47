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
  private static final int BITS_A_SECOND = 10_000_000;

  /** From the press of the key that signs in until the Lookout has its lists. */
  private static final String WATCH =
      """
      window.until = new Promise(done => {
        addEventListener('keydown', event => {
          if (event.key !== 'Enter') return;
          const pressed = performance.now();
          const look = () => document.body.innerText.includes('Gravest first')
            ? requestAnimationFrame(() => done(performance.now() - pressed))
            : setTimeout(look, 10);
          look();
        }, true);
      });
      """;

  @Test
  public void measure() throws IOException, InterruptedException {
    try (RunningWarden warden = RunningWarden.start("warden_first_page")) {
      List<Double> cold = new ArrayList<>();
      for (int i = 0; i < TIMES; i++) {
        try (Browser browser = new Browser(warden.address())) {
          browser.slowed(BITS_A_SECOND, 40, 4);
          browser.go("/");
          browser.sees("Address");
          browser.until("the field has the focus", b -> browser.focused().equals("email"));
          browser.script(WATCH);
          browser.keys("m.sachs@saltmarsh.example", Keys.TAB, "low-water-0642", Keys.ENTER);
          Object millis =
              browser.asynchronously(
                  "const done = arguments[arguments.length - 1]; window.until.then(done)");
          cold.add(((Number) millis).doubleValue());
        }
      }
      Collections.sort(cold);
      System.out.printf(
          "from signing in to the first page, %d visits, nothing cached: median %.0f ms, fastest"
              + " %.0f, slowest %.0f%n",
          TIMES, cold.get(TIMES / 2), cold.get(0), cold.get(TIMES - 1));
    }
  }
}
