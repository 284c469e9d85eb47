package app.uprightwarden.acceptance;

import java.io.IOException;
import java.nio.channels.FileChannel;
import java.nio.channels.FileLock;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.TimeUnit;

/**
 * The application spread out, with an archive of its classes, as {@code ./warden start} prepares
 * it: each of the many starts is some seconds shorter. Made once for all processes that test.
 */
final class UnpackedWarden {
  static final List<String> OPTIONS =
      List.of(
          "-Xmx512m",
          "-XX:+UseSerialGC",
          "-XX:+ExitOnOutOfMemoryError",
          "-Dspring.aot.enabled=true");

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
        unpack(packed, directory);
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
    command.add("-Djava.io.tmpdir=" + System.getProperty("java.io.tmpdir"));
    command.addAll(List.of("-Xlog:disable", "-Xlog:all=error:stderr", "-jar", jar.toString()));
    return command;
  }

  private static void unpack(Path packed, Path directory) throws IOException, InterruptedException {
    String to = directory.toString();
    List<String> command = new ArrayList<>(List.of("java", "-Djarmode=tools", "-jar"));
    command.addAll(List.of(packed.toString(), "extract", "--force", "--destination", to));
    Process process = new ProcessBuilder(command).inheritIO().start();
    if (!process.waitFor(3, TimeUnit.MINUTES) || process.exitValue() != 0) {
      process.destroyForcibly();
      throw new IllegalStateException(command + " did not come to its end");
    }
  }

  /**
   * One whole run with the demo organisation, and what comes of it: an archive of the classes it
   * loaded, and its database for those that begin with the demo too.
   */
  private static void train(Path jar, Path archive) throws IOException, InterruptedException {
    Path directory = Path.of(RunningWarden.environment("WARDEN_TEST_DIR"));
    List<String> command = new ArrayList<>(List.of("java"));
    command.addAll(OPTIONS);
    command.addAll(
        List.of(
            "-XX:TieredStopAtLevel=1",
            "-XX:ArchiveClassesAtExit=" + archive,
            "-jar",
            jar.toString()));
    Template template = new Template(directory);
    ProcessBuilder builder = new ProcessBuilder(command);
    try (RunningWarden trained = RunningWarden.begin(template.schema(), builder, template.url())) {
      trained.await();
      // on a busy machine it takes longer to write the archive than others take to end
      trained.end(Duration.ofMinutes(3));
    }
    if (!Files.exists(archive)) {
      throw new IllegalStateException(command + " left no archive of its classes");
    }
    template.keep();
  }
}
