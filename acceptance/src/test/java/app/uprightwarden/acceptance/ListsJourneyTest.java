package app.uprightwarden.acceptance;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertTrue;

import java.time.LocalDate;
import java.time.ZoneId;
import java.util.Map;
import org.openqa.selenium.Keys;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.Test;

/** Lists are of one kind: the same filter, row menu, foot and keys, by keyboard alone. */
public class ListsJourneyTest extends Journey {
  /** Each page, and whether the demo has a row there. */
  private static final Map<String, Boolean> LISTS =
      Map.ofEntries(
          Map.entry("/register", true),
          Map.entry("/people", true),
          Map.entry("/ledger", true),
          Map.entry("/outbox", true),
          Map.entry("/audit/waivers?over=1", true),
          Map.entry("/audit/requests", true),
          Map.entry("/audit/runs", true),
          Map.entry("/floor", true),
          Map.entry("/house/accounts", true),
          Map.entry("/people/groups/lists", true),
          Map.entry("/people/groups/rooms", true),
          Map.entry("/rulebook/editions", true),
          Map.entry("/register/cancelled", false));

  public ListsJourneyTest() {
    super("warden_lists", true);
  }

  @BeforeMethod
  public void signIn() {
    browser.knowsWhatIsAsked();
    browser.signIn("m.sachs");
    browser.sees("Gravest first");
  }

  private boolean isTrue(String script) {
    return Boolean.TRUE.equals(browser.script("return " + script));
  }

  @Test
  public void everyListIsWorkedByTheSameKeys() {
    LISTS.forEach(this::isWorkedByTheSameKeys);
  }

  private void isWorkedByTheSameKeys(String page, boolean hasRows) {
    // what was looked for elsewhere is in the ledger
    String nothing = "nothing-in" + page.replaceAll("[^a-z]", "-");
    browser.opens(page);
    browser.leaveField();
    if (hasRows) {
      browser.keys("j");
      browser.until("a row is marked", b -> !browser.all("main .outline-ink").isEmpty());
      browser.keys(".");
      browser.until("its menu is open", b -> browser.all("[role=menuitem]").size() > 0);
      browser.until(
          "it has the focus", b -> isTrue("document.activeElement.getAttribute('role')==='menu'"));
      browser.keys(Keys.ESCAPE);
      browser.until("it is closed", b -> browser.all("[role=menuitem]").isEmpty());
    }
    browser.leaveField();
    browser.keys("?");
    browser.sees("On this page");
    for (String does : new String[] {"next row", "row before", "to the filter"}) {
      browser.sees(does);
    }
    browser.keys(Keys.ESCAPE);
    browser.seesNot("On this page");
    browser.leaveField();
    browser.keys("f");
    browser.until(
        "the filter has the focus", b -> isTrue("document.activeElement.type==='search'"));
    browser.keys(nothing);
    browser.until("it is in the address", b -> browser.path().contains("text=" + nothing));
    if (hasRows) {
      browser.press("Show all again");
      browser.until("all is there again", b -> !browser.path().contains("text="));
      browser.until("rows are there", b -> !browser.all("main .outline-ink").isEmpty());
    }
  }

  @Test
  public void meetingsAreFoundByTheirDay() {
    browser.opens("/register");
    String all = browser.find("main [role=status]").getText();
    LocalDate tomorrow = LocalDate.now(ZoneId.systemDefault()).plusDays(1);
    browser.opens("/register?from=" + tomorrow + "&to=" + tomorrow);
    String few = browser.find("main [role=status]").getText();
    assertTrue(number(few) > 0 && number(few) < number(all), few + " of " + all);
    for (var row : browser.all("main [role=row][id^=row-]")) {
      assertTrue(row.getText().contains("tomorrow"), row.getText());
    }
    assertEquals(browser.all("main [role=row][id^=row-]").size(), number(few));
  }

  @Test
  public void anAddressThatMakesNoSenseShowsTheList() {
    for (String page : LISTS.keySet()) {
      browser.opens(page + (page.contains("?") ? "&" : "?") + "from=soon&to=2026-13-45&page=first");
      browser.seesNot("That did not work");
      browser.sees("all keys");
    }
  }

  private static int number(String count) {
    return Integer.parseInt(count.replaceAll("\\D", ""));
  }
}
