package app.uprightwarden.server.exchange;

import app.uprightwarden.core.people.Directory;
import app.uprightwarden.server.people.Organisation;
import app.uprightwarden.server.people.OrganisationService;
import app.uprightwarden.server.people.SettingsService;
import app.uprightwarden.server.problem.Fault;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.register.MeetingDocument;
import app.uprightwarden.server.register.RegisterService;
import app.uprightwarden.server.register.Scheduled;
import app.uprightwarden.server.register.StoredMeeting;
import app.uprightwarden.server.rulebook.RulebookService;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.JsonNode;

/** Bundles in and out. */
@Service
public class ExchangeService {
  private final BundleReader reader;
  private final OrganisationService organisation;
  private final SettingsService settings;
  private final RulebookService rulebook;
  private final RegisterService register;
  private final ImportRuns runs;
  private final ImportDirectory directory;
  private final MeetingImport meetings;

  ExchangeService(
      BundleReader reader,
      OrganisationService organisation,
      SettingsService settings,
      RulebookService rulebook,
      RegisterService register,
      ImportRuns runs,
      ImportDirectory directory,
      MeetingImport meetings) {
    this.reader = reader;
    this.organisation = organisation;
    this.settings = settings;
    this.rulebook = rulebook;
    this.register = register;
    this.runs = runs;
    this.directory = directory;
    this.meetings = meetings;
  }

  /** Everything there is, in one document. */
  @Transactional(readOnly = true)
  public Map<String, @Nullable Object> export(boolean withPasscodes) {
    Map<String, @Nullable Object> bundle = new LinkedHashMap<>();
    bundle.put("format", "upright-warden/1");
    bundle.put("organisation", BundleWriter.organisation(organisation.organisation()));
    bundle.put("people", people());
    bundle.put("rulebook", rulebook.inForce().document());
    List<Map<String, @Nullable Object>> meetings = new ArrayList<>();
    register.each(
        page ->
            page.forEach(
                stored -> meetings.add(MeetingDocument.of(scheduled(stored, withPasscodes)))));
    bundle.put("meetings", meetings);
    return bundle;
  }

  private List<Map<String, @Nullable Object>> people() {
    Map<String, ZoneId> zones = organisation.zones();
    return organisation.people().stream()
        .map(
            person -> {
              ZoneId zone = zones.get(Directory.fold(person.email()));
              return BundleWriter.person(person, zone == null ? null : zone.getId());
            })
        .toList();
  }

  private Scheduled scheduled(StoredMeeting stored, boolean withPasscode) {
    boolean open = withPasscode && stored.meeting().passcode() != null;
    return new Scheduled(
        stored.meeting(),
        stored.details(),
        open ? register.passcode(stored.meeting().id()) : null,
        false,
        open ? register.phonePasscode(stored.meeting().id()) : null);
  }

  /**
   * Takes a bundle in, all of it or nothing: adds what is new, changes what differs, leaves the
   * rest alone, removes nothing. A rulebook that differs from the edition in force becomes the next
   * one.
   *
   * @throws ProblemException 422 with each fault, where it has any
   */
  @Transactional
  public ImportReport take(JsonNode document, ImportJob job) {
    List<Fault> faults = new ArrayList<>();
    Bundle bundle = reader.read(document, organisation.organisation(), register::judge, faults);
    if (!faults.isEmpty()) {
      throw ProblemException.invalid(
          "The bundle has %d fault%s. Nothing was stored."
              .formatted(faults.size(), faults.size() == 1 ? "" : "s"),
          faults);
    }
    ImportRun run = runs.begin("bundle", job);
    if (bundle.organisation() != null) {
      takeOrganisation(bundle.organisation(), run);
    }
    if (bundle.people() != null) {
      directory.takePeople(bundle.people(), bundle.zones(), run);
    }
    takeRulebook(bundle.rulebookDocument(), run.tally(), job.dryRun(), job.by());
    meetings.take(bundle.meetings().stream().map(MeetingImport.Candidate::of).toList(), run);
    return runs.end(run);
  }

  /** The same without a way back, as the demo comes in. */
  @Transactional
  public void take(JsonNode document, String by) {
    take(document, ImportJob.unlisted(false, by));
  }

  private void takeOrganisation(Organisation given, ImportRun run) {
    Organisation stored = organisation.organisation();
    boolean sameFacts =
        stored.name().equals(given.name())
            && stored.domains().equals(given.domains())
            && stored.partners().equals(given.partners())
            && stored.plan().equals(given.plan());
    run.tally().count("organisation", given.name(), false, sameFacts);
    if (!sameFacts) {
      run.tally().note("The organisation's own facts and units stay when this is taken back.");
    }
    ImportDirectory.compare("units", stored.units(), given.units(), Organisation.Unit::id, run);
    ImportDirectory.compare("kinds", stored.kinds(), given.kinds(), Organisation.Kind::id, run);
    if (!run.job().dryRun()) {
      organisation.put(
          new Organisation(
              given.name(),
              given.domains(),
              given.partners(),
              given.plan(),
              given.units(),
              given.kinds(),
              List.of(),
              List.of(),
              List.of()));
    }
    directory.takeGatherings("spaces", stored.spaces(), given.spaces(), run);
    directory.takeGatherings("lists", stored.lists(), given.lists(), run);
    directory.takeRooms(stored.rooms(), given.rooms(), run);
  }

  private void takeRulebook(
      @Nullable JsonNode given, ImportTally tally, boolean dryRun, String by) {
    if (given == null) {
      return;
    }
    RulebookService.Edition inForce = rulebook.inForce();
    boolean none = inForce.number() == 0;
    boolean same = given.equals(inForce.document());
    int next = same ? inForce.number() : rulebook.newest().number() + 1;
    if (!same) {
      mayPublish();
      tally.note("An edition that is published stays when this is taken back; step back from it.");
    }
    tally.count("rulebook", "edition " + next, none && !same, same);
    if (!same && !dryRun) {
      rulebook.append(given, "Came in with a bundle.", by);
    }
  }

  /** A bundle publishes at once and by one person alone; where that may not be, it says so. */
  private void mayPublish() {
    if (settings.consent().needsConsent()) {
      throw ProblemException.conflict(
          "consent-needed",
          "The bundle's rulebook differs from the edition in force, and publishing needs a second"
              + " administrator's consent. Bring the rulebook in as a draft, and the rest without"
              + " it. Nothing was stored.");
    }
    rulebook
        .toCome()
        .ifPresent(
            edition -> {
              throw ProblemException.conflict(
                  "edition-to-come",
                  "Edition "
                      + edition.number()
                      + " is to come into force. Bring the rulebook in as a draft, and the rest"
                      + " without it. Nothing was stored.");
            });
  }
}
