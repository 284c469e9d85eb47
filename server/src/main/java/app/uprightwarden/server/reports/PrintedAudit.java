package app.uprightwarden.server.reports;

import app.uprightwarden.core.audit.Auditor;
import app.uprightwarden.core.audit.Check;
import app.uprightwarden.server.audit.AuditCounts;
import app.uprightwarden.server.audit.AuditRun;
import app.uprightwarden.server.audit.FindingQueries;
import app.uprightwarden.server.audit.Trends;
import app.uprightwarden.server.people.Organisation;
import app.uprightwarden.server.people.OrganisationService;
import app.uprightwarden.server.print.PdfPages;
import app.uprightwarden.server.problem.InOrder;
import com.samskivert.mustache.Mustache;
import com.samskivert.mustache.Template;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** An audit on paper: one page of picture, then unit by unit what is worst. */
@Component
class PrintedAudit {
  private static final int MAX_OF_A_UNIT = 12;
  private static final int MAX_POINTS = 13;
  static final List<String> SEVERITIES =
      List.of("", "note", "minor", "moderate", "serious", "grave");
  private static final DateTimeFormatter TIME =
      DateTimeFormatter.ofPattern("d MMMM yyyy, HH:mm 'UTC'", Locale.ENGLISH)
          .withZone(ZoneOffset.UTC);
  private static final DateTimeFormatter DAY =
      DateTimeFormatter.ofPattern("d MMM", Locale.ENGLISH).withZone(ZoneOffset.UTC);

  private final FindingQueries reading;
  private final AuditCounts counts;
  private final Trends trends;
  private final OrganisationService organisation;
  private final Template template;
  private final String style;

  PrintedAudit(
      FindingQueries reading, AuditCounts counts, Trends trends, OrganisationService organisation) {
    this.reading = reading;
    this.counts = counts;
    this.trends = trends;
    this.organisation = organisation;
    template =
        Mustache.compiler()
            .escapeHTML(true)
            .defaultValue("")
            .compile(text("/print/audit.mustache"));
    style = text("/static/print/print.css").replaceAll("(?s)@font-face \\{.*?}", "");
  }

  private static String text(String resource) {
    try (InputStream in = open(resource)) {
      return new String(in.readAllBytes(), StandardCharsets.UTF_8);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  private static InputStream open(String resource) {
    return Objects.requireNonNull(PrintedAudit.class.getResourceAsStream(resource));
  }

  byte[] pdf(AuditRun run) {
    return PdfPages.pdf(page(run));
  }

  private String page(AuditRun run) {
    Organisation all = organisation.organisation();
    Map<String, String> unitNames =
        all.units().stream()
            .collect(Collectors.toMap(Organisation.Unit::id, Organisation.Unit::name));
    AuditCounts.Tally tally = counts.tally(run.id(), null);
    Map<Integer, Integer> bySeverity = tally.open();
    List<AuditCounts.UnitCount> units = counts.byUnit(run.id());
    List<Trends.Point> points = trends.trend(null, MAX_POINTS).points();
    Map<String, Object> page = new HashMap<>();
    page.put("style", style);
    page.put("organisation", all.name());
    page.put(
        "title", run.state().equals("standing") ? "Audit as it stands now" : "Audit " + run.id());
    page.put("when", TIME.format(run.finishedAt() == null ? run.startedAt() : run.finishedAt()));
    page.put("edition", run.edition());
    page.put("meetings", run.judged());
    page.put("findings", bySeverity.values().stream().mapToInt(Integer::intValue).sum());
    int waived = tally.waived();
    page.put("waived", waived);
    page.put("hasWaived", waived > 0);
    page.put("severities", severities(bySeverity));
    page.put("severityPicture", AuditPicture.severities(bySeverity));
    page.put("trendPicture", AuditPicture.trend(points, DAY::format));
    page.put("hasTrend", points.size() > 1);
    page.put(
        "unitPicture", AuditPicture.units(units, unit -> unitNames.getOrDefault(unit, "No unit")));
    page.put("checks", checks(run));
    page.put("units", unitPages(run, units, unitNames));
    return template.execute(page);
  }

  private static List<Map<String, Object>> severities(Map<Integer, Integer> bySeverity) {
    List<Map<String, Object>> rows = new ArrayList<>();
    bySeverity.forEach(
        (severity, count) ->
            rows.add(InOrder.map("name", SEVERITIES.get(severity), "count", count)));
    return rows;
  }

  private List<Map<String, Object>> checks(AuditRun run) {
    Map<String, Check> known =
        Auditor.catalogue().stream().collect(Collectors.toMap(Check::id, Function.identity()));
    Map<String, int[]> counts = new LinkedHashMap<>();
    for (AuditCounts.CheckCount count : this.counts.byCheck(run.id(), null)) {
      int[] sum = counts.computeIfAbsent(count.check(), c -> new int[2]);
      sum[0] = Math.max(sum[0], count.worst());
      sum[1] += count.findings();
    }
    List<Map<String, Object>> rows = new ArrayList<>();
    counts.forEach(
        (id, sum) -> {
          Check check = known.get(id);
          rows.add(
              InOrder.map(
                  "check",
                  id,
                  "summary",
                  check == null ? "" : check.summary(),
                  "worst",
                  SEVERITIES.get(sum[0]),
                  "count",
                  sum[1]));
        });
    return rows;
  }

  private List<Map<String, Object>> unitPages(
      AuditRun run, List<AuditCounts.UnitCount> units, Map<String, String> names) {
    List<Map<String, Object>> pages = new ArrayList<>();
    for (AuditCounts.UnitCount unit : units) {
      int open = unit.bySeverity().values().stream().mapToInt(Integer::intValue).sum();
      Map<String, Object> page = new HashMap<>();
      page.put("name", names.getOrDefault(unit.unit(), "Hosts of no unit"));
      page.put("meetings", unit.meetings());
      page.put("open", open);
      page.put("severities", severities(unit.bySeverity()));
      FindingQueries.FindingPage worst =
          unit.unit().isEmpty()
              ? new FindingQueries.FindingPage(List.of(), 0, 0, 0)
              : reading.findings(
                  run.id(),
                  new FindingQueries.FindingFilter(null, null, null, null, unit.unit(), false),
                  0,
                  MAX_OF_A_UNIT);
      page.put("rows", rows(run, worst.items()));
      page.put("more", Math.max(0, worst.total() - worst.items().size()));
      page.put("hasMore", worst.total() > worst.items().size());
      pages.add(page);
    }
    return pages;
  }

  private List<Map<String, Object>> rows(AuditRun run, List<FindingQueries.Listed> items) {
    Map<String, String> titles =
        reading.titles(run.id(), items.stream().map(FindingQueries.Listed::meeting).toList());
    return items.stream()
        .map(
            l ->
                InOrder.<String, Object>map(
                    "severity", SEVERITIES.get(l.finding().severity()),
                    "title", titles.getOrDefault(l.meeting(), l.meeting()),
                    "next", l.next() == null ? "" : DAY.format(l.next()),
                    "text", l.finding().text()))
        .toList();
  }
}
