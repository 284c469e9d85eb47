package app.uprightwarden.server.calendars;

import com.github.mangstadt.vinnie.SyntaxStyle;
import com.github.mangstadt.vinnie.VObjectParameters;
import com.github.mangstadt.vinnie.VObjectProperty;
import com.github.mangstadt.vinnie.io.VObjectPropertyValues;
import com.github.mangstadt.vinnie.io.VObjectWriter;
import java.io.IOException;
import java.io.StringWriter;
import java.io.UncheckedIOException;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** Content lines, folded at 75 octets and never inside a character (RFC 5545 section 3.1). */
final class ContentLines {
  private static final int MAX_OCTETS = 75;

  private final StringBuilder out = new StringBuilder();

  static String escape(String text) {
    return VObjectPropertyValues.escape(text.replace("\r\n", "\n").replace('\r', '\n'))
        .replace("\n", "\\n");
  }

  void line(String name, String value) {
    line(name, Map.of(), value);
  }

  /** A value of ours; none where it is null. */
  void own(String name, @Nullable String text) {
    if (text != null) {
      line(VendorProperties.PREFIX + name, escape(text));
    }
  }

  /** Parameter values with quotes, line breaks or carets are encoded (RFC 6868). */
  void line(String name, Map<String, String> parameters, String value) {
    StringWriter whole = new StringWriter();
    VObjectParameters encoded = new VObjectParameters();
    parameters.forEach((key, text) -> encoded.put(key, controlsOut(text)));
    try (VObjectWriter writer = new VObjectWriter(whole, SyntaxStyle.NEW)) {
      writer.setCaretEncodingEnabled(true);
      writer.getFoldedLineWriter().setLineLength(null);
      // a stray control character would make the line unreadable to others
      String clean = controlsOut(value).replace("\n", "\\n");
      writer.writeProperty(new VObjectProperty(null, name, encoded, clean));
    } catch (IOException e) {
      throw new UncheckedIOException("text can always be written", e);
    }
    raw(whole.toString().stripTrailing());
  }

  private static String controlsOut(String text) {
    return text.replaceAll("[\\p{Cntrl}&&[^\\n\\t]]", "");
  }

  /** A whole line as it is, to be folded; one line, whatever was put into it. */
  void raw(String given) {
    String line = controlsOut(given).replace("\n", "");
    int octets = 0;
    int width = MAX_OCTETS;
    for (int i = 0; i < line.length(); ) {
      int point = line.codePointAt(i);
      int length = point < 0x80 ? 1 : point < 0x800 ? 2 : point < 0x10000 ? 3 : 4;
      if (octets + length > width) {
        out.append("\r\n ");
        octets = 0;
        width = MAX_OCTETS - 1; // the space counts
      }
      out.appendCodePoint(point);
      octets += length;
      i += Character.charCount(point);
    }
    out.append("\r\n");
  }

  @Override
  public String toString() {
    return out.toString();
  }
}
