package app.uprightwarden.acceptance;

import static org.testng.Assert.assertTrue;

import java.util.List;
import org.openqa.selenium.WebElement;
import org.testng.annotations.Test;

/** On a telephone, 390 pixels wide: removing and locking down are within a thumb's reach. */
public class TelephoneTest extends Journey {
  /** The least size of a target, WCAG 2.2 criterion 2.5.8. */
  private static final int LEAST = 24;

  public TelephoneTest() {
    super("warden_telephone", true);
  }

  @Test
  public void aStrangerIsRemovedAndAllIsLockedDownByThumb() {
    browser.signIn("m.sachs");
    browser.width(390);
    browser.go("/floor?practise=m-0001");
    browser.sees("Practise a session");
    tap("Open it");
    browser.sees("A stranger is in before the host");
    tap("Rob");
    tap("Remove and bar");
    browser.sees("Rob was removed and barred");
    tap("Lock");
    browser.sees("The meeting was locked by");

    browser.go("/floor");
    tap("Lock down…");
    tap("Lock down \\d+ sessions?");
    browser.sees("locked down");
    tap("Undo it");
    browser.seesNot("locked down");
    browser.hasNothingToComplainOf();
  }

  /**
   * Touches the first thing with these words (a pattern) that a thumb can reach, once it is there.
   */
  private void tap(String words) {
    WebElement target =
        browser.until(
            "“" + words + "” is nowhere to touch",
            d ->
                browser.all("button, a").stream()
                    .filter(e -> e.isDisplayed() && e.isEnabled())
                    .filter(e -> e.getText().strip().matches(words))
                    .findFirst()
                    .orElse(null));
    List<?> box =
        (List<?>)
            browser.script(
                "const e = [...document.querySelectorAll('button, a')].find(e => !e.disabled &&"
                    + " e.offsetParent && new RegExp('^"
                    + words.replace("\\", "\\\\")
                    + "$').test(e.innerText.trim())); e.scrollIntoView({block: 'center'}); const r ="
                    + " e.getBoundingClientRect(); return [r.left, r.right, r.height]");
    double left = ((Number) box.get(0)).doubleValue();
    double right = ((Number) box.get(1)).doubleValue();
    double height = ((Number) box.get(2)).doubleValue();
    assertTrue(left >= 0 && right <= 390, words + " lies beside the edge: " + box);
    assertTrue(height >= LEAST, words + " is too small for a thumb: " + box);
    target.click();
  }
}
