package app.uprightwarden.acceptance;

import java.io.IOException;
import java.util.List;
import org.openqa.selenium.Keys;
import org.testng.annotations.Test;

/**
 * How long it takes, in a browser, from a key that moves a limit until what that would do to a
 * large register is on the screen; run by {@code ./bench/run screen}.
 */
@Test(groups = "bench")
public class MovedLimitBench {
  private static final int SERIES = Integer.getInteger("warden.bench.series", 100_000);
  private static final int MOVES = 60;

  /** From the key's own event to the frame after the counts have changed. */
  private static final String WATCH =
      """
      window.times = [];
      let pressed = 0;
      addEventListener('keydown', () => { pressed = performance.now(); }, true);
      const panel = document.querySelector('section[aria-label="What the draft would do"]');
      new MutationObserver(() => {
        if (panel.getAttribute('aria-busy') === 'false' && pressed) {
          const since = pressed;
          pressed = 0;
          requestAnimationFrame(() => window.times.push(performance.now() - since));
        }
      }).observe(panel, {attributes: true, attributeFilter: ['aria-busy']});
      """;

  @Test
  public void measure() throws IOException, InterruptedException {
    try (RunningWarden warden = RunningWarden.startScaled("warden_screen", SERIES);
        Browser browser = new Browser(warden.address())) {
      browser.signIn("m.sachs");
      browser.patience(300);
      long begin = System.nanoTime();
      browser.go("/rulebook?family=waiting-room&control=lobby-bypass");
      browser.sees("Findings that rules and guarantees decide");
      System.out.printf("first counts after %.1f s%n", (System.nanoTime() - begin) / 1e9);
      browser.sees(" meetings. Move a peg");
      browser.script(WATCH);
      browser.tabTo("[role=slider][aria-label='Lobby bypass, limit']");
      for (int i = 1; i <= MOVES; i++) {
        browser.keys(i % 4 < 2 ? Keys.ARROW_LEFT : Keys.ARROW_RIGHT);
        int so = i;
        browser.until(
            "an answer",
            b -> ((Number) browser.script("return window.times.length")).intValue() >= so);
      }
      @SuppressWarnings("unchecked")
      List<Number> times =
          (List<Number>) browser.script("return window.times.slice(10).sort((a, b) => a - b)");
      System.out.printf(
          "%d series, %d moves: median %.0f ms, 95th of 100 %.0f ms, slowest %.0f ms%n",
          SERIES,
          times.size(),
          times.get(times.size() / 2).doubleValue(),
          times.get(times.size() * 95 / 100).doubleValue(),
          times.get(times.size() - 1).doubleValue());
    }
  }
}
