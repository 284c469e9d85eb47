package app.uprightwarden.acceptance;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.TimeUnit;

/**
 * The two conference services that do not exist, each a process, as {@code ./warden} starts them.
 */
final class StandIns implements AutoCloseable {
  private static final String KEY = "a key for journeys";

  private final Map<String, Integer> ports = new LinkedHashMap<>();
  private final List<Process> processes = new ArrayList<>();

  StandIns() throws IOException, InterruptedException {
    this(Files.createTempDirectory("stand-ins"));
  }

  /** With what they hold in a directory: {@code redshank} and {@code curlew}. */
  StandIns(Path directory) throws IOException, InterruptedException {
    for (String name : List.of("redshank", "curlew")) {
      int port = RunningWarden.freePort();
      ports.put(name, port);
      ProcessBuilder builder = new ProcessBuilder(UnpackedWarden.command());
      builder.environment().put("WARDEN_ONLY", name);
      builder.environment().put("WARDEN_STANDIN_PORT", Integer.toString(port));
      builder.environment().put("WARDEN_STANDIN_KEY", KEY);
      builder.environment().put("WARDEN_STANDIN_FILE", directory.resolve(name).toString());
      processes.add(
          builder
              .redirectErrorStream(true)
              .redirectOutput(directory.resolve("log").toFile())
              .start());
    }
  }

  String address(String name) {
    return "http://127.0.0.1:" + ports.get(name);
  }

  /** What a server has to be told to link them. */
  Map<String, String> environment() {
    return Map.of(
        "WARDEN_SERVICES_LOCAL",
        "true",
        "WARDEN_STANDINS_KEY",
        KEY,
        "WARDEN_STANDINS_REDSHANK",
        address("redshank"),
        "WARDEN_STANDINS_CURLEW",
        address("curlew"));
  }

  @Override
  public void close() {
    for (Process process : processes) {
      process.destroy();
      try {
        process.waitFor(10, TimeUnit.SECONDS);
      } catch (InterruptedException e) {
        Thread.currentThread().interrupt();
      }
    }
  }
}
