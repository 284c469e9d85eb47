package app.uprightwarden.acceptance;

import java.io.IOException;
import java.net.BindException;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.Map;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;

/** The packaged application, started as users start it, on a schema of its own. */
final class RunningWarden implements AutoCloseable {
  private static final int FIRST_GIVEN_TO_OTHERS = 32_768;
  private static final AtomicInteger NEXT_PORT =
      new AtomicInteger(20_000 + 4_000 * ((Integer.getInteger("test.fork", 1) - 1) % 3));

  private static final Duration PATIENCE = Duration.ofMinutes(3);

  /** A start that loads many meetings first; some hundreds a second. */
  private static final Duration PATIENCE_SCALED = Duration.ofMinutes(40);

  private final Process process;
  private final int port;
  private final Path firstAccount;
  private final Path log;

  private RunningWarden(Process process, int port, Path firstAccount, Path log) {
    this.process = process;
    this.port = port;
    this.firstAccount = firstAccount;
    this.log = log;
  }

  /**
   * Starts it with the demo organisation, as it was loaded once for all.
   *
   * @param schema name of the database schema, made if it is not there
   */
  static RunningWarden start(String schema) throws IOException, InterruptedException {
    return start(schema, Map.of());
  }

  /** Starts it with the demo organisation and more in its environment. */
  static RunningWarden start(String schema, Map<String, String> more)
      throws IOException, InterruptedException {
    UnpackedWarden.command(); // which makes the template
    new Template(Path.of(environment("WARDEN_TEST_DIR"))).fill(schema);
    return startAnew(schema, more);
  }

  /** Starts it with the demo organisation, loaded by this very start if it is not there yet. */
  static RunningWarden startAnew(String schema, Map<String, String> more)
      throws IOException, InterruptedException {
    RunningWarden warden = begin(schema, schema, true, 0, url(schema), more);
    warden.await(PATIENCE);
    return warden;
  }

  /** Starts it with the demo organisation and so many meetings of its mixture. */
  static RunningWarden startScaled(String schema, int meetings)
      throws IOException, InterruptedException {
    return start(schema, true, meetings, url(schema));
  }

  /** Starts it empty, with one account and no rulebook. */
  static RunningWarden startEmpty(String schema) throws IOException, InterruptedException {
    return start(schema, false, 0, url(schema));
  }

  /** Starts it on a database at an address of its own. */
  static RunningWarden start(String schema, boolean demo, int scale, String url)
      throws IOException, InterruptedException {
    RunningWarden warden = begin(schema, schema, demo, scale, url, Map.of());
    warden.await(scale > 0 ? PATIENCE_SCALED : PATIENCE);
    return warden;
  }

  /** Where a schema of the tests' database is, made when it is first connected to. */
  static String url(String schema) {
    return environment("WARDEN_TEST_DB_URL").replaceAll("/warden$", "/" + schema)
        + "?createDatabaseIfNotExist=true";
  }

  /**
   * Starts one of several servers on a database, and does not wait for it.
   *
   * @param name names its log
   * @param more of its environment
   */
  static RunningWarden begin(
      String schema, String name, boolean demo, int scale, String url, Map<String, String> more)
      throws IOException, InterruptedException {
    ProcessBuilder builder = new ProcessBuilder(UnpackedWarden.command());
    builder.environment().put("WARDEN_SCALE", Integer.toString(scale));
    String page = System.getProperty("warden.audit.page");
    if (page != null) {
      builder.environment().put("WARDEN_AUDIT_PAGE", page);
    }
    return begin(builder, schema, name, demo, url, more);
  }

  /** Begins it with the demo organisation by a command of one's own. */
  static RunningWarden begin(String schema, ProcessBuilder command, String url) throws IOException {
    return begin(command, schema, schema, true, url, Map.of());
  }

