package app.uprightwarden.acceptance;

import static org.testng.Assert.assertEquals;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.function.Function;
import java.util.logging.Level;
import org.openqa.selenium.By;
import org.openqa.selenium.Dimension;
import org.openqa.selenium.JavascriptExecutor;
import org.openqa.selenium.Keys;
import org.openqa.selenium.OutputType;
import org.openqa.selenium.StaleElementReferenceException;
import org.openqa.selenium.TimeoutException;
import org.openqa.selenium.WebDriver;
import org.openqa.selenium.WebElement;
import org.openqa.selenium.chrome.ChromeDriver;
import org.openqa.selenium.chrome.ChromeDriverService;
import org.openqa.selenium.chrome.ChromeOptions;
import org.openqa.selenium.interactions.Actions;
import org.openqa.selenium.logging.LogType;
import org.openqa.selenium.logging.LoggingPreferences;
import org.openqa.selenium.support.ui.WebDriverWait;

/** A headless browser with a window of 1280×800, driven by keys and clicks as a person would. */
final class Browser implements AutoCloseable {
  private Duration patience = Duration.ofSeconds(40);

  private final ChromeDriver driver;
  private final String address;

  Browser(String address) {
    this.address = address;
    ChromeOptions options = new ChromeOptions();
    options.setBinary("/usr/bin/chromium");
    options.addArguments(
        "--headless=new",
        "--no-sandbox",
        "--disable-gpu",
        "--disable-quic",
        "--no-first-run",
        "--disable-background-networking",
        "--disable-component-update",
        "--disable-sync",
        "--hide-scrollbars",
        "--lang=en-GB");
    LoggingPreferences logs = new LoggingPreferences();
    logs.enable(LogType.BROWSER, Level.ALL);
    options.setCapability("goog:loggingPrefs", logs);
    ChromeDriverService service =
        new ChromeDriverService.Builder()
            .usingDriverExecutable(Path.of("/usr/bin/chromedriver").toFile())
            .build();
    driver = new ChromeDriver(service, options);
    driver.manage().window().setSize(new Dimension(1280, 800));
    long inner = ((Number) script("return window.innerHeight")).longValue();
    driver.manage().window().setSize(new Dimension(1280, (int) (1600 - inner)));
  }

  /** How long it waits for things from now on. */
  void patience(int seconds) {
    patience = Duration.ofSeconds(seconds);
  }

  Object script(String code) {
    return ((JavascriptExecutor) driver).executeScript(code);
  }

  /** Runs what calls back its last argument, and gives what it was called with. */
  Object asynchronously(String code) {
    driver.manage().timeouts().scriptTimeout(Duration.ofSeconds(60));
    return ((JavascriptExecutor) driver).executeAsyncScript(code);
  }

  /** Runs this in every page from now on, before anything of the page's own. */
  void before(String code) {
    driver.executeCdpCommand("Page.addScriptToEvaluateOnNewDocument", Map.of("source", code));
  }

  /** As wide as this, narrower than a window can be too. */
  void width(int pixels) {
    driver.executeCdpCommand(
        "Emulation.setDeviceMetricsOverride",
        Map.of("width", pixels, "height", 800, "deviceScaleFactor", 1, "mobile", false));
  }

  void go(String path) {
    driver.get(address + path);
  }

  /** From now on it is known what a page still waits for, so that it can be opened to its end. */
  void knowsWhatIsAsked() {
    before(
        "(() => { const fetched = window.fetch; window.asked = 0; window.answered = 0;"
            + "window.fetch = async (...all) => {"
            + "  window.asked++;"
            + "  try { return await fetched(...all); }"
            + "  finally { window.asked--; window.answered = performance.now(); } }; })()");
  }

  /** Opens a page and waits until it has its heading, its title, and all that it asked for. */
  void opens(String page) {
    go(page);
    until(
        "the page is there: " + page,
        b ->
            Boolean.TRUE.equals(
                script(
                    "return !!document.querySelector('h1') && document.title !== 'Upright Warden'"
                        + " && !document.querySelector('[role=status] .loading')"
                        + " && window.asked === 0 && performance.now() > window.answered + 200")));
  }

