package app.uprightwarden.server.register;

import app.uprightwarden.core.audit.FactsBuilder;
import app.uprightwarden.core.calendar.Occurrences;
import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.drafting.Distribution;
import app.uprightwarden.core.exposure.Explanation;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.passcode.GuessEstimate;
import app.uprightwarden.core.people.Persona;
import app.uprightwarden.core.people.Right;
import app.uprightwarden.core.service.Held;
import app.uprightwarden.server.access.Role;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.judging.AssessService;
import app.uprightwarden.server.judging.FindingView;
import app.uprightwarden.server.judging.Judging;
import app.uprightwarden.server.people.Organisation;
import app.uprightwarden.server.people.OrganisationService;
import app.uprightwarden.server.problem.Fault;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.problem.Worded;
import app.uprightwarden.server.rulebook.LayerName;
import app.uprightwarden.server.rulebook.RulebookService;
import app.uprightwarden.server.schema.Plain;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotEmpty;
import jakarta.validation.constraints.Pattern;
import jakarta.validation.constraints.Size;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpHeaders;
import org.springframework.http.ResponseEntity;
import org.springframework.security.access.prepost.PreAuthorize;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.validation.annotation.Validated;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PatchMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Meetings: hosts reach their own; auditors read all; wardens change all. */
@RestController
@RequestMapping("/api/meetings")
@Validated
class MeetingController {
  private static final Duration MAX_OF_A_WEEK = Duration.ofDays(45);

  private final RegisterService register;
  private final DateControls dates;
  private final MeetingList board;
  private final HeldRows held;
  private final RegisterSnapshot snapshot;
  private final RulebookService rulebook;
  private final OrganisationService organisation;
  private final AssessService assess;
  private final Clock clock;

  MeetingController(
      RegisterService register,
      DateControls dates,
      MeetingList board,
      HeldRows held,
      RegisterSnapshot snapshot,
      RulebookService rulebook,
      OrganisationService organisation,
      AssessService assess,
      Clock clock) {
    this.register = register;
    this.dates = dates;
    this.board = board;
    this.held = held;
    this.snapshot = snapshot;
    this.rulebook = rulebook;
    this.organisation = organisation;
    this.assess = assess;
    this.clock = clock;
  }

  /** A page of the table; {@code total} counts all lines that the filter keeps. */
  record Page(List<MeetingList.Line> items, int page, int size, int total) {}

  /**
   * @param sort {@code next}, {@code title}, {@code host}, {@code unit}, {@code kind}, {@code
   *     invited}, {@code changed}, {@code exposure} or {@code findings}; with a minus before it the
   *     other way round
   * @param service the number of the conference service that holds them; 0 for those of none
   * @param open only meetings with findings
   * @param mine of a unit's warden only those that they host themselves
   */
  @GetMapping
  @PreAuthorize("isAuthenticated()")
  Page list(
      @RequestParam(required = false) @Nullable String text,
      @RequestParam(required = false) @Nullable String unit,
      @RequestParam(required = false) @Nullable String kind,
      @RequestParam(required = false) @Nullable String band,
      @RequestParam(required = false) @Nullable String host,
      @RequestParam(required = false) @Min(0) @Nullable Long service,
      @RequestParam(defaultValue = "false") boolean open,
      @RequestParam(defaultValue = "false") boolean mine,
      @RequestParam(required = false) @Nullable Instant from,
      @RequestParam(required = false) @Nullable Instant to,
      @RequestParam(defaultValue = "next") String sort,
      @RequestParam(defaultValue = "0") @Min(0) int page,
      @RequestParam(defaultValue = "100") @Min(1) @Max(500) int size,
      @AuthenticationPrincipal SignedIn who) {
    MeetingList.Slice slice =
        board.page(
            mine ? who.asHost() : who,
            new MeetingList.Filter(text, unit, kind, band, host, service, open, from, to),
            sort,
            page,
            size);
    return new Page(slice.items(), page, size, slice.total());
  }

  /**
   * The occurrences in some days.
   *
   * @param from the first instant; {@code to} the first after
   */
  @GetMapping("/week")
  @PreAuthorize("isAuthenticated()")
  MeetingList.Week week(
      @RequestParam(required = false) @Nullable String text,
      @RequestParam(required = false) @Nullable String unit,
      @RequestParam(required = false) @Nullable String kind,
      @RequestParam(required = false) @Nullable String band,
      @RequestParam(required = false) @Nullable String host,
      @RequestParam(required = false) @Min(0) @Nullable Long service,
      @RequestParam(defaultValue = "false") boolean open,
      @RequestParam Instant from,
      @RequestParam Instant to,
      @AuthenticationPrincipal SignedIn who) {
    if (!to.isAfter(from) || to.isAfter(from.plus(MAX_OF_A_WEEK))) {
      throw ProblemException.invalid(
          "A week view covers up to 45 days.",
          List.of(new Fault("/to", "must be after from, by at most 45 days")));
    }
    return board.week(
        who,
        new MeetingList.Filter(text, unit, kind, band, host, service, open, null, null),
        from,
        to);
  }

