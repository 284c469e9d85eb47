package app.uprightwarden.server.drafting;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.Family;
import app.uprightwarden.core.control.Scale;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.rulebook.Mode;
import app.uprightwarden.core.rulebook.ResolvedRule;
import app.uprightwarden.core.rulebook.ResolvedRulebook;
import app.uprightwarden.core.rulebook.Scope;
import app.uprightwarden.core.service.Means;
import app.uprightwarden.server.judging.DeclaredTexts;
import app.uprightwarden.server.people.Organisation;
import app.uprightwarden.server.people.OrganisationService;
import app.uprightwarden.server.print.PdfPages;
import app.uprightwarden.server.print.PrintTemplate;
import app.uprightwarden.server.problem.InOrder;
import app.uprightwarden.server.problem.Languages;
import app.uprightwarden.server.problem.Sentences;
import app.uprightwarden.server.problem.Wording;
import app.uprightwarden.server.register.ServiceMeans;
import app.uprightwarden.server.rulebook.RulebookService;
import java.nio.charset.StandardCharsets;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** A rulebook as hosts read it, on a page or on paper. */
@Component
class PrintedRulebook {
  private final DraftImpactService impacts;
  private final OrganisationService organisation;
  private final RulebookService rulebook;
  private final ServiceMeans services;
  private final PrintTemplate template = PrintTemplate.of("rulebook");

  PrintedRulebook(
      DraftImpactService impacts,
      OrganisationService organisation,
      RulebookService rulebook,
      ServiceMeans services) {
    this.services = services;
    this.impacts = impacts;
    this.organisation = organisation;
    this.rulebook = rulebook;
  }

  byte[] html(RulebookSources.Source source, DraftImpactService.Whom whom) {
    return page(source, whom, null).getBytes(StandardCharsets.UTF_8);
  }

  byte[] pdf(RulebookSources.Source source, DraftImpactService.Whom whom) {
    return PdfPages.pdf(page(source, whom, template.style()));
  }

  private String page(
      RulebookSources.Source source, DraftImpactService.Whom whom, @Nullable String inlineStyle) {
    DraftImpactService.Applied applied = impacts.applied(source.rulebook(), whom);
    Organisation all = organisation.organisation();
    Names names = new Names(all);
    Map<String, @Nullable Object> page = new HashMap<>();
    page.put("style", inlineStyle);
    page.put("organisation", all.name());
    page.put("title", Sentences.said(source.title()));
    page.put("whom", whom(applied, whom, names));
    if (source.id().startsWith("edition:")) {
      var edition = rulebook.edition(Integer.parseInt(source.id().substring("edition:".length())));
      page.put("since", edition.number() == 0 ? null : day().format(edition.effectiveAt()));
      page.put("reason", edition.reason());
    }
    page.put("families", families(applied.rules(), names));
    page.put("guarantees", guarantees(applied.rules()));
    page.put(
        "services",
        services.choices(applied.unit()).linked().stream()
            .map(service -> enforced(service, applied.rules()))
            .toList());
    return template.page(page);
  }

  private static String whom(
      DraftImpactService.Applied applied, DraftImpactService.Whom whom, Names names) {
    String who =
        whom.person() != null
            ? Sentences.said("meetings of " + whom.person())
            : applied.unit() == null
                ? Sentences.said("everybody's meetings")
                : Sentences.said("meetings of " + names.of(Scope.unit(applied.unit())));
    return applied.kind() == null
        ? who
        : Sentences.said(who + ", kind " + names.of(Scope.kind(applied.kind())));
  }

  private static List<Map<String, Object>> families(ResolvedRulebook rules, Names names) {
    List<Map<String, Object>> families = new ArrayList<>();
    for (Family family : Family.values()) {
      List<Map<String, @Nullable Object>> rows = new ArrayList<>();
      for (ResolvedRule rule : rules.rules()) {
        if (rule.control().family() == family) {
          rows.add(row(rule, names));
        }
      }
      if (!rows.isEmpty()) {
        families.add(
            InOrder.map(
                "title",
                texts().text("family." + family.id() + ".title", family.title()),
                "rows",
                rows));
      }
    }
    return families;
  }

  private static Map<String, @Nullable Object> row(ResolvedRule rule, Names names) {
    Control control = rule.control();
    Map<String, @Nullable Object> row = new HashMap<>();
    DeclaredTexts texts = texts();
    String start = texts.label(control, control.plain(rule.start()));
    Value limit = rule.limit();
    row.put("control", texts.title(control));
    row.put("fixed", rule.mode() == Mode.FIX ? start : null);
    row.put("suggested", rule.mode() == Mode.SUGGEST ? start : null);
    List<String> choices = limit == null ? List.of() : choices(control, limit);
    if (rule.mode() == Mode.BOUND && limit != null) {
      boolean only = choices.size() == 1;
      row.put(only ? "only" : "limit", texts.label(control, control.plain(limit)));
    }
    row.put("start", start);
    row.put("choices", choices.isEmpty() ? null : String.join(", ", choices));
    row.put("why", rule.reason().isEmpty() ? texts.risk(control) : rule.reason());
    row.put("from", names.of(rule.source()) + (rule.sealed() ? Sentences.said(", sealed") : ""));
    return row;
  }

  /** The words a host may choose among; none where the control is not one of words. */
  private static List<String> choices(Control control, Value limit) {
    return control.scale() instanceof Scale.Words words
        ? words.values().stream()
            .filter(value -> control.within(value, limit))
            .map(value -> texts().label(control, control.plain(value)))
            .toList()
        : List.of();
  }

  /** What a service's own defaults and locks hold of the fixed values and limits. */
  private static Map<String, Object> enforced(ServiceMeans.Named service, ResolvedRulebook rules) {
    List<String> locked = new ArrayList<>();
    List<String> stricter = new ArrayList<>();
    List<String> audited = new ArrayList<>();
    List<String> cannot = new ArrayList<>();
    Means means = service.means();
    for (ResolvedRule rule : rules.rules()) {
      Control control = rule.control();
      Value limit = rule.limit();
      if (limit == null) {
        continue;
      }
      Means.Carrying carrying = means.carrying(control, limit);
      if (carrying == Means.Carrying.CANNOT) {
        cannot.add(texts().title(control));
      } else if (!service.level().equals("write") || !means.takes(control, Means.Place.LOCK)) {
        audited.add(texts().title(control));
      } else {
        (carrying == Means.Carrying.CARRIED ? locked : stricter).add(texts().title(control));
      }
    }
    return InOrder.map(
        "name", service.name(),
        "locked", String.join(", ", locked),
        "stricter", String.join(", ", stricter),
        "audited", String.join(", ", audited),
        "cannot", String.join(", ", cannot));
  }

  private static List<Map<String, Object>> guarantees(ResolvedRulebook rules) {
    List<Map<String, Object>> guarantees = new ArrayList<>();
    for (ResolvedRulebook.Given given : rules.guarantees()) {
      guarantees.add(
          InOrder.map(
              "sentence",
              Sentences.said(given.guarantee().sentence()),
              "why",
              given.guarantee().reason()));
    }
    return guarantees;
  }

  private static DeclaredTexts texts() {
    return new DeclaredTexts(Languages.current());
  }

  private static DateTimeFormatter day() {
    String pattern = Wording.of("rulebook-page", Languages.current()).text("day");
    return DateTimeFormatter.ofPattern(pattern, Languages.current()).withZone(ZoneOffset.UTC);
  }
}
