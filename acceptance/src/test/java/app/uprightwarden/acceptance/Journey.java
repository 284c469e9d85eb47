package app.uprightwarden.acceptance;

import java.io.IOException;
import java.util.Map;
import org.testng.annotations.AfterClass;
import org.testng.annotations.AfterMethod;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.BeforeMethod;

/** A journey through the packaged application with demo data, each test in a browser of its own. */
abstract class Journey {
  private final String database;
  private final boolean isAnew;
  protected RunningWarden warden;
  protected Browser browser;

  /**
   * @param database a name of its own, so that journeys do not meet
   */
  Journey(String database) {
    this(database, false);
  }

  /**
   * @param isAnew whether it looks at sessions in progress, which only a start that loads the demo
   *     itself has
   */
  Journey(String database, boolean isAnew) {
    this.database = database;
    this.isAnew = isAnew;
  }

  @BeforeClass
  public void start() throws IOException, InterruptedException {
    warden = isAnew ? RunningWarden.startAnew(database, Map.of()) : RunningWarden.start(database);
  }

  @AfterClass(alwaysRun = true)
  public void stop() {
    if (warden != null) {
      warden.close();
    }
  }

  @BeforeMethod
  public void open() {
    browser = new Browser(warden.address());
  }

  @AfterMethod(alwaysRun = true)
  public void close() {
    if (browser != null) {
      browser.close();
    }
  }
}
