package app.uprightwarden.server.drafting;

import app.uprightwarden.core.drafting.Layers;
import app.uprightwarden.server.access.AccessService;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.outbox.OutboxService;
import app.uprightwarden.server.people.OrganisationService;
import app.uprightwarden.server.people.SettingsService;
import app.uprightwarden.server.problem.DateWords;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.register.RegisterService;
import app.uprightwarden.server.register.RegisterSnapshot;
import app.uprightwarden.server.rulebook.RulebookService;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.json.JsonMapper;

/** Publishing drafts: at once, at a time, with a second administrator's consent. */
@Service
class PublishingService {
  private final DraftRepository drafts;
  private final RulebookService rulebook;
  private final SettingsService settings;
  private final AccessService access;
  private final OrganisationService organisation;
  private final RegisterSnapshot snapshot;
  private final RegisterService register;
  private final OutboxService outbox;
  private final JsonMapper json;
  private final Clock clock;

  PublishingService(
      DraftRepository drafts,
      RulebookService rulebook,
      SettingsService settings,
      AccessService access,
      OrganisationService organisation,
      RegisterSnapshot snapshot,
      RegisterService register,
      OutboxService outbox,
      JsonMapper json,
      Clock clock) {
    this.drafts = drafts;
    this.rulebook = rulebook;
    this.settings = settings;
    this.access = access;
    this.organisation = organisation;
    this.snapshot = snapshot;
    this.register = register;
    this.outbox = outbox;
    this.json = json;
    this.clock = clock;
  }

  /**
   * How to publish.
   *
   * @param version the draft's, as its author saw it: what others add meanwhile is looked at first
   * @param effectiveAt null for at once
   * @param tellHosts writes to each host what changes for them
   */
  record Wanted(long version, String reason, @Nullable Instant effectiveAt, boolean tellHosts) {}

  /**
   * What came of it.
   *
   * @param edition null where the draft now waits for consent
   * @param letters how many hosts were written to
   */
  record Published(RulebookService.@Nullable Edition edition, int letters) {}

  /** Publishes a draft, or proposes it where a second administrator has to consent. */
  @Transactional
  public Published publish(long id, Wanted wanted, SignedIn by) {
    DraftEntity draft = find(id);
    checkSeen(draft, wanted.version());
    if (draft.proposal() != null) {
      throw ProblemException.conflict(
          "awaiting-consent", "This draft waits for a second warden's consent already.");
    }
    if (settings.consent().needsConsent()) {
      rulebook.validate(json.readTree(draft.document()));
      if (draft.baseEdition() != rulebook.newest().number()) {
        throw ProblemException.conflict(
            "edition-overtaken",
            "Another edition was published meanwhile. Bring the draft up to it, look at what"
                + " differs, then publish again.");
      }
      draft.propose(wanted, by.email(), clock.instant());
      drafts.update(draft);
      return new Published(null, 0);
    }
    return store(draft, wanted, by.email(), null);
  }

  private static void checkSeen(DraftEntity draft, long version) {
    if (draft.version() != version) {
      throw ProblemException.conflict(
          "draft-changed",
          "Somebody changed this draft meanwhile. Look at what differs now, then publish again.");
    }
  }

  /**
   * A second administrator's consent: the draft is published.
   *
   * @param seen the version that was looked at; null does not ask
   * @throws ProblemException 409 where it was taken back since, changed and proposed again
   */
  @Transactional
  public Published consent(long id, @Nullable Long seen, SignedIn by) {
    DraftEntity draft = find(id);
    Draft.Proposal proposal = proposal(draft);
    if (seen != null) {
      checkSeen(draft, seen);
    }
    if (proposal.by().equals(by.email())) {
      throw ProblemException.forbidden(
          "own-proposal", "Consent comes from another warden than the one who proposed.");
    }
    access.checkCountsAsSecond(by);
    Wanted wanted =
        new Wanted(
            draft.version(), proposal.reason(), proposal.effectiveAt(), proposal.tellHosts());
    return store(draft, wanted, proposal.by(), by.email());
  }

  /** Asks for consent to be needed, or no longer; that takes two words, which both must count. */
  @Transactional
  public SettingsService.ConsentSetting setNeedsConsent(boolean needed, SignedIn by) {
    if (!needed) {
      access.checkCountsAsSecond(by);
    }
    return settings.setNeedsConsent(needed, by.email());
  }

  /** A second administrator's refusal, with a reason; the draft can be worked on again. */
  @Transactional
  public Draft decline(long id, String why, SignedIn by) {
    DraftEntity draft = find(id);
    proposal(draft);
    draft.endProposal(why, by.email());
    drafts.update(draft);
    return draft.draft(json);
  }

  /** Takes a proposal back. */
  @Transactional
  public Draft withdraw(long id, SignedIn by) {
    DraftEntity draft = find(id);
    if (!by.email().equals(proposal(draft).by())) {
      throw ProblemException.forbidden(
          "not-yours", "Only who proposed it takes it back. Decline it instead.");
    }
    draft.endProposal(null, null);
    drafts.update(draft);
    return draft.draft(json);
  }

  private DraftEntity find(long id) {
    return drafts
        .forChange(id)
        .orElseThrow(
            () ->
                ProblemException.notFound(
                    "There is no draft " + id + ": it was published or discarded meanwhile."));
  }

  private static Draft.Proposal proposal(DraftEntity draft) {
    Draft.Proposal proposal = draft.proposal();
    if (proposal == null) {
      throw ProblemException.conflict("not-proposed", "This draft does not wait for consent.");
    }
    return proposal;
  }

  private Published store(DraftEntity draft, Wanted wanted, String by, @Nullable String consentBy) {
    RulebookService.Edition before = rulebook.inForce();
    RulebookService.Edition edition =
        rulebook.publish(
            new RulebookService.Publication(
                draft.baseEdition(),
                json.readTree(draft.document()),
                wanted.reason(),
                by,
                wanted.effectiveAt(),
                consentBy));
    int letters = wanted.tellHosts() ? tellHosts(before, edition, by) : 0;
    drafts.delete(draft);
    return new Published(edition, letters);
  }

  private int tellHosts(
      RulebookService.Edition before, RulebookService.Edition edition, String by) {
    RegisterSnapshot.View view = snapshot.current();
    HostLetters letters =
        new HostLetters(
            view,
            new Layers(rulebook.rulebook(before), view.directory()::unitPath),
            new Layers(rulebook.rulebook(edition), view.directory()::unitPath),
            organisation.organisation());
    String when =
        edition.effectiveAt().isAfter(edition.publishedAt())
            ? "comes into force on " + DateWords.at(edition.effectiveAt())
            : "is in force";
    List<OutboxService.Letter> written =
        letters.letters(edition.number(), edition.reason(), when, register);
    return outbox.write(written, by);
  }
}