  String path() {
    return driver.getCurrentUrl().substring(address.length());
  }

  /** From now on with a line and a processor that are slower. */
  void slowed(int bitsASecond, int latencyMillis, int times) {
    driver.executeCdpCommand("Network.enable", Map.of());
    driver.executeCdpCommand(
        "Network.emulateNetworkConditions",
        Map.of(
            "offline",
            false,
            "latency",
            latencyMillis,
            "downloadThroughput",
            bitsASecond / 8,
            "uploadThroughput",
            bitsASecond / 8));
    driver.executeCdpCommand("Emulation.setCPUThrottlingRate", Map.of("rate", times));
  }

  /** Waits until something is true of the page. */
  <T> T until(String what, Function<WebDriver, T> condition) {
    return new WebDriverWait(driver, patience)
        .pollingEvery(Duration.ofMillis(100))
        .ignoring(StaleElementReferenceException.class)
        .withMessage(() -> what + "; the page at " + path() + " says: " + text())
        .until(condition);
  }

  /** Waits for words to stand on the page. */
  void sees(String words) {
    until("“" + words + "” did not appear", d -> text().contains(words));
  }

  /** Waits for words to be gone from the page, with something else to read there. */
  void seesNot(String words) {
    until(
        "“" + words + "” did not go",
        d -> {
          String text = text();
          return !text.isBlank() && !text.contains(words);
        });
  }

  /** What can be read; nothing between two pages, where the next has no body yet. */
  String text() {
    return String.valueOf(script("return document.body ? document.body.innerText : ''"));
  }

  WebElement find(String css) {
    return until(css + " did not appear", d -> d.findElement(By.cssSelector(css)));
  }

  List<WebElement> all(String css) {
    return driver.findElements(By.cssSelector(css));
  }

  void keys(CharSequence... keys) {
    new Actions(driver).sendKeys(keys).perform();
  }

  /** Applies the least change by its key, which asks first where it changes several controls. */
  void applyByKey() {
    sees("inconvenience");
    keys("a");
    AtomicBoolean isEarly = new AtomicBoolean();
    until(
        "it is done",
        d -> {
          String text = text();
          if (text.contains("Done in")) {
            return true;
          }
          // it asks anew where the page was brought up to date between the two
          if (text.contains("Press a again to apply it.")) {
            keys("a");
          } else if (text.contains("still being worked out")) {
            isEarly.set(true);
          } else if (isEarly.getAndSet(false)) {
            keys("a"); // as it says: once one sees it
          }
          return false;
        });
  }

  /** A letter with Control held. */
  void control(String letter) {
    new Actions(driver).keyDown(Keys.CONTROL).sendKeys(letter).keyUp(Keys.CONTROL).perform();
  }

  /** Leaves a field on purpose, as by a click beside it: keys are the page's again. */
  void leaveField() {
    script("document.activeElement.blur(); window.dispatchEvent(new Event('pointerdown'))");
  }

  /** Tabs on until what has the focus matches; by keyboard alone, that is how one gets there. */
  void tabTo(String css) {
    until("no way by Tab to " + css, d -> walkToMatch(css));
  }

  /** Steps looked at one by one before the way is asked for anew. */
  private static final int STEPS = 40;

