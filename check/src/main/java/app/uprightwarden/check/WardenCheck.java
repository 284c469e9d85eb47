package app.uprightwarden.check;

import app.uprightwarden.server.exchange.OfflineCheck;
import java.io.IOException;
import java.io.InputStream;
import java.io.PrintStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Judges bundles and calendars against a rulebook: findings as text, JSON or SARIF, and an exit
 * status that a pipeline can stop at.
 */
public final class WardenCheck {
  /** Nothing found that counts; 1 to 5 are the gravest severity found. */
  static final int CLEAN = 0;

  // as the C library's sysexits.h has them
  static final int USAGE = 64;
  static final int BAD_DATA = 65;
  static final int NO_INPUT = 66;

  private static final int MAX_FILE = 32 * 1024 * 1024;

  private WardenCheck() {}

  /** Runs, and ends the process with the status. */
  public static void main(String[] args) {
    System.exit(run(args, System.out, System.err, Clock.systemUTC()));
  }

  /**
   * Runs.
   *
   * @return the exit status
   */
  static int run(String[] args, PrintStream out, PrintStream err, Clock clock) {
    try {
      Options options = Options.of(args, clock);
      if (options.isHelp()) {
        out.print(Options.HELP);
        return CLEAN;
      }
      OfflineCheck check = new OfflineCheck();
      List<OfflineCheck.NamedFile> files = new ArrayList<>();
      for (String name : options.files()) {
        files.add(read(name));
      }
      OfflineCheck.NamedFile rulebook = readIfAny(options.rulebook());
      OfflineCheck.Outcome outcome = check.check(files, rulebook, options.window());
      OfflineCheck.NamedFile before = readIfAny(options.against());
      Report report =
          new Report(
              outcome,
              before == null ? null : check.check(files, before, options.window()),
              options.failFrom());
      switch (options.format()) {
        case "json" -> report.json(out);
        case "sarif" -> report.sarif(out);
        default -> report.text(out);
      }
      return report.status();
    } catch (Options.Wrong e) {
      err.println("warden-check: " + e.getMessage());
      err.println("warden-check --help says what there is.");
      return USAGE;
    } catch (OfflineCheck.Unreadable e) {
      err.println("warden-check: " + e.getMessage());
      return BAD_DATA;
    } catch (IOException e) {
      err.println("warden-check: cannot read " + e.getMessage());
      return NO_INPUT;
    }
  }

  private static OfflineCheck.@Nullable NamedFile readIfAny(@Nullable String name)
      throws IOException {
    return name == null ? null : read(name);
  }

  private static OfflineCheck.NamedFile read(String name) throws IOException {
    Path path = Path.of(name);
    if (!Files.isRegularFile(path)) {
      throw new IOException(name + ": there is no such file");
    }
    try (InputStream in = Files.newInputStream(path)) {
      byte[] bytes = in.readNBytes(MAX_FILE + 1);
      if (bytes.length > MAX_FILE) {
        throw new IOException(name + ": it is larger than " + MAX_FILE / 1024 / 1024 + " MB");
      }
      return new OfflineCheck.NamedFile(name, bytes);
    }
  }
}
