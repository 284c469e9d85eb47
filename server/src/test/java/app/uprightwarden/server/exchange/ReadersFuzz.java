package app.uprightwarden.server.exchange;

import app.uprightwarden.server.problem.ProblemException;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.function.Function;
import tools.jackson.core.JacksonException;

/**
 * Every reader for a fuzzer that is guided by coverage (Jazzer): {@code ./warden fuzz guided
 * MINUTES}. The first byte of an input says which reader; what is behind it is read as UTF-8.
 */
public final class ReadersFuzz {
  private static final Object[][] READERS = new ParsersTest().parsers();
  private static final int LONGEST = 20_000;

  private ReadersFuzz() {}

  /** One input; what is thrown here is a find. */
  @SuppressWarnings("unchecked")
  public static void fuzzerTestOneInput(byte[] data) {
    if (data.length < 2 || data.length > LONGEST) {
      return;
    }
    Object[] reader = READERS[(data[0] & 0xff) % READERS.length];
    String text = new String(data, 1, data.length - 1, StandardCharsets.UTF_8);
    try {
      var unused = ((Function<String, Object>) reader[2]).apply(text);
    } catch (ProblemException | JacksonException e) {
      // it says what is wrong, which is what it should do
    }
  }

  /** Writes an input for each reader to begin with into a folder. */
  public static void main(String[] arguments) throws IOException {
    Path folder = Files.createDirectories(Path.of(arguments[0]));
    for (int i = 0; i < READERS.length; i++) {
      byte[] seed = ((String) READERS[i][1]).getBytes(StandardCharsets.UTF_8);
      byte[] input = new byte[seed.length + 1];
      input[0] = (byte) i;
      System.arraycopy(seed, 0, input, 1, seed.length);
      Files.write(folder.resolve("seed-" + READERS[i][0].toString().replace(' ', '-')), input);
    }
  }
}