  /**
   * Tabs at once to shortly before a stop, on or back, as whoever knows a page does; the last steps
   * are looked at one by one. Where nothing has the focus, as after a move to another page, only a
   * step tells where the browser goes on from.
   *
   * @param matches says in JavaScript whether it is {@code e}
   * @return the step to go on with
   */
  private Runnable near(String matches) {
    if (Boolean.TRUE.equals(
        script("return !document.activeElement || document.activeElement === document.body"))) {
      keys(Keys.TAB);
    }
    long away =
        ((Number)
                script(
                    "const stops = [...document.querySelectorAll("
                        + "    'a[href],button,input,select,textarea,summary,[tabindex]')]"
                        + "  .filter(e => e.tabIndex >= 0 && !e.disabled && e.getClientRects().length > 0"
                        + "    && !e.closest('[inert]'));"
                        + "const from = document.activeElement;"
                        + "const isAfter = e => !!(from.compareDocumentPosition(e)"
                        + "  & Node.DOCUMENT_POSITION_FOLLOWING);"
                        + "const is = e => "
                        + matches
                        + ";"
                        + "if (is(from)) return 0;"
                        + "const on = stops.filter(isAfter).findIndex(is);"
                        + "if (on >= 0) return on + 1;"
                        + "const before = stops.filter(e => e !== from && !isAfter(e));"
                        + "const back = before.findIndex(is);"
                        + "return back < 0 ? 0 : back - before.length"))
            .longValue();
    tab(away, Math.abs(away) - 2);
    return () -> tab(away, 1);
  }

  private void tab(long direction, long steps) {
    if (steps <= 0) {
      return;
    }
    String keys = Keys.TAB.toString().repeat((int) steps);
    if (direction < 0) {
      new Actions(driver).keyDown(Keys.SHIFT).sendKeys(keys).keyUp(Keys.SHIFT).perform();
    } else {
      keys(keys);
    }
  }

  private boolean walkToMatch(String css) {
    if (all(css).isEmpty()) {
      return false; // it is not there yet, as on a page that still waits for an answer
    }
    Runnable step = near("e.matches(`" + css + "`)");
    for (int i = 0; i < STEPS; i++) {
      Object matches =
          script(
              "return !!document.activeElement && document.activeElement.matches(`" + css + "`)");
      if (Boolean.TRUE.equals(matches)) {
        return true;
      }
      step.run();
    }
    return false;
  }

  /**
   * Tabs on to a button or link of this name and presses it. On a page that is still being drawn
   * the way there can change under the walk, so it is walked again for as long as one would have
   * waited.
   */
  void press(String name) {
    until("no way by Tab to the button " + name, d -> walkTo(name));
    keys(Keys.ENTER);
  }

  /**
   * Chooses in the menu of a row, by keys.
   *
   * @param row what the row is of, as its menu is named after it
   */
  void choose(String row, String name) {
    tabTo("[data-row-menu][aria-label*='" + row + "']");
    keys(Keys.ENTER);
    until("the menu has the focus", d -> !all("[role=menu]:focus").isEmpty());
    until(
        name + " in the menu",
        d -> {
          List<WebElement> acts = all("[role=menuitem]");
          String marked = "data-headlessui-state";
          for (WebElement act : acts) {
            if ("active".equals(act.getDomAttribute(marked))) {
              if (act.getText().strip().equals(name)) {
                return true;
              }
              boolean isLast = act.equals(acts.get(acts.size() - 1));
              keys(isLast ? Keys.HOME : Keys.ARROW_DOWN);
              return false;
            }
          }
          return false;
        });
    keys(Keys.ENTER);
  }

  /** What something is called, as the keys come to it. */
  private static final String NAME =
      "(e.getAttribute('aria-valuetext') || e.getAttribute('aria-label') || e.innerText || e.name ||"
          + " '').trim()";

  private boolean walkTo(String name) {
    if (!Boolean.TRUE.equals(has(name))) {
      return false;
    }
    Runnable step = near(NAME + " === " + quoted(name.strip()));
    for (int i = 0; i < STEPS; i++) {
      if (focused().strip().equals(name)) {
        return true;
      }
      step.run();
    }
    return false;
  }

  /** Whether something of this name could have the focus at all. */
  private Object has(String name) {
    return script(
        "return [...document.querySelectorAll('a,button,input,select,textarea,[tabindex]')]"
            + (".some(e => " + NAME + " === " + quoted(name.strip()) + ")"));
  }

  private static String quoted(String text) {
    return "'" + text.replace("\\", "\\\\").replace("'", "\\'").replace("\n", "\\n") + "'";
  }

