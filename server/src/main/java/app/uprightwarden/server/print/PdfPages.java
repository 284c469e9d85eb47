package app.uprightwarden.server.print;

import com.openhtmltopdf.bidi.support.ICUBidiReorderer;
import com.openhtmltopdf.bidi.support.ICUBidiSplitter;
import com.openhtmltopdf.outputdevice.helper.BaseRendererBuilder.FontStyle;
import com.openhtmltopdf.outputdevice.helper.ExternalResourceControlPriority;
import com.openhtmltopdf.pdfboxout.PdfRendererBuilder;
import com.openhtmltopdf.svgsupport.BatikSVGDrawer;
import com.openhtmltopdf.util.Diagnostic;
import com.openhtmltopdf.util.XRLog;
import com.openhtmltopdf.util.XRLogger;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.util.List;
import java.util.Objects;
import java.util.logging.Level;
import java.util.regex.Pattern;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Makes a PDF of a page. Nothing that the page names is opened, whether on this machine or
 * elsewhere: pictures are part of the page, and fonts come from here. What XML does not have
 * (version 1.0, production 2: most control characters, halves of characters) is left out.
 */
public final class PdfPages {
  private static final Logger LOG = LoggerFactory.getLogger(PdfPages.class);
  private static final Pattern NO_XML =
      Pattern.compile("[^\\t\\n\\r\\x20-\\uD7FF\\uE000-\\uFFFD\\x{10000}-\\x{10FFFF}]");

  /**
   * Fonts for what the first has no letters of: Greek, Arabic, Hebrew, Chinese and others, emoji.
   */
  private static final List<String> OTHERS =
      List.of(
          "noto-sans", "noto-sans-arabic", "noto-sans-hebrew", "droid-sans-fallback", "noto-emoji");

  private static final Pattern FACE = Pattern.compile("font-family:\\s*[\"']?Atkinson[\"']?");
  private static final String FAMILY =
      "font-family: Atkinson, '" + String.join("', '", OTHERS) + "'";

  static {
    XRLog.setLoggerImpl(new Lines());
  }

  private PdfPages() {}

  /** The PDF of a page in XHTML with its style in it. */
  public static byte[] pdf(String page) {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    PdfRendererBuilder builder = new PdfRendererBuilder();
    builder.useSVGDrawer(new BatikSVGDrawer());
    builder.useExternalResourceAccessControl(
        (address, type) -> false, ExternalResourceControlPriority.RUN_BEFORE_RESOLVING_URI);
    builder.useUriResolver((base, address) -> null);
    for (String face : List.of("regular", "bold", "italic")) {
      builder.useFont(
          () -> font(face),
          "Atkinson",
          face.equals("bold") ? 700 : 400,
          face.equals("italic") ? FontStyle.ITALIC : FontStyle.NORMAL,
          true);
    }
    for (String other : OTHERS) {
      builder.useFont(() -> otherFont(other), other, 400, FontStyle.NORMAL, true);
    }
    builder.useUnicodeBidiSplitter(new ICUBidiSplitter.ICUBidiSplitterFactory());
    builder.useUnicodeBidiReorderer(new ICUBidiReorderer());
    builder.withHtmlContent(
        FACE.matcher(NO_XML.matcher(page).replaceAll("")).replaceAll(FAMILY), null);
    builder.toStream(out);
    try {
      builder.run();
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
    return out.toByteArray();
  }

  private static InputStream otherFont(String name) {
    return Objects.requireNonNull(
        PdfPages.class.getResourceAsStream("/print/fonts/" + name + ".ttf"));
  }

  private static InputStream font(String face) {
    return Objects.requireNonNull(
        PdfPages.class.getResourceAsStream("/static/print/atkinson-" + face + ".ttf"));
  }

  /** What the library has to say goes into our log, which is of one kind. */
  private static final class Lines implements XRLogger {
    @Override
    public void log(String where, Level level, String message) {
      LOG.debug("{}: {}", where, message);
    }

    @Override
    public void log(String where, Level level, String message, Throwable why) {
      LOG.debug("{}: {}", where, message, why);
    }

    @Override
    public void setLevel(String logger, Level level) {
      // ours is set where all are
    }

    @Override
    public boolean isLogLevelEnabled(Diagnostic diagnostic) {
      return LOG.isDebugEnabled();
    }
  }
}
