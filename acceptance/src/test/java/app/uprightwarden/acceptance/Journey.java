package app.uprightwarden.acceptance;

import java.io.IOException;
import org.testng.annotations.AfterClass;
import org.testng.annotations.AfterMethod;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.BeforeMethod;

/** A journey through the packaged application with demo data, each test in a browser of its own. */
abstract class Journey {
  private final String database;
  protected RunningWarden warden;
  protected Browser browser;

  /**
   * @param database a name of its own, so that journeys do not meet
   */
  Journey(String database) {
    this.database = database;
  }

  @BeforeClass
  public void start() throws IOException, InterruptedException {
    warden = begin(database);
  }

  /** How it is started: with the demo as it was loaded once for all, where nothing else is said. */
  RunningWarden begin(String schema) throws IOException, InterruptedException {
    return RunningWarden.start(schema);
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
