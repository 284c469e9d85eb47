package app.uprightwarden.server;

import java.io.IOException;
import java.nio.channels.FileChannel;
import java.nio.channels.FileLock;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import org.springframework.boot.SpringApplication;
import org.springframework.context.ApplicationContextInitializer;
import org.springframework.context.ConfigurableApplicationContext;
import org.springframework.core.env.Environment;

/**
 * Puts the database of a start with the demo organisation in the place of an empty one, before a
 * server of the tests starts on a schema of its own: loading the demo is half of such a start. What
 * starts with it finds everything there, as a second start does; sessions that were practised are
 * broken off, as by every new start.
 *
 * <p>The first start that this is for makes it, once for all processes that test. One that would
 * have to wait for it loads the demo by itself.
 */
final class FilledSchema implements ApplicationContextInitializer<ConfigurableApplicationContext> {
  private static final String MODEL = "warden_model";
  private static final Path DIRECTORY = Path.of(ServerTest.environment("WARDEN_TEST_DIR"));
  private static final Path READY = DIRECTORY.resolve(MODEL + ".ready");

  @Override
  public void initialize(ConfigurableApplicationContext context) {
    Environment environment = context.getEnvironment();
    String schema = environment.getProperty("test.schema");
    if (schema == null || !environment.getProperty("test.filled", Boolean.class, true)) {
      return;
    }
    String own = schema + "_" + ServerTest.FORK;
    try {
      if (!Files.exists(key(own)) && isMade()) {
        DatabaseCopy.copy(MODEL, own);
        Files.copy(key(MODEL), key(own));
      }
    } catch (IOException e) {
      throw new java.io.UncheckedIOException(e);
    }
  }

  private static Path key(String schema) {
    return DIRECTORY.resolve(schema + ".key");
  }

  /** Makes it, if nobody is about to. */
  private static boolean isMade() throws IOException {
    if (Files.exists(READY)) {
      return true;
    }
    Path lock = DIRECTORY.resolve(MODEL + ".lock");
    try (FileChannel channel =
            FileChannel.open(lock, StandardOpenOption.CREATE, StandardOpenOption.WRITE);
        FileLock held = channel.tryLock()) {
      if (held == null) {
        return false;
      }
      if (!Files.exists(READY)) {
        SpringApplication.run(
                WardenApplication.class,
                "--server.port=0",
                "--spring.datasource.url=" + ServerTest.url(MODEL),
                "--spring.datasource.username=" + ServerTest.environment("WARDEN_TEST_DB_USER"),
                "--spring.datasource.password=" + ServerTest.environment("WARDEN_TEST_DB_PASSWORD"),
                "--warden.secret-file=" + key(MODEL),
                "--warden.demo=true",
                "--warden.audit.page=25")
            .close();
        Files.createFile(READY);
      }
      return true;
    }
  }
}
