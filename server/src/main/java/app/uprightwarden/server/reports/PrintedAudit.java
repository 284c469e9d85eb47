package app.uprightwarden.server.reports;

import app.uprightwarden.core.audit.Auditor;
import app.uprightwarden.core.audit.Check;
import app.uprightwarden.server.audit.AuditCounts;
import app.uprightwarden.server.audit.AuditRun;
import app.uprightwarden.server.audit.AuditScope;
import app.uprightwarden.server.audit.FindingQueries;
import app.uprightwarden.server.audit.Trends;
import app.uprightwarden.server.judging.DeclaredTexts;
import app.uprightwarden.server.people.Organisation;
import app.uprightwarden.server.people.OrganisationService;
import app.uprightwarden.server.print.PdfPages;
import app.uprightwarden.server.print.PrintTemplate;
import app.uprightwarden.server.problem.InOrder;
import app.uprightwarden.server.problem.Languages;
import app.uprightwarden.server.problem.Sentences;
import java.io.IOException;
import java.io.OutputStream;
import java.time.Clock;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** An audit on paper: a page of sentences, one of pictures, then unit by unit what is worst. */
@Component
class PrintedAudit implements ReportFormat {
  private static final int MAX_OF_A_UNIT = 12;
  private static final int MAX_POINTS = 13;
  private static final int MAX_UNITS = 60;

  private final AuditSummary summary;
  private final Clock clock;
  private final FindingQueries reading;
  private final AuditCounts counts;
  private final Trends trends;
  private final OrganisationService organisation;
  private final PrintTemplate template = PrintTemplate.of("audit");

  PrintedAudit(
      AuditSummary summary,
      FindingQueries reading,
      AuditCounts counts,
      Trends trends,
      OrganisationService organisation,
      Clock clock) {
    this.summary = summary;
    this.clock = clock;
    this.reading = reading;
    this.counts = counts;
    this.trends = trends;
    this.organisation = organisation;
  }

  @Override
  public String id() {
    return "pdf";
  }

  @Override
  public String title() {
    return "Report for management";
  }

  @Override
  public String mediaType() {
    return "application/pdf";
  }

  @Override
  public String ending() {
    return ".pdf";
  }

  @Override
  public int place() {
    return 10;
  }

  @Override
  public List<String> papers() {
    return List.of("a4", "letter");
  }

  @Override
  public void write(AuditRun run, Wish wish, OutputStream out) throws IOException {
    out.write(pdf(run, wish.paper(), wish.language()));
  }

  /**
   * The report.
   *
   * @param paper {@code a4} or {@code letter}
   */
  byte[] pdf(AuditRun run, String paper, Locale language) {
    return Languages.in(language, () -> PdfPages.pdf(page(run, paper)));
  }

  private String page(AuditRun run, String paper) {
    Organisation all = organisation.organisation();
    Map<String, String> unitNames =
        all.units().stream()
            .collect(Collectors.toMap(Organisation.Unit::id, Organisation.Unit::name));
    AuditCounts.Tally tally = counts.tally(run.id(), null);
    Map<Integer, Integer> bySeverity = tally.open();
    List<AuditCounts.UnitCount> units = counts.byUnit(run.id());
    List<Trends.Point> points =
        trends.trend(null, MAX_POINTS).points().stream()
            .filter(point -> !point.at().isAfter(run.startedAt()) || isStanding(run))
            // of audits of everything: beside the numbers of a part it would say something else
            .filter(point -> run.scope().equals(AuditScope.ALL))
            .toList();
    Map<String, Object> page = new HashMap<>();
    page.put("style", template.style().replace("size: A4", "size: " + paper));
    page.put("organisation", all.name());
    page.put(
        "which",
        isStanding(run)
            ? AuditSummary.words().text("now")
            : AuditSummary.words().say("audit", "id", run.id()));
    page.put(
        "when",
        AuditSummary.dates("time")
            .format(run.finishedAt() == null ? run.startedAt() : run.finishedAt()));
    page.put("edition", run.edition());
    page.put("open", summary.open(run, tally, unitNames));
    page.put("changed", summary.changed(run, tally));
    page.put("asked", summary.asked(run));
    page.put("printed", AuditSummary.dates("time").format(clock.instant()));
    page.put("worst", summary.worst(run, unitNames));
    page.put("severityPicture", AuditPicture.severities(bySeverity));
    page.put("trendPicture", AuditPicture.trend(points, AuditSummary.dates("day")::format));
    page.put("hasTrend", points.size() > 1);
    page.put("checks", checks(run));
    List<AuditCounts.UnitCount> open =
        units.stream()
            .filter(unit -> openOf(unit) > 0)
            .sorted(Comparator.comparingInt(PrintedAudit::openOf).reversed())
            .toList();
    List<AuditCounts.UnitCount> shown = open.stream().limit(MAX_UNITS).toList();
    page.put(
        "unitPicture",
        AuditPicture.units(
            shown,
            unit -> unitNames.getOrDefault(unit, AuditSummary.words().text("without-unit"))));
    page.put("units", unitPages(run, shown, unitNames));
    int left = open.size() - shown.size();
    int findingsLeft = open.stream().skip(MAX_UNITS).mapToInt(PrintedAudit::openOf).sum();
    page.put(
        "unitsLeft",
        left == 0 ? "" : AuditSummary.words().say("units-left", "units", left, "n", findingsLeft));
    return template.page(page);
  }

