package app.uprightwarden.acceptance;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;

/** A MariaDB server of a test's own, that can be killed and started again on the same files. */
final class OwnDatabase implements AutoCloseable {
  private static final long PATIENCE_NANOS = 60_000_000_000L;

  private final Path directory;
  private final int port;
  private Process process;

  private OwnDatabase(Path directory, int port) {
    this.directory = directory;
    this.port = port;
  }

  static OwnDatabase start(String name) throws IOException, InterruptedException {
    Path directory = Path.of(RunningWarden.environment("WARDEN_TEST_DIR")).resolve(name);
    Files.createDirectories(directory);
    List<String> install =
        new ArrayList<>(
            List.of(
                "mariadb-install-db",
                "--no-defaults",
                "--datadir=" + directory.resolve("data"),
                "--tmpdir=" + directory,
                "--auth-root-authentication-method=normal",
                "--skip-test-db"));
    asRoot(install);
    Process made =
        new ProcessBuilder(install)
            .redirectErrorStream(true)
            .redirectOutput(directory.resolve("install.log").toFile())
            .start();
    if (made.waitFor() != 0) {
      throw new IOException("no database could be made; see " + directory.resolve("install.log"));
    }
    OwnDatabase database = new OwnDatabase(directory, RunningWarden.freePort());
    database.start();
    return database;
  }

  private static void asRoot(List<String> command) {
    if (System.getProperty("user.name").equals("root")) {
      command.add("--user=root");
    }
  }

  /** Not below the directory: the path of a socket may be 107 bytes long (unix(7)). */
  private Path socket() {
    return Path.of("/tmp", "warden-db-" + port + ".s");
  }

  void start() throws IOException, InterruptedException {
    List<String> command =
        new ArrayList<>(
            List.of(
                Files.exists(Path.of("/usr/sbin/mariadbd")) ? "/usr/sbin/mariadbd" : "mariadbd",
                "--no-defaults",
                "--datadir=" + directory.resolve("data"),
                "--tmpdir=" + directory,
                "--bind-address=127.0.0.1",
                "--port=" + port,
                "--socket=" + socket(),
                "--pid-file=" + directory.resolve("pid"),
                "--skip-name-resolve",
                "--skip-grant-tables", // on loopback, for as long as a test runs
                "--character-set-server=utf8mb4",
                "--collation-server=utf8mb4_bin",
                "--innodb-buffer-pool-size=64M"));
    asRoot(command);
    process =
        new ProcessBuilder(command)
            .redirectErrorStream(true)
            .redirectOutput(directory.resolve("server.log").toFile())
            .start();
    long end = System.nanoTime() + PATIENCE_NANOS;
    while (System.nanoTime() < end) {
      try (Connection connection = connect("mysql")) {
        connection.isValid(1);
        return;
      } catch (SQLException e) {
        TimeUnit.MILLISECONDS.sleep(150); // not listening yet
      }
    }
    throw new IOException("the database did not come up; see " + directory.resolve("server.log"));
  }

  /** Kills it as a power cut would (signal 9). */
  void kill() throws InterruptedException {
    process.destroyForcibly();
    process.waitFor(20, TimeUnit.SECONDS);
  }

  /**
   * Lets it answer nothing, as a machine that swaps or a disk that hangs. The signal is only on its
   * way when it was sent: on a busy machine a thread answers once more, so this waits for all.
   */
  void freeze() throws IOException, InterruptedException {
    signal("-STOP");
    long end = System.nanoTime() + PATIENCE_NANOS;
    while (!standsStill()) {
      if (System.nanoTime() > end) {
        throw new IOException("the database did not stand still");
      }
      TimeUnit.MILLISECONDS.sleep(5);
    }
  }

  /** Whether every thread of it is stopped: state T in {@code /proc} (proc(5)). */
  private boolean standsStill() throws IOException {
    Path tasks = Path.of("/proc", Long.toString(process.pid()), "task");
    try (Stream<Path> threads = Files.list(tasks)) {
      for (Path thread : threads.toList()) {
        String stat = Files.readString(thread.resolve("stat"));
        if (!stat.substring(stat.lastIndexOf(')')).startsWith(") T")) {
          return false;
        }
      }
    }
    return true;
  }

  void thaw() throws IOException, InterruptedException {
    signal("-CONT");
  }

  private void signal(String which) throws IOException, InterruptedException {
    int code =
        new ProcessBuilder("kill", which, Long.toString(process.pid()))
            .inheritIO()
            .start()
            .waitFor();
    if (code != 0) {
      throw new IOException("kill " + which + " answered " + code);
    }
  }

  String url(String schema) {
    return "jdbc:mariadb://127.0.0.1:" + port + "/" + schema;
  }

  Connection connect(String schema) throws SQLException {
    return DriverManager.getConnection(url(schema), "root", "");
  }

  @Override
  public void close() {
    process.destroy();
    try {
      if (!process.waitFor(20, TimeUnit.SECONDS)) {
        process.destroyForcibly();
      }
      Files.deleteIfExists(socket()); // which is left where it was killed
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
  }
}