  /**
   * @param layer whose meetings: {@code organisation}, {@code unit:…} or {@code kind:…}
   * @param by {@code series} or {@code occurrences}
   */
  @GetMapping("/distribution")
  @PreAuthorize("hasAnyRole('WARDEN', 'AUDITOR')")
  Distribution distribution(
      @RequestParam(defaultValue = "organisation") String layer,
      @RequestParam(defaultValue = "series") @Pattern(regexp = "series|occurrences") String by) {
    RegisterSnapshot.View view = snapshot.current();
    return Distribution.of(
        view.index(), view.directory()::unitPath, LayerName.parse(layer), by.equals("occurrences"));
  }

  /**
   * Somebody invited.
   *
   * @param task contributor, captioner or interpreter, or null
   * @param language of a captioner or interpreter, or null
   */
  record InviteeView(
      String email,
      String need,
      String standing,
      @Nullable String task,
      @Nullable String language) {}

  /**
   * An occurrence to come.
   *
   * @param at its original local start, which names it
   * @param controls those that it has of its own
   */
  record Coming(
      String at,
      Instant start,
      Instant end,
      boolean changed,
      @Plain Map<String, Object> controls) {}

  /**
   * One meeting whole, judged as it stands now; its passcode is asked for apart.
   *
   * @param formerly the conference service that held it until that was unlinked
   * @param datesApart whether one date can have controls of its own: not every service has them
   */
  record MeetingView(
      String id,
      long version,
      String title,
      String description,
      @Nullable String kind,
      @Nullable String unit,
      String host,
      List<String> coHosts,
      List<String> presenters,
      List<InviteeView> invitees,
      List<String> lists,
      @Nullable String space,
      String start,
      String zone,
      int minutes,
      @Nullable String recurrence,
      List<Coming> coming,
      @Nullable String number,
      @Nullable String room,
      boolean wholeDay,
      @Nullable Integer reminder,
      List<Details.Group> groups,
      int sequence,
      boolean hasPasscode,
      boolean mayChange,
      boolean mayEdit,
      boolean maySeePasscode,
      @Plain Map<String, Object> controls,
      AssessService.Assessment assessment,
      String changedBy,
      Instant changedAt,
      @Nullable HeldView held,
      @Nullable String formerly,
      boolean datesApart) {}

  @GetMapping("/{id}")
  @PreAuthorize("isAuthenticated()")
  MeetingView get(@PathVariable String id, @AuthenticationPrincipal SignedIn who) {
    return view(register.get(id, who), who);
  }

  /** How a level of the matrix came about, in words and as the two ways through the door. */
  record ExplanationView(
      String level,
      String role,
      @Worded String words,
      List<FindingView.TrailStep> beforeTheStart,
      List<FindingView.TrailStep> inSession) {}

  @GetMapping("/{id}/explain")
  @PreAuthorize("isAuthenticated()")
  ExplanationView explain(
      @PathVariable String id,
      @RequestParam String persona,
      @RequestParam String right,
      @AuthenticationPrincipal SignedIn who) {
    Meeting meeting = register.get(id, who).meeting();
    Persona of = Persona.byId(persona);
    Right on = Right.byId(right);
    if (of == null || on == null) {
      throw ProblemException.notFound("There is no such persona or right; see /api/catalogue.");
    }
    Explanation explanation = Explanation.of(meeting.controls(), of, on);
    return new ExplanationView(
        explanation.level().id(),
        explanation.role().id(),
        explanation.words(),
        FindingView.steps(explanation.beforeTheStart()),
        FindingView.steps(explanation.inSession()));
  }

  /**
   * Changes to controls; null takes a value away.
   *
   * @param occurrence the original local start of the one date they are for; null for all
   */
  record ControlChanges(
      @Min(0) long version,
      @Nullable @Size(max = 19) String occurrence,
      @Plain @NotEmpty @Size(max = 200) Map<String, @Nullable Object> controls) {}

  /** Changes controls. Hosts may not go looser than a limit, nor touch what is fixed. */
  @PatchMapping("/{id}/controls")
  @PreAuthorize("hasAnyRole('WARDEN', 'UNIT_WARDEN', 'HOST')")
  MeetingView change(
      @PathVariable String id,
      @RequestBody @Valid ControlChanges wanted,
      @AuthenticationPrincipal SignedIn who) {
    StoredMeeting stored = register.get(id, who);
    Map<Control, @Nullable Value> changes = parse(wanted.controls());
    String date = wanted.occurrence();
    if (date != null) {
      dates.change(stored, wanted.version(), date, changes, who);
    } else {
      if (who.role() != Role.WARDEN) {
        dates.checkLimits(stored.decided(), null, changes);
      }
      register.changeControls(id, wanted.version(), changes, who);
    }
    return view(register.get(id, who), who);
  }

