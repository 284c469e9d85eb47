package app.uprightwarden.acceptance;

import java.io.IOException;
import java.nio.channels.FileChannel;
import java.nio.channels.FileLock;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.TimeUnit;

/**
 * The application spread out, with an archive of its classes, as {@code ./warden start} prepares
 * it: each of the many starts is some seconds shorter. Made once for all processes that test.
 */
final class UnpackedWarden {
  static final List<String> OPTIONS =
      List.of("-Xmx512m", "-XX:+UseSerialGC", "-XX:+ExitOnOutOfMemoryError");

  private UnpackedWarden() {}

  /** The command that starts it. */
  static synchronized List<String> command() throws IOException, InterruptedException {
    Path packed = Path.of(System.getProperty("warden.jar")).normalize();
    Path directory = Path.of(RunningWarden.environment("WARDEN_TEST_DIR")).resolve("app");
    Path jar = directory.resolve(packed.getFileName());
    Path archive = directory.resolve("classes.jsa");
    try (FileChannel channel =
            FileChannel.open(
                directory.resolveSibling("app.lock"),
                StandardOpenOption.CREATE,
                StandardOpenOption.WRITE);
        FileLock lock = channel.lock()) {
      if (lock.isValid() && !Files.exists(archive)) {
        run(
            List.of(
                "java",
                "-Djarmode=tools",
                "-jar",
                packed.toString(),
                "extract",
                "--force",
                "--destination",
                directory.toString()));
        train(jar, archive);
      }
    }
    List<String> command = new ArrayList<>(List.of("java"));
    command.addAll(OPTIONS);
    String compiler = System.getProperty("warden.compiler", "");
    if (!compiler.isEmpty()) {
      command.add(compiler);
    }
    command.add("-XX:SharedArchiveFile=" + archive);
    command.addAll(List.of("-Xlog:disable", "-Xlog:all=error:stderr", "-jar", jar.toString()));
    return command;
  }

  private static void train(Path jar, Path archive) throws IOException, InterruptedException {
    List<String> command = new ArrayList<>(List.of("java"));
    command.addAll(OPTIONS);
    command.addAll(
        List.of(
            "-XX:ArchiveClassesAtExit=" + archive,
            "-Dspring.context.exit=onRefresh",
            "-jar",
            jar.toString()));
    run(command);
  }

  private static void run(List<String> command) throws IOException, InterruptedException {
    ProcessBuilder builder = new ProcessBuilder(command).inheritIO();
    builder
        .environment()
        .put(
            "WARDEN_DB_URL",
            RunningWarden.environment("WARDEN_TEST_DB_URL")
                    .replaceAll("/warden$", "/warden_trained")
                + "?createDatabaseIfNotExist=true");
    builder.environment().put("WARDEN_DB_USER", RunningWarden.environment("WARDEN_TEST_DB_USER"));
    builder
        .environment()
        .put("WARDEN_DB_PASSWORD", RunningWarden.environment("WARDEN_TEST_DB_PASSWORD"));
    Path directory = Path.of(RunningWarden.environment("WARDEN_TEST_DIR"));
    builder.environment().put("WARDEN_SECRET_FILE", directory.resolve("trained.key").toString());
    builder.environment().put("WARDEN_PORT", Integer.toString(RunningWarden.freePort()));
    Process process = builder.start();
    if (!process.waitFor(3, TimeUnit.MINUTES) || process.exitValue() != 0) {
      process.destroyForcibly();
      throw new IllegalStateException(command + " did not come to its end");
    }
  }
}
