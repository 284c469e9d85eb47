package app.uprightwarden.server.calendars;

import java.util.regex.Pattern;
import org.jsoup.Jsoup;
import org.jsoup.nodes.Element;
import org.jsoup.nodes.Node;
import org.jsoup.nodes.TextNode;
import org.jsoup.select.NodeVisitor;

/** What a text says to people where it is HTML: its words and lines, and where its links lead. */
final class HtmlText {
  private static final Pattern TAG =
      Pattern.compile(
          "<(?:/?(?:html|body|p|br|div|span|b|i|u|a|em|strong|table|tr|td|th|ul|ol|li|font|h[1-6])\\b"
              + "[^<>]{0,2000}|!--)",
          Pattern.CASE_INSENSITIVE);
  private static final int MAX = 400_000;

  private HtmlText() {}

  /** The text itself where it is plain. */
  static String of(String text) {
    if (!TAG.matcher(text).find()) {
      return text;
    }
    StringBuilder out = new StringBuilder();
    Jsoup.parse(text.length() > MAX ? text.substring(0, MAX) : text)
        .body()
        .traverse(
            new NodeVisitor() {
              @Override
              public void head(Node node, int depth) {
                if (node instanceof TextNode words) {
                  out.append(words.text());
                } else if (node instanceof Element element
                    && (element.normalName().equals("br") || element.isBlock())) {
                  line(out);
                }
              }

              @Override
              public void tail(Node node, int depth) {
                if (node instanceof Element element) {
                  String link = element.attr("href");
                  if (element.normalName().equals("a") && !link.isBlank()) {
                    out.append(' ').append(link);
                  }
                  if (element.isBlock()) {
                    line(out);
                  } else if (element.normalName().equals("td")) {
                    out.append(' ');
                  }
                }
              }
            });
    return out.toString().strip();
  }

  private static void line(StringBuilder out) {
    if (!out.isEmpty() && out.charAt(out.length() - 1) != '\n') {
      out.append('\n');
    }
  }
}
