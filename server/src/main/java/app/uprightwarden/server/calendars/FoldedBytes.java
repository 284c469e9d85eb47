package app.uprightwarden.server.calendars;

import java.io.ByteArrayOutputStream;

/**
 * Lines may be folded between any two octets, also inside a character of several (RFC 5545 section
 * 3.1). Read as text first, such a character would be lost: the fold goes behind it.
 */
public final class FoldedBytes {
  private FoldedBytes() {}

  /** The same octets with no fold inside a character of UTF-8; as many lines as before. */
  public static byte[] mended(byte[] given) {
    ByteArrayOutputStream out = new ByteArrayOutputStream(given.length);
    for (int i = 0; i < given.length; i++) {
      int fold = foldAt(given, i);
      if (fold == 0 || !isInside(given, i + fold)) {
        out.write(given[i]);
        continue;
      }
      int rest = i + fold;
      while (isInside(given, rest)) {
        out.write(given[rest++]);
      }
      out.write(given, i, fold);
      i = rest - 1;
    }
    return out.toByteArray();
  }

  /** How many octets the fold has that begins here; 0 where none does. */
  private static int foldAt(byte[] given, int at) {
    int i = at;
    if (i < given.length && given[i] == '\r') {
      i++;
    }
    boolean isFold =
        i + 1 < given.length && given[i] == '\n' && (given[i + 1] == ' ' || given[i + 1] == '\t');
    return isFold ? i + 2 - at : 0;
  }

  private static boolean isInside(byte[] given, int at) {
    return at < given.length && (given[at] & 0xC0) == 0x80;
  }
}