  /** What a severity is called; nothing for none. */
  static String severity(int severity) {
    return severity == 0 ? "" : AuditSummary.words().text("name" + severity);
  }

  private static boolean isStanding(AuditRun run) {
    return run.state().equals("standing");
  }

  private static int openOf(AuditCounts.UnitCount unit) {
    return unit.bySeverity().values().stream().mapToInt(Integer::intValue).sum();
  }

  private static List<Map<String, Object>> severities(Map<Integer, Integer> bySeverity) {
    List<Map<String, Object>> rows = new ArrayList<>();
    bySeverity.forEach(
        (severity, count) -> rows.add(InOrder.map("name", severity(severity), "count", count)));
    return rows;
  }

  /** Each check with what it was found on: rules by their controls, guarantees by their words. */
  private List<Map<String, Object>> checks(AuditRun run) {
    Map<String, List<AuditCounts.CheckCount>> byCheck = new LinkedHashMap<>();
    counts
        .byCheck(run.id(), null)
        .forEach(each -> byCheck.computeIfAbsent(each.check(), c -> new ArrayList<>()).add(each));
    Map<String, Check> known =
        Auditor.catalogue().stream().collect(Collectors.toMap(Check::id, Function.identity()));
    DeclaredTexts texts = new DeclaredTexts(Languages.current());
    List<Map<String, Object>> rows = new ArrayList<>();
    byCheck.forEach(
        (id, all) -> {
          Check check = known.get(id);
          List<Map<String, Object>> about =
              all.stream()
                  .filter(each -> !each.about().isEmpty())
                  .map(
                      each ->
                          InOrder.<String, Object>map(
                              "about",
                              Sentences.said(each.about()).replaceFirst("\\.$", ""),
                              "n",
                              each.findings()))
                  .toList();
          rows.add(
              InOrder.map(
                  "title",
                  check == null ? id : texts.text("check." + id + ".title", check.title()),
                  "summary",
                  check == null ? "" : texts.text("check." + id + ".summary", check.summary()),
                  "about",
                  about,
                  "worst",
                  severity(all.stream().mapToInt(AuditCounts.CheckCount::worst).max().orElse(0)),
                  "count",
                  all.stream().mapToInt(AuditCounts.CheckCount::findings).sum()));
        });
    return rows;
  }

  private List<Map<String, Object>> unitPages(
      AuditRun run, List<AuditCounts.UnitCount> units, Map<String, String> names) {
    List<Map<String, Object>> pages = new ArrayList<>();
    for (AuditCounts.UnitCount unit : units) {
      FindingQueries.FindingPage worst =
          reading.findings(
              run.id(),
              new FindingQueries.FindingFilter(null, null, null, null, unit.unit(), false),
              0,
              MAX_OF_A_UNIT);
      Map<String, Object> page = new HashMap<>();
      page.put("place", "unit-" + pages.size());
      page.put(
          "name", names.getOrDefault(unit.unit(), AuditSummary.words().text("hosts-of-no-unit")));
      page.put(
          "head",
          AuditSummary.words().say("unit-head", "n", openOf(unit), "meetings", unit.meetings()));
      page.put("severities", severities(unit.bySeverity()));
      page.put("rows", rows(run, worst.items()));
      page.put("more", worst.total() - worst.items().size());
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
                    "severity", severity(l.finding().severity()),
                    "title", titles.getOrDefault(l.meeting(), l.meeting()),
                    "next", l.next() == null ? "" : AuditSummary.dates("day").format(l.next()),
                    "text", l.finding().text()))
        .toList();
  }
}
