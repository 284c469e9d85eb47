package app.uprightwarden.server.waivers;

import app.uprightwarden.server.access.Role;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.judging.AssessService;
import app.uprightwarden.server.judging.FindingView;
import app.uprightwarden.server.judging.Judging;
import app.uprightwarden.server.people.OrganisationService;
import app.uprightwarden.server.people.SettingsService;
import app.uprightwarden.server.people.UnitScope;
import app.uprightwarden.server.problem.Fault;
import app.uprightwarden.server.register.HeldMeeting;
import app.uprightwarden.server.register.RegisterService;
import app.uprightwarden.server.register.StoredMeeting;
import app.uprightwarden.server.rulebook.RulebookService;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** What a unit's warden may waive: in their unit, up to a severity that the organisation sets. */
@Component
class UnitWaivers {
  private static final Duration WINDOW = Duration.ofDays(90);

  /** What is not found by looking at the meeting alone counts as this grave. */
  private static final int UNSEEN = 3;

  private final RegisterService register;
  private final UnitScope units;
  private final OrganisationService organisation;
  private final RulebookService rulebook;
  private final AssessService assess;
  private final SettingsService settings;
  private final Clock clock;

  UnitWaivers(
      RegisterService register,
      UnitScope units,
      OrganisationService organisation,
      RulebookService rulebook,
      AssessService assess,
      SettingsService settings,
      Clock clock) {
    this.register = register;
    this.units = units;
    this.organisation = organisation;
    this.rulebook = rulebook;
    this.assess = assess;
    this.settings = settings;
    this.clock = clock;
  }

  /** Whether a waiver concerns somebody. */
  boolean concerns(SignedIn who, @Nullable String meeting, @Nullable String unit) {
    Set<String> own = units.units(who);
    if (own == null) {
      return true;
    }
    return meeting == null
        ? unit != null && own.contains(unit)
        : register.find(meeting).filter(m -> units.hasHost(who, m.meeting().host())).isPresent();
  }

  /** Why somebody may not grant a waiver; empty for wardens of the whole organisation. */
  List<Fault> faults(WaiverService.Wanted wanted, SignedIn by) {
    if (by.role() != Role.UNIT_WARDEN) {
      return List.of();
    }
    String id = wanted.meeting();
    if (wanted.scope().equals("rule") || id == null) {
      return List.of(
          new Fault("/scope", "a unit's warden waives findings and meetings, no rule of a unit"));
    }
    StoredMeeting stored =
        register.find(id).filter(m -> units.hasHost(by, m.meeting().host())).orElse(null);
    if (stored == null) {
      return List.of(new Fault("/meeting", "there is no such meeting in your unit"));
    }
    int most = settings.unitWaiverSeverity();
    int worst = worst(stored, wanted);
    return worst <= most
        ? List.of()
        : List.of(
            new Fault(
                "/severity",
                most == 0
                    ? "the organisation lets no unit's warden waive"
                    : "it is of severity "
                        + worst
                        + "; a unit's warden waives up to "
                        + most
                        + ". Ask a warden of the whole organisation"));
  }

  private int worst(StoredMeeting stored, WaiverService.Wanted wanted) {
    HeldMeeting held = stored.service();
    Instant now = clock.instant();
    List<FindingView> found =
        new ArrayList<>(
            Objects.requireNonNullElse(
                assess
                    .assess(
                        List.of(stored.meeting()),
                        held == null
                            ? Map.of()
                            : Map.of(stored.meeting().id(), held.held(stored.meeting())),
                        Judging.builder(
                            organisation.organisation(),
                            organisation.directory(),
                            rulebook.rulebook(rulebook.inForce())),
                        now,
                        now.plus(WINDOW),
                        Set.of("findings"))
                    .get(0)
                    .findings(),
                List.of()));
    if (wanted.scope().equals("finding")) {
      found.removeIf(f -> !f.check().equals(wanted.check()));
    }
    int worst = found.stream().mapToInt(FindingView::severity).max().orElse(UNSEEN);
    // a whole meeting's waiver covers what it shares with others too, which is not seen here
    return wanted.scope().equals("meeting") ? Math.max(worst, UNSEEN) : worst;
  }
}