  /** Presses a key that moves on, looking at the address after each, until something holds. */
  void keysUntil(String what, CharSequence key, Function<WebDriver, Boolean> condition) {
    for (int i = 0; i < 20; i++) {
      if (Boolean.TRUE.equals(condition.apply(driver))) {
        return;
      }
      String before = path();
      keys(key);
      try {
        new WebDriverWait(driver, Duration.ofSeconds(1))
            .pollingEvery(Duration.ofMillis(50))
            .until(d -> !path().equals(before));
      } catch (TimeoutException e) {
        // it may have been the last; whether it holds is looked at next
      }
    }
    throw new AssertionError(what + " by " + key + " at " + path());
  }

  /** Picks a meeting by the beginning of its title, by keys, once it is offered. */
  void pickMeeting(String title) {
    tabTo("input[aria-label=Meeting]");
    keys(title);
    until(
        "the offer of " + title,
        d -> {
          List<String> offered =
              all("[role=option]").stream().map(e -> e.getText().strip()).toList();
          return offered.size() > 0
              && offered.stream().allMatch(o -> o.startsWith(title))
              && all("input[aria-label=Meeting][aria-busy=true]").isEmpty();
        });
    keys(Keys.ARROW_DOWN);
    // the list moves with the next frame, which a busy machine takes its time for
    until("one is marked", d -> !all("input[aria-label=Meeting][aria-activedescendant]").isEmpty());
    keys(Keys.ENTER);
    until(
        title + " in the field",
        d ->
            String.valueOf(find("input[aria-label=Meeting]").getDomProperty("value"))
                .startsWith(title));
  }

  /** The accessible text of what has the focus. */
  String focused() {
    return String.valueOf(script("const e = document.activeElement; return " + NAME));
  }

  void signIn(String who) {
    signIn(who + "@saltmarsh.example", "low-water-0642");
  }

  void signIn(String address, String password) {
    go("/");
    find("input[name=email]");
    until("the address field has the focus", d -> focused().equals("email"));
    keys(address, Keys.TAB, password, Keys.ENTER);
    sees("Sign out");
  }

  /**
   * Moves down the wall by key until the row with this title is the current one, and up again: rows
   * change their places while an audit catches up.
   */
  void moveTo(String title) {
    until(
        "the wall's rows are there",
        b ->
            Boolean.TRUE.equals(
                script(
                    "const c = document.querySelector('[role=row].bg-sheet .head');"
                        + " return !!c && c.innerText.length > 2")));
    for (int i = 0; i < 260; i++) {
      Object here =
          script(
              "const c = document.querySelector('[role=row].bg-sheet');"
                  + " return c ? c.innerText : ''");
      if (String.valueOf(here).contains(title)) {
        return;
      }
      keys(i < 130 ? "j" : "k");
    }
    throw new AssertionError(title + " is not on the wall");
  }

  /** What the browser's console warned of, in the failure's own words. */
  void hasNothingToComplainOf() {
    assertEquals(String.join("\n", complaints()), "", "the browser complains");
  }

  private List<String> complaints() {
    return driver.manage().logs().get(LogType.BROWSER).getAll().stream()
        .filter(entry -> entry.getLevel().intValue() >= Level.WARNING.intValue())
        .map(Object::toString)
        .toList();
  }

  void shot(Path file) throws IOException {
    Files.createDirectories(file.getParent());
    Files.write(file, driver.getScreenshotAs(OutputType.BYTES));
  }

  @Override
  public void close() {
    driver.quit();
  }

  /** Moves by the keys to somebody in a session; they stay in the column they are in. */
  void goToPerson(String name) {
    for (int i = 0; i < 40 && !isAt(name); i++) {
      keys(i < 20 ? "j" : "k");
    }
    until(name, b -> isAt(name));
  }

  private boolean isAt(String name) {
    return all("li.bg-sea-wash button.head").stream().anyMatch(e -> e.getText().equals(name));
  }
}
