package app.uprightwarden.server;

import java.io.IOException;
import java.net.URI;
import java.util.concurrent.TimeUnit;

/** A schema of the tests' database, table by table in another. */
final class DatabaseCopy {
  private static final URI DATABASE =
      URI.create(ServerTest.environment("WARDEN_TEST_DB_URL").substring("jdbc:".length()));

  private DatabaseCopy() {}

  /** Makes {@code to}, which must not be there, as {@code from} is now. */
  static void copy(String from, String to) {
    String client =
        String.format(
            " --no-defaults --host=%s --port=%d --user=%s ",
            DATABASE.getHost(), DATABASE.getPort(), ServerTest.environment("WARDEN_TEST_DB_USER"));
    String command =
        String.format(
            "set -eo pipefail; mariadb %s -e 'create database %s';"
                + " mariadb-dump %s --no-tablespaces --single-transaction %s | mariadb %s %s",
            client, to, client, from, client, to);
    ProcessBuilder builder = new ProcessBuilder("bash", "-c", command).inheritIO();
    builder.environment().put("MYSQL_PWD", ServerTest.environment("WARDEN_TEST_DB_PASSWORD"));
    try {
      Process process = builder.start();
      if (!process.waitFor(3, TimeUnit.MINUTES) || process.exitValue() != 0) {
        process.destroyForcibly();
        throw new IllegalStateException(from + " was not copied to " + to);
      }
    } catch (IOException e) {
      throw new java.io.UncheckedIOException(e);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new IllegalStateException(e);
    }
  }
}
