package app.uprightwarden.server.exchange;

import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.people.Directory;
import app.uprightwarden.core.people.Person;
import app.uprightwarden.server.people.HouseService;
import app.uprightwarden.server.people.Organisation;
import app.uprightwarden.server.people.OrganisationService;
import app.uprightwarden.server.problem.Fault;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.register.RegisterService;
import app.uprightwarden.server.register.Scheduled;
import app.uprightwarden.server.register.Stored;
import app.uprightwarden.server.rulebook.RulebookService;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.JsonNode;

/** Bundles in and out. */
@Service
public class ExchangeService {
  private final BundleReader reader;
  private final OrganisationService organisation;
  private final HouseService house;
  private final RulebookService rulebook;
  private final RegisterService register;

  ExchangeService(
      BundleReader reader,
      OrganisationService organisation,
      HouseService house,
      RulebookService rulebook,
      RegisterService register) {
    this.reader = reader;
    this.organisation = organisation;
    this.house = house;
    this.rulebook = rulebook;
    this.register = register;
  }

  /** Everything there is, in one document. */
  @Transactional(readOnly = true)
  public Map<String, @Nullable Object> export(boolean withPasscodes) {
    Map<String, @Nullable Object> bundle = new LinkedHashMap<>();
    bundle.put("format", "upright-warden/1");
    bundle.put("organisation", BundleWriter.organisation(organisation.organisation()));
    bundle.put("people", organisation.people().stream().map(BundleWriter::person).toList());
    bundle.put("rulebook", rulebook.inForce().document());
    List<Map<String, @Nullable Object>> meetings = new ArrayList<>();
    register.each(
        page ->
            page.forEach(
                stored -> meetings.add(BundleWriter.meeting(scheduled(stored, withPasscodes)))));
    bundle.put("meetings", meetings);
    return bundle;
  }

  private Scheduled scheduled(Stored stored, boolean withPasscode) {
    boolean open = withPasscode && stored.meeting().passcode() != null;
    return new Scheduled(stored.meeting(), open ? register.passcode(stored.meeting().id()) : null);
  }

  /**
   * Takes a bundle in, all of it or nothing: adds what is new, changes what differs, leaves the
   * rest alone, removes nothing. A rulebook that differs from the edition in force becomes the next
   * one.
   *
   * @throws ProblemException 422 with each fault, where it has any
   */
  @Transactional
  public ImportReport take(JsonNode document, boolean dryRun, String by) {
    List<Fault> faults = new ArrayList<>();
    Bundle bundle = reader.read(document, organisation.organisation(), register::judge, faults);
    if (!faults.isEmpty()) {
      throw ProblemException.invalid(
          "The bundle has %d fault%s. Nothing was stored."
              .formatted(faults.size(), faults.size() == 1 ? "" : "s"),
          faults);
    }
    Tally tally = new Tally();
    if (bundle.organisation() != null) {
      takeOrganisation(bundle.organisation(), tally, dryRun);
    }
    if (bundle.people() != null) {
      takePeople(bundle.people(), tally, dryRun);
    }
    takeRulebook(bundle.rulebookDocument(), tally, dryRun, by);
    takeMeetings(bundle.meetings(), tally, dryRun, by);
    return tally.report(dryRun);
  }

  private void takeOrganisation(Organisation given, Tally tally, boolean dryRun) {
    Organisation stored = organisation.organisation();
    boolean sameFacts =
        stored.name().equals(given.name())
            && stored.domains().equals(given.domains())
            && stored.partners().equals(given.partners())
            && stored.plan().equals(given.plan());
    tally.count("organisation", given.name(), false, sameFacts);
    compare("units", stored.units(), given.units(), Organisation.Unit::id, tally);
    compare("kinds", stored.kinds(), given.kinds(), Organisation.Kind::id, tally);
    compare("spaces", stored.spaces(), given.spaces(), Organisation.Gathering::id, tally);
    compare("lists", stored.lists(), given.lists(), Organisation.Gathering::id, tally);
    if (!dryRun) {
      organisation.put(given);
    }
  }

  private void takePeople(List<Person> given, Tally tally, boolean dryRun) {
    compare("people", organisation.people(), given, p -> Directory.fold(p.email()), tally);
    if (!dryRun) {
      organisation.put(given);
    }
  }

  private static <T> void compare(
      String part, List<T> stored, List<T> given, Function<T, String> id, Tally tally) {
    Map<String, T> known = new HashMap<>();
    stored.forEach(item -> known.put(id.apply(item), item));
    for (T item : given) {
      T before = known.get(id.apply(item));
      tally.count(part, id.apply(item), before == null, item.equals(before));
    }
  }

  private void takeRulebook(@Nullable JsonNode given, Tally tally, boolean dryRun, String by) {
    if (given == null) {
      return;
    }
    RulebookService.Edition inForce = rulebook.inForce();
    boolean none = inForce.number() == 0;
    boolean same = given.equals(inForce.document());
    int next = same ? inForce.number() : rulebook.newest().number() + 1;
    if (!same) {
      mayPublish();
    }
    tally.count("rulebook", "edition " + next, none && !same, same);
    if (!same && !dryRun) {
      rulebook.append(given, "Came in with a bundle.", by);
    }
  }

  /** A bundle publishes at once and by one person alone; where that may not be, it says so. */
  private void mayPublish() {
    if (house.house().needsConsent()) {
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

  private void takeMeetings(List<Scheduled> given, Tally tally, boolean dryRun, String by) {
    int chunk = 500;
    for (int i = 0; i < given.size(); i += chunk) {
      List<Scheduled> some = given.subList(i, Math.min(i + chunk, given.size()));
      Map<String, Stored> known = register.among(some.stream().map(s -> s.meeting().id()).toList());
      for (Scheduled asGiven : some) {
        Stored before = known.get(asGiven.meeting().id());
        Scheduled scheduled = withStoredPasscode(asGiven, before);
        // passcodes compare by their fingerprint, which is part of the meeting
        boolean same = before != null && before.meeting().equals(scheduled.meeting());
        tally.count("meetings", scheduled.meeting().id(), before == null, same);
        if (!same && !dryRun) {
          register.put(scheduled, by);
        }
      }
    }
  }

  /** A bundle given out without passcodes must not wipe them when it comes back. */
  private Scheduled withStoredPasscode(Scheduled given, @Nullable Stored before) {
    if (!given.passcodeLeftOut() || before == null || before.meeting().passcode() == null) {
      return given;
    }
    Meeting meeting = given.meeting();
    String passcode = register.passcode(meeting.id());
    if (passcode == null) {
      return given;
    }
    return new Scheduled(
        meeting.withPasscode(
            register.judge(passcode, meeting.title(), meeting.description(), meeting.host())),
        passcode);
  }

  private static final class Tally {
    private final List<ImportReport.Row> rows = new ArrayList<>();
    private int added;
    private int changed;
    private int unchanged;

    void count(String part, String id, boolean fresh, boolean same) {
      if (same) {
        unchanged++;
        return;
      }
      if (fresh) {
        added++;
      } else {
        changed++;
      }
      rows.add(new ImportReport.Row(part, id, fresh ? "added" : "changed"));
    }

    ImportReport report(boolean dryRun) {
      return new ImportReport(dryRun, added, changed, unchanged, List.copyOf(rows));
    }
  }
}
