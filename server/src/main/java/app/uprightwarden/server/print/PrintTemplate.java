package app.uprightwarden.server.print;

import app.uprightwarden.server.problem.Languages;
import app.uprightwarden.server.problem.Wording;
import com.samskivert.mustache.Mustache;
import com.samskivert.mustache.Template;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.HashMap;
import java.util.Map;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/** What is printed: a page's template of ours, and the style that all of them have. */
public final class PrintTemplate {
  private final Template template;
  private final String style;

  private final String name;

  private PrintTemplate(String name, Template template, String style) {
    this.name = name;
    this.template = template;
    this.style = style;
  }

  /** The template {@code print/NAME.mustache}. */
  public static PrintTemplate of(String name) {
    return new PrintTemplate(
        name,
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

  /**
   * The page with these values in it, escaped, in the language of the request in hand.
   *
   * @param values beside them stand the texts of {@code wording/NAME-page.properties}, as {@code t}
   */
  public String page(Map<String, ? extends @Nullable Object> values) {
    Map<String, @Nullable Object> all = new HashMap<>(values);
    all.put("t", Wording.of(name + "-page", Languages.current()).all());
    return template.execute(all);
  }
}
