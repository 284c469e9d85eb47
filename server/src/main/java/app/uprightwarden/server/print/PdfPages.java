package app.uprightwarden.server.print;

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
    builder.withHtmlContent(NO_XML.matcher(page).replaceAll(""), null);
    builder.toStream(out);
    try {
      builder.run();
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
    return out.toByteArray();
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
