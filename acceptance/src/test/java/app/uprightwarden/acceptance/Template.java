package app.uprightwarden.acceptance;

import java.io.File;
import java.io.IOException;
import java.net.URI;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.TimeUnit;

/**
 * The database of one start with the demo organisation, put in the place of an empty one: what
 * starts with it finds everything there, as a second start does. Loading the demo takes most of a
 * first start.
 *
 * <p>Sessions that were practised are broken off, as by every new start: a test that looks at
 * sessions in progress wants a start of its own ({@link RunningWarden#startAnew}).
 */
final class Template {
  private final Path directory;
  private final URI database =
      URI.create(RunningWarden.environment("WARDEN_TEST_DB_URL").substring("jdbc:".length()));

  /**
   * @param directory where the dump and the keys are kept
   */
  Template(Path directory) {
    this.directory = directory;
  }

  String schema() {
    return "warden_template";
  }

  String url() {
    return RunningWarden.url(schema());
  }

  private Path dump() {
    return directory.resolve("template.sql");
  }

  private static Path key(Path directory, String schema) {
    return directory.resolve(schema + ".key");
  }

  /** Keeps what the server that was trained has left; it must have ended. */
  void keep() throws IOException, InterruptedException {
    run(
        List.of("mariadb-dump", "--no-tablespaces", "--single-transaction", schema()),
        ProcessBuilder.Redirect.from(new File("/dev/null")),
        ProcessBuilder.Redirect.to(dump().toFile()));
  }

  /**
   * Fills a schema, if it is not there yet, and puts its key beside it.
   *
   * @param schema its name, which its key's file has as well
   */
  void fill(String schema) throws IOException, InterruptedException {
    if (Files.exists(key(directory, schema))) {
      return; // it was started before
    }
    run(
        List.of("mariadb", "-e", "create database " + schema),
        ProcessBuilder.Redirect.from(new File("/dev/null")),
        ProcessBuilder.Redirect.INHERIT);
    run(
        List.of("mariadb", schema),
        ProcessBuilder.Redirect.from(dump().toFile()),
        ProcessBuilder.Redirect.INHERIT);
    Files.copy(key(directory, schema()), key(directory, schema));
  }

  private void run(
      List<String> command, ProcessBuilder.Redirect input, ProcessBuilder.Redirect output)
      throws IOException, InterruptedException {
    List<String> whole = new ArrayList<>(List.of(command.get(0), "--no-defaults"));
    whole.add("--host=" + database.getHost());
    whole.add("--port=" + database.getPort());
    whole.add("--user=" + RunningWarden.environment("WARDEN_TEST_DB_USER"));
    whole.addAll(command.subList(1, command.size()));
    ProcessBuilder builder = new ProcessBuilder(whole);
    builder.environment().put("MYSQL_PWD", RunningWarden.environment("WARDEN_TEST_DB_PASSWORD"));
    builder.redirectInput(input).redirectOutput(output);
    builder.redirectError(ProcessBuilder.Redirect.INHERIT);
    Process process = builder.start();
    if (!process.waitFor(1, TimeUnit.MINUTES) || process.exitValue() != 0) {
      process.destroyForcibly();
      throw new IllegalStateException(command + " did not come to its end");
    }
  }
}
