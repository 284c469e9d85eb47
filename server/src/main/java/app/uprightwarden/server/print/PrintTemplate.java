package app.uprightwarden.server.print;

import com.samskivert.mustache.Mustache;
import com.samskivert.mustache.Template;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.Map;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/** What is printed: a page's template of ours, and the style that all of them have. */
public final class PrintTemplate {
  private final Template template;
  private final String style;

  private PrintTemplate(Template template, String style) {
    this.template = template;
    this.style = style;
  }

  /** The template {@code print/NAME.mustache}. */
  public static PrintTemplate of(String name) {
    return new PrintTemplate(
        Mustache.compiler()
            .escapeHTML(true)
            .defaultValue("")
            .compile(text("/print/" + name + ".mustache")),
        // fonts are given to the PDF by themselves
        text("/static/print/print.css").replaceAll("(?s)@font-face \\{.*?}", ""));
  }

  private static String text(String resource) {
    try (InputStream in =
        Objects.requireNonNull(PrintTemplate.class.getResourceAsStream(resource))) {
      return new String(in.readAllBytes(), StandardCharsets.UTF_8);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  /** The style, for a page that is to have it in itself. */
  public String style() {
    return style;
  }

  /** The page with these values in it, escaped. */
  public String page(Map<String, ? extends @Nullable Object> values) {
    return template.execute(values);
  }
}
