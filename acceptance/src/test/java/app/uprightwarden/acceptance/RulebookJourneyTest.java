package app.uprightwarden.acceptance;

import static org.testng.Assert.assertTrue;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.openqa.selenium.By;
import org.openqa.selenium.Keys;
import org.testng.annotations.Test;

/**
 * Writing policy by seeing what it would do, by keyboard; two at one draft; a second one's consent;
 * and the way through the starter rulebook.
 */
public class RulebookJourneyTest extends Journey {
  private static final String LOBBY_LIMIT = "[role=slider][aria-label='Lobby bypass, limit']";

  public RulebookJourneyTest() {
    super("warden_rulebook");
  }

  /** Moves by key until Lobby bypass is the chosen control; Tab has chosen what it came through. */
  private void toLobbyBypass() {
    browser.leaveField();
    browser.keys("k", "k", "k", "k", "k");
    browser.keysUntil("Lobby bypass", "j", b -> browser.path().contains("control=lobby-bypass"));
  }

  /** One thing after the other, on one edition: the next part works on what the last published. */
  @Test
  public void fromALimitToAnEditionByTwo() {
    tightenSeeLoosenPublishCompare();
    close();
    open();
    twoAtOneDraft();
    close();
    open();
    aSecondAdministratorConsents();
  }

  private void tightenSeeLoosenPublishCompare() {
    browser.signIn("m.sachs");
    browser.keys("2");
    browser.sees("As it stands");
    browser.press("Waiting room\n5");
    browser.sees("Lobby bypass");

    // public hearings: from what the organisation says to hosts alone
    browser.press("Public hearing");
    browser.until("the layer", b -> browser.path().contains("layer=kind:hearing"));
    browser.sees("4 series");
    browser.sees("from Organisation");
    toLobbyBypass();
    browser.keys("m", "m");
    browser.sees("Differs from the edition in force");
    browser.tabTo(LOBBY_LIMIT);
    browser.keys(Keys.ARROW_RIGHT);
    browser.sees("3 new, 0 gone");
    browser.sees("3 meetings of 3 hosts");
    browser.press("meetings");
    browser.sees("Spoil-ground hearing");
    browser.sees("Licence hearing, quarry barge");
    browser.sees("Reed-bed hearing");

    // one unit may let past whom it likes
    browser.tabTo("[aria-label$='all layers']");
    browser.keys(Keys.ENTER);
    browser.sees("Harbour Office");
    browser.keys("Berths", Keys.ENTER);
    browser.until("the layer", b -> browser.path().contains("layer=unit:berths"));
    browser.sees("21 series");
    toLobbyBypass();
    browser.keys("m", "m");
    browser.tabTo(LOBBY_LIMIT);
    browser.keys(Keys.ARROW_LEFT);
    // a list of names is not within a standing: the meetings that go by name would fall foul
    browser.sees("22 new, 2 gone");
    browser.sees("“by name” is within “members” only where");
    browser.keys(Keys.ARROW_LEFT, Keys.ARROW_LEFT, Keys.ARROW_LEFT);
    browser.sees("3 new, 2 gone");
    browser.sees("This is looser than “by name” of Organisation");
    browser.sees("draft saved");

    // undo and redo by key
    browser.keys("u");
    browser.seesNot("3 new, 2 gone");
    browser.keys("r");
    browser.sees("3 new, 2 gone");

    browser.keys("p");
    browser.sees("Publish a new edition");
    browser.until("the reason has the focus", b -> browser.focused().isEmpty());
    browser.keys("Hearings are let in one by one; berth calls let our own people past.");
    browser.press("Publish edition 4");
    browser.sees("Edition 4 is published.");
    browser.sees("edition 4 · since");
    browser.sees("as in force");

    browser.press("Compare");
    browser.sees("2 differences");
    browser.sees("Berths & Traffic");
    browser.sees("default hosts, limit hosts");
    assertTrue(browser.text().contains("Public hearing"), browser.text());
    browser.hasNothingToComplainOf();
  }

  private void twoAtOneDraft() {
    browser.signIn("m.sachs");
    try (Browser other = new Browser(warden.address())) {
      other.signIn("i.solheim");
      other.go("/rulebook?draft=1&family=chat&control=reactions");
      other.sees("draft “Winter hearings”");
      browser.go("/rulebook?draft=1&family=chat&control=private-chat");
      browser.sees("Ingrid Solheim here too");
      other.sees("Miriam Sachs here too");

      // different controls: both go in, and each sees the other's
      browser.tabTo("[role=slider][aria-label='Private chat, limit']");
      browser.keys(Keys.ARROW_RIGHT);
      browser.sees("draft saved");
      other.tabTo("[role=slider][aria-label='Reactions, default']");
      other.keys(Keys.ARROW_RIGHT);
      other.sees("draft saved");
      browser.until(
          "what the other did comes in",
          b ->
              "off"
                  .equals(
                      browser
                          .find("[role=slider][aria-label='Reactions, default']")
                          .getAttribute("aria-valuetext")));

      // the same control: the second is told, and chooses; the first one's page is held meanwhile,
      // so that it acts on what it saw
      browser.script(
          "Object.defineProperty(document, 'hidden', {value: true, configurable: true})");
      other.go("/rulebook?draft=1&family=chat&control=chat");
      other.tabTo("[role=slider][aria-label='Chat, default']");
      other.keys(Keys.ARROW_RIGHT);
      other.sees("draft saved");
      browser.tabTo("[role=slider][aria-label='Chat, default']");
      browser.keys(Keys.ARROW_LEFT);
      browser.sees("somebody else changed it meanwhile");
      browser.press("Put mine");
      browser.seesNot("somebody else changed it meanwhile");
      browser.sees("draft saved");
      other.until(
          "mine is there",
          b ->
              "always"
                  .equals(
                      other
                          .find("[role=slider][aria-label='Chat, default']")
                          .getAttribute("aria-valuetext")));
    }
  }

