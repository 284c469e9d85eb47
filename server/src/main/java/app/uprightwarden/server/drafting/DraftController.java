package app.uprightwarden.server.drafting;

import app.uprightwarden.core.rulebook.Rulebook;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.limits.Takes;
import app.uprightwarden.server.people.SettingsService;
import app.uprightwarden.server.rulebook.RulebookService;
import app.uprightwarden.server.rulebook.RulebookWriter;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotEmpty;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.access.prepost.PreAuthorize;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PatchMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.databind.json.JsonMapper;

/** Drafts of the rulebook, for administrators: begun, worked on by several, published. */
@Takes(kilobytes = 1024)
@RestController
@RequestMapping("/api/rulebook/drafts")
class DraftController {
  private static final String DRAFTERS = "hasAnyRole('WARDEN', 'UNIT_WARDEN')";

  private final DraftService drafts;
  private final DraftPresence presence;
  private final PublishingService publishing;
  private final RulebookSources sources;
  private final UnitDrafts unitDrafts;
  private final RulebookService rulebook;
  private final SettingsService settings;
  private final JsonMapper json;

  DraftController(
      DraftService drafts,
      DraftPresence presence,
      PublishingService publishing,
      RulebookSources sources,
      UnitDrafts unitDrafts,
      RulebookService rulebook,
      SettingsService settings,
      JsonMapper json) {
    this.drafts = drafts;
    this.presence = presence;
    this.publishing = publishing;
    this.sources = sources;
    this.unitDrafts = unitDrafts;
    this.rulebook = rulebook;
    this.settings = settings;
    this.json = json;
  }

  /**
   * A draft without its rules.
   *
   * @param behind a newer edition than the one it was begun from has been published
   * @param differences rules and guarantees that differ from the edition in force
   */
  record DraftLine(
      long id,
      String name,
      int baseEdition,
      boolean behind,
      String madeBy,
      String savedBy,
      Instant savedAt,
      int differences,
      Draft.@Nullable Proposal proposal,
      Draft.@Nullable Refusal refusal,
      List<DraftPresence.Present> present) {}

  /** A draft with its rules in their one order. */
  record DraftView(DraftLine line, long version, Map<String, Object> document) {}

  /** A draft after work on it; collisions are edits that did not go in. */
  record OutcomeView(DraftView draft, List<DraftService.Collision> collisions) {}

  /**
   * @param from a rulebook to begin with: {@code in-force}, {@code starter}, {@code edition:2},
   *     {@code draft:4}
   */
  record ToBegin(@NotBlank @Size(max = 100) String name, @NotBlank @Size(max = 40) String from) {}

  record NewName(@NotBlank @Size(max = 100) String name) {}

  /** Edits of single rules and guarantees. */
  record Edits(@NotEmpty @Size(max = 2000) List<DraftService.@Valid @NotNull Edit> edits) {}

  /** How to publish; see the guide. */
  record ToPublish(
      @Min(0) long version,
      @NotBlank @Size(max = 2000) String reason,
      @Nullable Instant effectiveAt,
      boolean tellHosts) {}

  record Words(@NotBlank @Size(max = 2000) String words) {}

  /** What came of publishing: an edition's number, or a proposal. */
  record PublishedView(@Nullable Integer edition, @Nullable Instant effectiveAt, int letters) {
    static PublishedView of(PublishingService.Published published) {
      RulebookService.Edition edition = published.edition();
      return new PublishedView(
          edition == null ? null : edition.number(),
          edition == null ? null : edition.effectiveAt(),
          published.letters());
    }
  }

  @GetMapping
  @PreAuthorize(DRAFTERS)
  List<DraftLine> all(@AuthenticationPrincipal SignedIn who) {
    Rulebook inForce = rulebook.rulebook(rulebook.inForce());
    int newest = rulebook.newest().number();
    return drafts.all().stream()
        .filter(d -> unitDrafts.mayOpen(d, who))
        .map(d -> line(d, inForce, newest))
        .toList();
  }

  @PostMapping
  @PreAuthorize(DRAFTERS)
  @ResponseStatus(HttpStatus.CREATED)
  DraftView begin(@RequestBody @Valid ToBegin wanted, @AuthenticationPrincipal SignedIn who) {
    unitDrafts.checkBeginning(wanted.from(), who);
    var source = sources.find(wanted.from(), who);
    return view(
        drafts.create(
            wanted.name(), json.valueToTree(RulebookWriter.plain(source.rulebook())), who));
  }

  @GetMapping("/{id}")
  @PreAuthorize(DRAFTERS)
  DraftView get(@PathVariable long id, @AuthenticationPrincipal SignedIn who) {
    unitDrafts.check(id, who);
    return view(drafts.get(id));
  }

