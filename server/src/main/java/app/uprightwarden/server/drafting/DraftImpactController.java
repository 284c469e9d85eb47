package app.uprightwarden.server.drafting;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.drafting.GuaranteeStudy;
import app.uprightwarden.core.drafting.Impact;
import app.uprightwarden.core.drafting.ImpactStudy;
import app.uprightwarden.core.drafting.Remark;
import app.uprightwarden.core.people.Directory;
import app.uprightwarden.core.people.Person;
import app.uprightwarden.core.rulebook.ResolvedRule;
import app.uprightwarden.core.rulebook.Rulebook;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.judging.AssessmentView;
import app.uprightwarden.server.limits.Takes;
import app.uprightwarden.server.people.OrganisationService;
import app.uprightwarden.server.problem.Worded;
import app.uprightwarden.server.register.StoredMeeting;
import app.uprightwarden.server.rulebook.LayerName;
import app.uprightwarden.server.rulebook.RulebookService;
import app.uprightwarden.server.rulebook.RulebookWriter;
import app.uprightwarden.server.schema.Plain;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.springframework.security.access.prepost.PreAuthorize;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.databind.json.JsonMapper;

/** What a draft would do. Nothing here stores anything: the draft comes with the question. */
@Takes(kilobytes = 1024)
@RestController
@RequestMapping("/api/rulebook")
class DraftImpactController {
  private static final int MAX_BREAKING = 50;

  private final DraftImpactService impacts;
  private final RulebookService rulebook;
  private final OrganisationService organisation;
  private final UnitDrafts unitDrafts;
  private final BeyondMeans beyond;
  private final JsonMapper json;

  DraftImpactController(
      DraftImpactService impacts,
      RulebookService rulebook,
      OrganisationService organisation,
      UnitDrafts unitDrafts,
      BeyondMeans beyond,
      JsonMapper json) {
    this.unitDrafts = unitDrafts;
    this.beyond = beyond;
    this.impacts = impacts;
    this.rulebook = rulebook;
    this.organisation = organisation;
    this.json = json;
  }

  /**
   * @param document the draft, the bundle's rulebook part
   * @param subject lists only what changes by this control or guarantee; all where left out
   * @param from the first meeting listed, from 0
   */
  record ImpactWanted(
      @NotNull @Size(max = 200) Map<String, Object> document,
      @Nullable @Size(max = 120) String subject,
      @Min(0) @Max(1_000_000) int from,
      @Min(1) @Max(200) int size) {}

  /** Findings before and after. */
  record CountView(int before, int after, int appeared, int gone, int regraded, int same) {
    static CountView of(Impact.Count count) {
      return new CountView(
          count.before(),
          count.after(),
          count.appeared(),
          count.gone(),
          count.regraded(),
          count.same());
    }
  }

  /** Findings of one check, control or guarantee; meetings are those for which some change. */
  record GroupView(String id, CountView count, int meetings) {
    static GroupView of(Impact.Group group) {
      return new GroupView(group.id(), CountView.of(group.count()), group.meetings());
    }
  }

  /** Touched meetings of a unit or a host. */
  record TouchedView(String id, String name, int meetings, int appeared, int gone) {}

  /** A touched meeting. */
  record TouchedMeeting(
      String id,
      String title,
      String host,
      String hostName,
      int appeared,
      int gone,
      int regraded,
      int worst) {}

  /**
   * What publishing the draft would change; see the core's Impact.
   *
   * @param edition the one in force it was held against
   * @param beyond what conference services cannot hold as strictly as is asked
   */
  record ImpactView(
      int edition,
      int meetings,
      int touched,
      CountView total,
      List<Impact.Severity> severities,
      List<GroupView> checks,
      List<GroupView> subjects,
      List<TouchedView> units,
      List<TouchedView> hosts,
      int touchedHosts,
      List<TouchedMeeting> worst,
      List<BeyondMeans.BeyondLine> beyond) {}

  /** Holds a draft against the whole register. */
  @PostMapping("/impact")
  @PreAuthorize("hasAnyRole('WARDEN', 'UNIT_WARDEN', 'AUDITOR')")
  ImpactView impact(
      @RequestBody @Valid ImpactWanted wanted, @AuthenticationPrincipal SignedIn who) {
    Rulebook document = rulebook.validate(json.valueToTree(wanted.document()));
    unitDrafts.checkDocument(document, rulebook.rulebook(rulebook.inForce()), who);
    DraftImpactService.Foreseen foreseen =
        impacts.impact(
            document, new ImpactStudy.Page(wanted.subject(), wanted.from(), wanted.size()));
    Impact impact = foreseen.impact();
    Names names = new Names(organisation.organisation());
    return new ImpactView(
        foreseen.edition(),
        impact.meetings(),
        impact.touched(),
        CountView.of(impact.total()),
        impact.severities(),
        impact.checks().stream().map(GroupView::of).toList(),
        impact.subjects().stream().map(GroupView::of).toList(),
        impact.units().stream()
            .map(
                u ->
                    new TouchedView(
                        u.id(), names.unit(u.id()), u.meetings(), u.appeared(), u.gone()))
            .toList(),
        impact.hosts().stream()
            .map(
                h ->
                    new TouchedView(
                        h.id(),
                        hostName(foreseen.directory(), h.id()),
                        h.meetings(),
                        h.appeared(),
                        h.gone()))
            .toList(),
        impact.touchedHosts(),
        worst(foreseen),
        beyond.of(document));
  }

