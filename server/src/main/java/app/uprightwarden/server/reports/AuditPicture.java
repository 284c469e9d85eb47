package app.uprightwarden.server.reports;

import app.uprightwarden.server.audit.AuditCounts;
import app.uprightwarden.server.audit.Trends;
import java.time.Instant;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.function.Function;

/**
 * The pictures of a printed audit, as SVG (W3C). Severity is told by shade, by place and by a
 * number, so that a black and white print says the same.
 */
final class AuditPicture {
  private static final String[] SHADE = {"", "#c9d3d4", "#9fb6b8", "#e0b45c", "#c8642f", "#8a2413"};
  private static final String INK = "#1d2b33";
  private static final String SOFT = "#5a6a70";

  private AuditPicture() {}

  private static String number(double value) {
    return String.format(Locale.ROOT, "%.1f", value);
  }

  private static StringBuilder begin(int width, int height) {
    return new StringBuilder(
        "<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"%1$d\" height=\"%2$d\" viewBox=\"0 0 %1$d %2$d\" font-family=\"Atkinson\" font-size=\"11\">"
            .formatted(width, height));
  }

  private static void rect(
      StringBuilder svg, double x, double y, double width, double height, String fill) {
    svg.append("<rect x=\"").append(number(x)).append("\" y=\"").append(number(y));
    svg.append("\" width=\"").append(number(width)).append("\" height=\"").append(number(height));
    svg.append("\" fill=\"").append(fill).append("\"/>");
  }

  private static void text(
      StringBuilder svg, double x, double y, String anchor, String fill, String words) {
    svg.append("<text x=\"").append(number(x)).append("\" y=\"").append(number(y));
    svg.append("\" text-anchor=\"").append(anchor).append("\" fill=\"").append(fill).append("\">");
    svg.append(words.replace("&", "&amp;").replace("<", "&lt;").replace(">", "&gt;"));
    svg.append("</text>");
  }

  /** A bar for each severity. */
  static String severities(Map<Integer, Integer> bySeverity) {
    StringBuilder svg = begin(640, 130);
    int most =
        Math.max(1, bySeverity.values().stream().mapToInt(Integer::intValue).max().orElse(1));
    int y = 4;
    for (int severity = 5; severity >= 1; severity--) {
      int count = bySeverity.getOrDefault(severity, 0);
      text(svg, 70, y + 14, "end", INK, PrintedAudit.severity(severity));
      rect(svg, 78, y + 2, 480.0 * count / most, 16, SHADE[severity]);
      text(svg, 84 + 480.0 * count / most, y + 14, "start", INK, String.valueOf(count));
      y += 25;
    }
    return svg.append("</svg>").toString();
  }

  /** A column for each audit, in layers by severity, the gravest at the bottom. */
  static String trend(List<Trends.Point> points, Function<Instant, String> day) {
    StringBuilder svg = begin(640, 170);
    int most = Math.max(1, points.stream().mapToInt(Trends.Point::findings).max().orElse(1));
    double step = 600.0 / Math.max(1, points.size());
    for (int i = 0; i < points.size(); i++) {
      Trends.Point point = points.get(i);
      double x = 20 + i * step;
      double y = 145;
      for (int severity = 5; severity >= 1; severity--) {
        double height = 120.0 * point.bySeverity().getOrDefault(severity, 0) / most;
        y -= height;
        rect(svg, x, y, step * 0.7, height, SHADE[severity]);
      }
      double middle = x + step * 0.35;
      text(svg, middle, y - 4, "middle", INK, String.valueOf(point.findings()));
      text(svg, middle, 160, "middle", SOFT, day.apply(point.at()));
    }
    svg.append("<line x1=\"16\" y1=\"145.5\" x2=\"632\" y2=\"145.5\" stroke=\"#1d2b33\"/>");
    return svg.append("</svg>").toString();
  }

  /** A bar for each unit, in parts by severity. */
  static String units(List<AuditCounts.UnitCount> units, Function<String, String> name) {
    StringBuilder svg = begin(640, 8 + 25 * units.size());
    int most =
        Math.max(
            1,
            units.stream()
                .mapToInt(u -> u.bySeverity().values().stream().mapToInt(Integer::intValue).sum())
                .max()
                .orElse(1));
    int y = 4;
    for (AuditCounts.UnitCount unit : units) {
      text(svg, 150, y + 14, "end", INK, name.apply(unit.unit()));
      double x = 158;
      int all = 0;
      for (int severity = 5; severity >= 1; severity--) {
        int count = unit.bySeverity().getOrDefault(severity, 0);
        rect(svg, x, y + 2, 420.0 * count / most, 16, SHADE[severity]);
        x += 420.0 * count / most;
        all += count;
      }
      text(svg, x + 6, y + 14, "start", INK, String.valueOf(all));
      y += 25;
    }
    return svg.append("</svg>").toString();
  }
}
