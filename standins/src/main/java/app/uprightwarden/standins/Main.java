package app.uprightwarden.standins;

import java.io.IOException;
import java.nio.file.Path;
import java.time.Clock;
import java.util.Locale;
import java.util.Map;
import java.util.concurrent.CountDownLatch;

/**
 * A stand-in as a process: {@code WARDEN_STANDIN_PORT}, {@code WARDEN_STANDIN_KEY} and {@code
 * WARDEN_STANDIN_FILE} say where it listens, what it is asked with, and where it keeps things.
 */
public final class Main {
  private Main() {}

  /** Whether there is a stand-in of this name. */
  public static boolean knows(String name) {
    return name.equals("redshank") || name.equals("curlew");
  }

  /** Runs until it is stopped. */
  public static void run(String name, Map<String, String> environment)
      throws IOException, InterruptedException {
    StandIn standIn =
        new StandIn(
            Make.valueOf(name.toUpperCase(Locale.ROOT)),
            Integer.parseInt(environment.getOrDefault("WARDEN_STANDIN_PORT", "0")),
            environment.getOrDefault("WARDEN_STANDIN_KEY", ""),
            Path.of(environment.getOrDefault("WARDEN_STANDIN_FILE", name + ".jsonl")),
            Clock.systemUTC());
    Runtime.getRuntime().addShutdownHook(new Thread(standIn::close));
    System.out.println(name + " listens on " + standIn.address());
    new CountDownLatch(1).await();
  }
}