  private static RunningWarden begin(
      ProcessBuilder builder,
      String schema,
      String name,
      boolean demo,
      String url,
      Map<String, String> more)
      throws IOException {
    int port = freePort();
    builder.environment().put("WARDEN_DB_URL", url);
    builder.environment().put("WARDEN_DB_USER", environment("WARDEN_TEST_DB_USER"));
    builder.environment().put("WARDEN_DB_PASSWORD", environment("WARDEN_TEST_DB_PASSWORD"));
    builder.environment().put("WARDEN_PORT", Integer.toString(port));
    builder.environment().put("WARDEN_DEMO", Boolean.toString(demo));
    Path directory = Path.of(environment("WARDEN_TEST_DIR"));
    builder.environment().put("WARDEN_SECRET_FILE", directory.resolve(schema + ".key").toString());
    Path account = directory.resolve(schema + ".account");
    builder.environment().put("WARDEN_FIRST_ACCOUNT_FILE", account.toString());
    builder.redirectErrorStream(true);
    Path log = directory.resolve(name + ".log");
    builder.redirectOutput(log.toFile());
    builder.environment().putAll(more);
    return new RunningWarden(builder.start(), port, account, log);
  }

  int port() {
    return port;
  }

  void await() throws InterruptedException {
    await(PATIENCE);
  }

  /** Waits until somebody answers at a port, for a process that has no page to ask for. */
  void listensAt(int asked) throws InterruptedException {
    long end = System.nanoTime() + PATIENCE.toNanos();
    while (System.nanoTime() < end && process.isAlive()) {
      try (Socket socket = new Socket(InetAddress.getLoopbackAddress(), asked)) {
        if (socket.isConnected()) {
          return;
        }
      } catch (IOException e) {
        TimeUnit.MILLISECONDS.sleep(200); // not listening yet
      }
    }
    throw notUp();
  }

  private void await(Duration patience) throws InterruptedException {
    HttpClient http = HttpClient.newHttpClient();
    HttpRequest request = HttpRequest.newBuilder(URI.create(address() + "/api/health")).build();
    long end = System.nanoTime() + patience.toNanos();
    while (System.nanoTime() < end && process.isAlive()) {
      try {
        if (http.send(request, HttpResponse.BodyHandlers.discarding()).statusCode() == 200) {
          return;
        }
      } catch (IOException e) {
        // not listening yet
      }
      // asked without a pause, it would have half of the machine for its answers
      TimeUnit.MILLISECONDS.sleep(200);
    }
    throw notUp();
  }

  private IllegalStateException notUp() {
    close();
    return new IllegalStateException(
        "the application did not come up; the end of its log: " + endOfLog());
  }

  private String endOfLog() {
    try {
      String all = Files.readString(log);
      return all.substring(Math.max(0, all.length() - 4000));
    } catch (IOException e) {
      return "cannot be read: " + e;
    }
  }

  /** The password of the one account that an empty start makes, as it is told. */
  String firstPassword() throws IOException {
    String told = Files.readString(firstAccount).strip();
    return told.substring(told.lastIndexOf(' ') + 1);
  }

  String address() {
    return "http://127.0.0.1:" + port;
  }

  long pid() {
    return process.pid();
  }

  /** Kills it as a power cut would (signal 9). */
  void kill() throws InterruptedException {
    process.destroyForcibly();
    process.waitFor(20, TimeUnit.SECONDS);
  }

  /**
   * A port that stays free until the server that is to have it is up: from 32768 on (Linux's
   * default) the system gives them to whoever connects to anything. Each process that tests has
   * ports of its own.
   */
  static int freePort() throws IOException {
    while (true) {
      int port = NEXT_PORT.getAndIncrement();
      if (port >= FIRST_GIVEN_TO_OTHERS) {
        throw new IOException("no port below " + FIRST_GIVEN_TO_OTHERS + " is free");
      }
      try (ServerSocket socket = new ServerSocket(port)) {
        return socket.getLocalPort();
      } catch (BindException e) {
        // somebody has it: the next
      }
    }
  }

  static String environment(String name) {
    String value = System.getenv(name);
    if (value == null) {
      throw new IllegalStateException(name + " is not set: run the tests by ./warden test");
    }
    return value;
  }

  /**
   * Asks it to end and waits until it has, and throws where it does not: for what must not be cut
   * short, as the archive of its classes that it writes last.
   *
   * @param patience how long at most
   */
  void end(Duration patience) throws InterruptedException {
    process.destroy();
    if (!process.waitFor(patience.toSeconds(), TimeUnit.SECONDS)) {
      process.destroyForcibly();
      throw new IllegalStateException(
          "did not end within " + patience + "; the end of its log: " + endOfLog());
    }
  }

  @Override
  public void close() {
    process.destroy();
    try {
      if (!process.waitFor(20, TimeUnit.SECONDS)) {
        process.destroyForcibly();
      }
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      process.destroyForcibly();
    }
  }
}
