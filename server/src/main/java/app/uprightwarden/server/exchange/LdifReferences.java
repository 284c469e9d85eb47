package app.uprightwarden.server.exchange;

import java.util.function.IntConsumer;

/**
 * Takes records out of an LDIF text whose values are references (RFC 2849, {@code value-spec} with
 * {@code "<" URL}): reading them would open whatever file or address they name, on this machine.
 */
final class LdifReferences {
  private LdifReferences() {}

  /**
   * The text without such records; its lines keep their numbers.
   *
   * @param refused gets the line of each reference
   */
  static String without(String text, IntConsumer refused) {
    String[] lines = text.split("\r\n|\r|\n", -1);
    int record = 0;
    for (int i = 0; i <= lines.length; i++) {
      if (i == lines.length || lines[i].isEmpty()) {
        int at = referenceIn(lines, record, i);
        if (at >= 0) {
          refused.accept(at + 1);
          for (int gone = record; gone < i; gone++) {
            lines[gone] = "";
          }
        }
        record = i + 1;
      }
    }
    return String.join("\n", lines);
  }

  /** The line where a reference begins, or -1. A line goes on in those that begin with a space. */
  private static int referenceIn(String[] lines, int from, int to) {
    StringBuilder whole = new StringBuilder();
    int begun = from;
    for (int i = from; i <= to; i++) {
      boolean goesOn = i < to && lines[i].startsWith(" ");
      if (goesOn) {
        whole.append(lines[i], 1, lines[i].length());
        continue;
      }
      if (isReference(whole)) {
        return begun;
      }
      whole.setLength(0);
      begun = i;
      if (i < to) {
        whole.append(lines[i]);
      }
    }
    return -1;
  }

  private static boolean isReference(CharSequence line) {
    int colon = line.toString().indexOf(':');
    return colon >= 0
        && line.charAt(0) != '#'
        && line.toString().substring(colon + 1).stripLeading().startsWith("<");
  }
}
