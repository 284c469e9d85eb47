package app.uprightwarden.acceptance;

import java.nio.file.Path;
import org.openqa.selenium.Keys;
import org.testng.annotations.Test;

/** Temporary. */
public class LookTest extends Journey {
  public LookTest() {
    super("warden_look");
  }

  @Test
  public void look() throws Exception {
    browser.signIn("i.barreto");
    browser.sees("Gravest first");
    Thread.sleep(1500);
    browser.shot(Path.of("/tmp/dev/l1.png"));
    browser.go("/account");
    browser.sees("Deputies");
    Thread.sleep(1000);
    browser.shot(Path.of("/tmp/dev/l2.png"));
    browser.go("/register/new");
    browser.sees("Schedule");
    browser.tabTo("#title");
    browser.keys("مراجعة الأرصفة 港口会议 Zażółć", Keys.TAB);
    browser.leaveField();
    browser.keys("4");
    browser.sees("Leave without saving?");
    Thread.sleep(800);
    browser.shot(Path.of("/tmp/dev/l3.png"));
  }
}