  /**
   * Says that somebody has the draft open, and gives it back if it has changed since. That it was
   * published or discarded meanwhile is an answer too, not an error: pages ask until they know.
   *
   * @param version the one they have
   */
  @PutMapping("/{id}/presence")
  @PreAuthorize(DRAFTERS)
  Pulse presence(
      @PathVariable long id, @RequestParam long version, @AuthenticationPrincipal SignedIn who) {
    Optional<Draft> draft = drafts.find(id).filter(d -> unitDrafts.mayOpen(d, who));
    if (draft.isEmpty() || !presence.seen(id, who)) {
      return new Pulse(true, List.of(), null);
    }
    return new Pulse(
        false, presence.at(id), draft.get().version() == version ? null : view(draft.get()));
  }

  /**
   * Who has a draft open.
   *
   * @param gone whether there is no such draft any more
   * @param changed the draft, where it is another version than the one asked with
   */
  record Pulse(boolean gone, List<DraftPresence.Present> present, @Nullable DraftView changed) {}

  @PatchMapping("/{id}")
  @PreAuthorize(DRAFTERS)
  DraftView rename(
      @PathVariable long id,
      @RequestBody @Valid NewName wanted,
      @AuthenticationPrincipal SignedIn who) {
    unitDrafts.check(id, who);
    return view(drafts.rename(id, wanted.name(), who));
  }

  @DeleteMapping("/{id}")
  @PreAuthorize(DRAFTERS)
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void discard(@PathVariable long id, @AuthenticationPrincipal SignedIn who) {
    unitDrafts.check(id, who);
    drafts.discard(id, who);
  }

  /** Puts edits in, one item each; what somebody else changed meanwhile is told of. */
  @PostMapping("/{id}/edits")
  @PreAuthorize(DRAFTERS)
  OutcomeView edit(
      @PathVariable long id,
      @RequestBody @Valid Edits wanted,
      @AuthenticationPrincipal SignedIn who) {
    unitDrafts.check(id, who);
    unitDrafts.checkLayers(wanted.edits(), who);
    return view(drafts.edit(id, wanted.edits(), who));
  }

  /** Brings the draft up to the newest edition. */
  @PostMapping("/{id}/bring-up")
  @PreAuthorize(DRAFTERS)
  OutcomeView bringUp(@PathVariable long id, @AuthenticationPrincipal SignedIn who) {
    unitDrafts.check(id, who);
    return view(drafts.bringUp(id, who));
  }

  /** Publishes the draft, or proposes it where consent is needed. */
  @PostMapping("/{id}/publish")
  @PreAuthorize("hasRole('WARDEN')")
  PublishedView publish(
      @PathVariable long id,
      @RequestBody @Valid ToPublish wanted,
      @AuthenticationPrincipal SignedIn who) {
    return PublishedView.of(
        publishing.publish(
            id,
            new PublishingService.Wanted(
                wanted.version(), wanted.reason(), wanted.effectiveAt(), wanted.tellHosts()),
            who));
  }

  /**
   * @param version the one that was looked at: consent is given to nothing else; left out, nobody
   *     asks whether it was changed and proposed again since
   */
  @PostMapping("/{id}/consent")
  @PreAuthorize("hasRole('WARDEN')")
  PublishedView consent(
      @PathVariable long id,
      @RequestParam(required = false) @Nullable Long version,
      @AuthenticationPrincipal SignedIn who) {
    return PublishedView.of(publishing.consent(id, version, who));
  }

  @PostMapping("/{id}/decline")
  @PreAuthorize("hasRole('WARDEN')")
  DraftView decline(
      @PathVariable long id, @RequestBody @Valid Words why, @AuthenticationPrincipal SignedIn who) {
    return view(publishing.decline(id, why.words(), who));
  }

  @PostMapping("/{id}/withdraw")
  @PreAuthorize("hasRole('WARDEN')")
  DraftView withdraw(@PathVariable long id, @AuthenticationPrincipal SignedIn who) {
    return view(publishing.withdraw(id, who));
  }

  @GetMapping("/consent")
  @PreAuthorize("hasRole('WARDEN')")
  SettingsService.ConsentSetting consentSetting() {
    return settings.consent();
  }

  /** Whether publishing needs consent: switched on by one administrator, off by two. */
  @PutMapping("/consent")
  @PreAuthorize("hasRole('WARDEN')")
  SettingsService.ConsentSetting setConsent(
      @RequestParam boolean needed, @AuthenticationPrincipal SignedIn who) {
    return publishing.setNeedsConsent(needed, who);
  }

  private OutcomeView view(DraftService.Outcome outcome) {
    return new OutcomeView(view(outcome.draft()), outcome.collisions());
  }

  private DraftView view(Draft draft) {
    return new DraftView(
        line(draft, rulebook.rulebook(rulebook.inForce()), rulebook.newest().number()),
        draft.version(),
        RulebookWriter.plain(rulebook.parse(draft.document())));
  }

  private DraftLine line(Draft draft, Rulebook inForce, int newest) {
    return new DraftLine(
        draft.id(),
        draft.name(),
        draft.baseEdition(),
        draft.baseEdition() != newest,
        draft.madeBy(),
        draft.savedBy(),
        draft.savedAt(),
        drafts.differences(draft, inForce),
        draft.proposal(),
        draft.refusal(),
        presence.at(draft.id()));
  }
}