  private void aSecondAdministratorConsents() {
    browser.signIn("m.sachs");
    browser.go("/rulebook/editions");
    browser.press("Ask for consent from now on");
    browser.sees("need a second warden’s consent.");
    browser.go("/rulebook?draft=1");
    browser.sees("A newer edition was published after this draft was begun.");
    browser.press("Bring it up to that edition");
    browser.seesNot("A newer edition was published");
    browser.press("Compare and publish…");
    browser.sees("Propose for publishing");
    browser.keys("For the winter round.");
    browser.press("Propose it");
    browser.sees("It waits for a second warden and cannot be changed meanwhile.");
    try (Browser other = new Browser(warden.address())) {
      other.signIn("i.solheim");
      other.go("/rulebook?draft=1");
      other.sees("For the winter round.");
      other.press("Consent and publish");
      other.sees("Edition 5 is published.");
      other.go("/rulebook/editions");
      other.sees("with i.solheim");
    }
  }

  @Test
  public void aGuaranteeIsWrittenByPickingWords() {
    browser.signIn("i.solheim");
    browser.go("/rulebook?family=guarantees&layer=kind:drill");
    browser.sees("This layer gives no guarantees");
    browser.press("New guarantee");
    browser.sees("draft saved");
    browser.tabTo("[aria-label='Who: finds the link']");
    browser.keys(Keys.ENTER);
    browser.sees("calls by telephone");
    browser.keys("calls", Keys.ENTER, Keys.ESCAPE);
    browser.sees("finds the link or calls by telephone");
    browser.sees("meetings break it now");
    browser.tabTo("[aria-label^='Except:']");
    browser.keys(Keys.ENTER);
    browser.keys("in no case", Keys.ENTER);
    browser.until("picked", b -> !browser.all("[aria-label='Except: in no case']").isEmpty());
    browser.sees("draft saved");
    browser.go("/rulebook?family=guarantees&layer=kind:drill");
    browser.sees("finds the link or calls by telephone");
  }

  @Test
  public void aRulebookComesInAsADraftAndAFaultyOneIsTold() throws IOException {
    browser.signIn("i.solheim");
    browser.go("/rulebook");
    browser.find("nav[aria-label='Families of controls'] button").click();
    browser.sees("Bring in a file as a draft…");
    // a menu takes keys once it has the focus
    browser.until("the menu", b -> !browser.all("[role=menu]:focus").isEmpty());
    browser.keys("bring", Keys.ENTER);
    browser.sees("A rulebook in JSON or YAML");
    Path file = Files.createTempFile("faulty", ".yaml");
    Files.writeString(
        file,
        """
        layers:
        - scope: {level: organisation}
          rules:
          - {control: chat, mode: fix, value: loud}
        """);
    browser.find("input[type=file]").sendKeys(file.toString());
    browser.press("Bring it in");
    browser.sees("/layers/0/rules/0/value");
    Path mended = Files.createTempFile("mended", ".yaml");
    Files.writeString(mended, Files.readString(file).replace("loud", "off"));
    browser.find("input[type=file]").sendKeys(mended.toString());
    browser.press("Bring it in");
    browser.sees("draft “mended");
    browser.go("/rulebook?show=differs");
    browser.sees("Passcode length");
    browser.until("the list", b -> b.findElements(By.cssSelector("[id^=control-]")).size() > 20);
  }

  @Test
  public void anEmptyStartIsWalkedThrough() throws IOException, InterruptedException {
    try (RunningWarden empty = RunningWarden.startEmpty("warden_empty");
        Browser first = new Browser(empty.address())) {
      first.signIn("warden@localhost", empty.firstPassword());
      first.go("/rulebook");
      first.sees("There is no rulebook yet.");
      first.press("Begin with the starter rulebook");
      first.sees("Step 1 of 10 · Passcode.");
      first.sees("from memory");
      for (int step = 2; step <= 10; step++) {
        first.press("Keep and go on");
        first.sees("Step " + step + " of 10");
      }
      first.press("Compare and publish edition 1…");
      first.sees("Publish a new edition");
      first.keys("The starter, as it is.");
      first.press("Publish edition 1");
      first.sees("edition 1 · since");
      first.hasNothingToComplainOf();
    }
  }
}