  private static List<TouchedMeeting> worst(DraftImpactService.Foreseen foreseen) {
    List<TouchedMeeting> worst = new ArrayList<>();
    for (Impact.Meeting touched : foreseen.impact().worst()) {
      StoredMeeting stored = foreseen.meetings().get(touched.row());
      if (stored != null) { // else it was deleted in this moment
        worst.add(
            new TouchedMeeting(
                stored.meeting().id(),
                stored.meeting().title(),
                stored.meeting().host(),
                hostName(foreseen.directory(), stored.meeting().host()),
                touched.appeared(),
                touched.gone(),
                touched.regraded(),
                touched.worst()));
      }
    }
    return worst;
  }

  private static String hostName(Directory directory, String host) {
    Person person = directory.find(host);
    return person == null ? host : person.name();
  }

  /**
   * @param unit for whose hosts' meetings the draft is resolved; a person stands for their unit
   */
  record AppraisalWanted(
      @NotNull @Size(max = 200) Map<String, Object> document,
      @Nullable @Size(max = 64) String unit,
      @Nullable @Size(max = 64) String kind,
      @Nullable @Size(max = 254) String person) {}

  /** Something about the draft its author should know. */
  record RemarkView(
      String kind,
      String weight,
      @Nullable String layer,
      @Nullable String control,
      @Nullable String guarantee,
      @Worded String text) {}

  /** A guarantee and the layer it comes from. */
  record GivenView(String layer, Map<String, Object> guarantee) {}

  /** The draft resolved for somebody, and what is to be said about it. */
  record AppraisalView(
      @Nullable String unit,
      @Nullable String kind,
      Map<String, AssessmentView.Resolved> resolved,
      List<GivenView> guarantees,
      List<RemarkView> remarks) {}

  /** Reads a draft: as it applies to a unit and a kind, and for what cannot be meant. */
  @PostMapping("/appraisal")
  @PreAuthorize("isAuthenticated()")
  AppraisalView appraise(@RequestBody @Valid AppraisalWanted wanted) {
    var draft = rulebook.validate(json.valueToTree(wanted.document()));
    DraftImpactService.Applied applied =
        impacts.applied(
            draft, new DraftImpactService.Whom(wanted.unit(), wanted.kind(), wanted.person()));
    Names names = new Names(organisation.organisation());
    Map<String, AssessmentView.Resolved> resolved = new LinkedHashMap<>();
    for (ResolvedRule rule : applied.rules().rules()) {
      resolved.put(rule.control().id(), AssessmentView.Resolved.of(rule, names::of));
    }
    return new AppraisalView(
        applied.unit(),
        applied.kind(),
        resolved,
        applied.rules().guarantees().stream()
            .map(g -> new GivenView(g.layer().toString(), RulebookWriter.plain(g.guarantee())))
            .toList(),
        impacts.remarks(draft).stream().map(DraftImpactController::view).toList());
  }

  private static RemarkView view(Remark remark) {
    return new RemarkView(
        remark.kind().id(),
        remark.weight().id(),
        remark.layer() == null ? null : remark.layer().toString(),
        remark.control() == null ? null : remark.control().id(),
        remark.guarantee(),
        remark.text());
  }

  /** Which guarantee of which layer is meant. */
  record GuaranteeWanted(
      @NotNull @Size(max = 200) Map<String, Object> document,
      @NotNull @Size(max = 120) String layer,
      @NotNull @Size(max = 120) String guarantee) {}

  /** A control one of which alone would keep the guarantee. */
  record KeeperView(String control, @Plain Object to, int meetings) {}

  /** A meeting that breaks it. */
  record BreakingMeeting(String id, String title, String host, String hostName) {}

  /** Which meetings break a guarantee, and what could keep it; see the core's GuaranteeStudy. */
  record GuaranteeView(
      int applies,
      int breaking,
      List<KeeperView> keepers,
      int keptByNone,
      List<BreakingMeeting> meetings) {}

  /** Holds every meeting a guarantee is for against it. */
  @PostMapping("/guarantee-study")
  @PreAuthorize("hasAnyRole('WARDEN', 'AUDITOR')")
  GuaranteeView guarantee(@RequestBody @Valid GuaranteeWanted wanted) {
    DraftImpactService.Held held =
        impacts.guarantee(
            rulebook.validate(json.valueToTree(wanted.document())),
            LayerName.parse(wanted.layer()),
            wanted.guarantee(),
            MAX_BREAKING);
    GuaranteeStudy study = held.study();
    return new GuaranteeView(
        study.applies(),
        study.breaking(),
        study.keepers().stream()
            .map(k -> new KeeperView(k.control().id(), plain(k), k.meetings()))
            .toList(),
        study.keptByNone(),
        study.rows().stream()
            .map(held.meetings()::get)
            .filter(Objects::nonNull)
            .map(StoredMeeting::meeting)
            .map(
                m ->
                    new BreakingMeeting(
                        m.id(), m.title(), m.host(), hostName(held.directory(), m.host())))
            .toList());
  }

  private static Object plain(GuaranteeStudy.Keeper keeper) {
    Control control = keeper.control();
    return control.plain(keeper.to());
  }
}