  /**
   * A passcode in clear.
   *
   * @param phone the digits for telephones beside it, or null; {@code phoneMinutesToGuess} is an
   *     estimate too
   * @param triesToGuess an estimate of the tries that guessing it takes, or null
   * @param triesAMinute the rate that {@code minutesToGuess} assumes
   */
  record Passcode(
      @Nullable String passcode,
      @Nullable Double triesToGuess,
      int triesAMinute,
      @Nullable Double minutesToGuess,
      @Nullable String phone,
      @Nullable Double phoneMinutesToGuess) {
    static Passcode of(@Nullable String passcode, @Nullable String phone) {
      GuessEstimate estimate = passcode == null ? null : GuessEstimate.of(passcode);
      return new Passcode(
          passcode,
          estimate == null ? null : estimate.tries(),
          GuessEstimate.TRIES_A_MINUTE,
          estimate == null ? null : estimate.minutes(),
          phone,
          phone == null ? null : GuessEstimate.of(phone).minutes());
    }
  }

  @GetMapping("/{id}/passcode")
  @PreAuthorize("hasAnyRole('WARDEN', 'UNIT_WARDEN', 'HOST')")
  ResponseEntity<Passcode> passcode(
      @PathVariable String id,
      @AuthenticationPrincipal(expression = SignedIn.AS_HOST) SignedIn who) {
    register.get(id, who);
    return ResponseEntity.ok()
        .header(HttpHeaders.CACHE_CONTROL, "no-store")
        .body(Passcode.of(register.passcode(id), register.phonePasscode(id)));
  }

  private static Map<Control, @Nullable Value> parse(Map<String, @Nullable Object> given) {
    Map<Control, @Nullable Value> changes = new EnumMap<>(Control.class);
    List<Fault> faults = new ArrayList<>();
    given.forEach(
        (id, plain) -> {
          Control control = Control.byId(id);
          String at = "/controls/" + id;
          if (control == null) {
            faults.add(new Fault(at, "there is no such control"));
            return;
          }
          try {
            changes.put(control, plain == null ? null : control.parse(plain));
          } catch (IllegalArgumentException e) {
            faults.add(new Fault(at, String.valueOf(e.getMessage())));
          }
        });
    if (!faults.isEmpty()) {
      throw ProblemException.invalid("Some values are wrong. Nothing was changed.", faults);
    }
    return changes;
  }

  private static Map<String, Held> heldOf(StoredMeeting stored) {
    Held held = stored.held();
    return held == null ? Map.of() : Map.of(stored.meeting().id(), held);
  }

  private MeetingView view(StoredMeeting stored, SignedIn who) {
    Meeting meeting = stored.meeting();
    Organisation all = organisation.organisation();
    var directory = organisation.directory();
    FactsBuilder builder = Judging.builder(all, directory, rulebook.rulebook(rulebook.inForce()));
    Instant now = clock.instant();
    Instant to = now.plus(MeetingList.WINDOW);
    AssessService.Assessment assessment =
        assess
            .assess(List.of(meeting), heldOf(stored), builder, now, to, AssessService.FIELDS)
            .get(0);
    List<Coming> coming =
        Occurrences.between(meeting, now, to).stream()
            .limit(12)
            .map(
                o ->
                    new Coming(
                        o.at().toString(),
                        o.start(),
                        o.end(),
                        meeting.changes().stream().anyMatch(c -> c.at().equals(o.at())),
                        ControlsJson.plain(HeldMeeting.over(stored.decided(), o.at().toString()))))
            .toList();
    var host = directory.find(meeting.host());
    boolean mayEdit = who.role() == Role.WARDEN || RegisterService.hosts(meeting, who);
    return new MeetingView(
        meeting.id(),
        stored.version(),
        meeting.title(),
        meeting.description(),
        meeting.kind(),
        host == null ? null : host.unit(),
        meeting.host(),
        meeting.coHosts(),
        meeting.presenters(),
        meeting.invitees().stream()
            .map(
                i ->
                    new InviteeView(
                        i.email(),
                        i.need().name().toLowerCase(java.util.Locale.ROOT),
                        directory.standingOf(i.email()).id(),
                        i.task() == null ? null : i.task().id(),
                        i.language()))
            .toList(),
        meeting.lists(),
        meeting.space(),
        meeting.start().toString(),
        meeting.zone().getId(),
        meeting.minutes(),
        meeting.recurrence(),
        coming,
        meeting.number(),
        stored.details().room(),
        stored.details().wholeDay(),
        stored.details().reminder(),
        stored.details().groups(),
        stored.details().sequence(),
        meeting.passcode() != null,
        who.role() != Role.AUDITOR,
        mayEdit,
        meeting.passcode() != null && mayEdit,
        ControlsJson.plain(FactsBuilder.judged(meeting.controls(), meeting.passcode())),
        assessment,
        stored.changedBy(),
        stored.changedAt(),
        HeldView.of(stored, who.role() != Role.AUDITOR),
        stored.service() == null ? held.formerly(meeting.id()) : null,
        DateControls.areApart(stored));
  }
}
