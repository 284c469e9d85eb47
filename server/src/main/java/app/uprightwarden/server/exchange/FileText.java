package app.uprightwarden.server.exchange;

import app.uprightwarden.server.calendars.FoldedBytes;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.problem.Texts;
import app.uprightwarden.server.schema.StrictJson;
import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.CharBuffer;
import java.nio.charset.CharsetDecoder;
import java.nio.charset.CoderResult;
import java.nio.charset.CodingErrorAction;
import java.nio.charset.StandardCharsets;
import java.util.List;

/** The text of a file that somebody brings: UTF-8, of a size that can be held, and no archive. */
final class FileText {
  private FileText() {}

  /**
   * Reads a file whole.
   *
   * @throws ProblemException 400 where it is no text in UTF-8, with the line; 413 where too large
   */
  static String read(InputStream in) {
    byte[] bytes;
    try {
      bytes = in.readNBytes(StrictJson.MAX_BYTES + 1);
    } catch (IOException e) {
      throw ProblemException.unreadable("The file did not arrive whole. Send it again.", List.of());
    }
    if (bytes.length > StrictJson.MAX_BYTES) {
      throw ProblemException.tooLarge(
          "The file is larger than "
              + StrictJson.MAX_BYTES / 1024 / 1024
              + " MiB. Split it. Nothing was stored.");
    }
    refuseArchives(bytes);
    String text = decode(FoldedBytes.mended(bytes));
    if (text.isBlank()) {
      throw ProblemException.unreadable("The file is empty.", List.of());
    }
    return text;
  }

  private static void refuseArchives(byte[] bytes) {
    if (begins(bytes, 'P', 'K', 3, 4) || begins(bytes, 0x1f, 0x8b)) {
      // what is packed is never unpacked here: its size is anybody's guess
      throw ProblemException.unreadable(
          "This is an archive or a spreadsheet. Unpack it, or save it as CSV in UTF-8, and give"
              + " that.",
          List.of());
    }
    if (begins(bytes, 0xff, 0xfe) || begins(bytes, 0xfe, 0xff)) {
      throw ProblemException.unreadable(
          "The file is in UTF-16. Save it as UTF-8 and give that.", List.of());
    }
  }

  private static boolean begins(byte[] bytes, int... magic) {
    for (int i = 0; i < magic.length; i++) {
      if (i >= bytes.length || (bytes[i] & 0xff) != magic[i]) {
        return false;
      }
    }
    return true;
  }

  private static String decode(byte[] bytes) {
    CharsetDecoder decoder =
        StandardCharsets.UTF_8
            .newDecoder()
            .onMalformedInput(CodingErrorAction.REPORT)
            .onUnmappableCharacter(CodingErrorAction.REPORT);
    ByteBuffer in = ByteBuffer.wrap(bytes);
    CharBuffer out = CharBuffer.allocate(bytes.length + 1);
    CoderResult result = decoder.decode(in, out, true);
    if (result.isError()) {
      int line = 1;
      for (int i = 0; i < in.position(); i++) {
        line += bytes[i] == '\n' ? 1 : 0;
      }
      throw ProblemException.unreadable(
          "Line %d holds byte 0x%02X, which is not UTF-8. Save the file as UTF-8 and give that. Nothing was stored."
              .formatted(line, bytes[in.position()] & 0xff),
          List.of());
    }
    String text = out.flip().toString();
    return Texts.printable(text.startsWith("\ufeff") ? text.substring(1) : text);
  }
}
