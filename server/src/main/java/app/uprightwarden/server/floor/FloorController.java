package app.uprightwarden.server.floor;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.session.Order;
import app.uprightwarden.core.session.SessionBook;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.limits.Takes;
import app.uprightwarden.server.problem.Fault;
import app.uprightwarden.server.problem.ProblemException;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Pattern;
import jakarta.validation.constraints.Size;
import java.util.Arrays;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.access.prepost.PreAuthorize;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Sessions in progress and what is done in them. */
@Takes(kilobytes = 512)
@RestController
@RequestMapping("/api/floor")
class FloorController {
  private static final List<String> ROLES = List.of("co-host", "presenter", "attendee", "onlooker");

  private final FloorService floor;
  private final FloorOpening opening;
  private final FloorLockdown lockdown;

  FloorController(FloorService floor, FloorOpening opening, FloorLockdown lockdown) {
    this.floor = floor;
    this.opening = opening;
    this.lockdown = lockdown;
  }

  /** Sessions in progress, and those that are over, the last first. */
  record FloorLists(List<FloorView.SessionLine> running, List<FloorView.SessionLine> over) {}

  /**
   * A practice session to open.
   *
   * @param speed how fast its clock runs
   */
  record ToPractise(
      @NotBlank @Size(max = 64) String meeting,
      @NotNull @Pattern(regexp = "usual|strangers|storm|crowd") String script,
      @Min(1) @Max(120) double speed,
      @Min(0) @Max(5000) int strangers) {}

  record Opened(String id) {}

  /**
   * Something to be done.
   *
   * @param key made by the page for one click: asked twice with it, it is done once
   * @param people the service's names of those concerned
   * @param value a role, or the value of {@code control}
   * @param reason why a warden allows a value beyond the rule, for this session
   * @param whom {@code invited} or {@code everybody} at the door, with {@code let-in-all}
   * @param uninvited of how many uninvited at the door it was said that they are let in with the
   *     others; where more are there by then, nobody is. Left out, nobody asks that
   */
  record ToDo(
      @NotBlank @Size(max = 60) @Pattern(regexp = "[A-Za-z0-9-]+") String key,
      @NotBlank @Size(max = 20) String act,
      @NotNull @Size(max = 5000) List<@NotBlank @Size(max = 60) String> people,
      @Nullable @Size(max = 40) String control,
      @Nullable @Size(max = 200) String value,
      @Nullable @Size(max = 2000) String reason,
      @Nullable @Pattern(regexp = "invited|everybody") String whom,
      @Nullable @Min(0) Integer uninvited) {}

  /** A word on an alert; {@code to} is whom it is handed on to. */
  record Handling(
      @NotNull @Pattern(regexp = "acknowledged|handed-on|closed") String state,
      @Nullable @Size(max = 254) String to,
      @Nullable @Size(max = 2000) String note) {}

  @GetMapping("/sessions")
  @PreAuthorize("hasAnyRole('WARDEN', 'UNIT_WARDEN', 'AUDITOR', 'HOST')")
  FloorLists sessions(@AuthenticationPrincipal SignedIn who) {
    return new FloorLists(floor.running(who), floor.over(who));
  }

  @PostMapping("/sessions")
  @ResponseStatus(HttpStatus.CREATED)
  @PreAuthorize("hasAnyRole('WARDEN', 'UNIT_WARDEN', 'HOST')")
  Opened practise(@RequestBody @Valid ToPractise wanted, @AuthenticationPrincipal SignedIn who) {
    return new Opened(
        opening.practice(
            new FloorOpening.PracticeAsked(
                wanted.meeting(), wanted.script(), wanted.speed(), wanted.strangers()),
            who));
  }

  /** Opens the session of a meeting now, before its door would open by itself. */
  @PostMapping("/meetings/{id}/start")
  @PreAuthorize("hasAnyRole('WARDEN', 'UNIT_WARDEN', 'HOST')")
  Opened start(@PathVariable String id, @AuthenticationPrincipal SignedIn who) {
    return new Opened(opening.start(id, who));
  }

  /** Sessions to be locked down; all that are running where none is named. */
  record LockdownWanted(
      @NotNull @Size(max = 2000) List<@NotBlank @Size(max = 60) String> sessions) {}

  /** Locks sessions, has their waiting rooms on and stops what is shared, as one act. */
  @PostMapping("/lockdowns")
  @ResponseStatus(HttpStatus.CREATED)
  @PreAuthorize("hasRole('WARDEN')")
  FloorLockdown.LockdownView lockDown(
      @RequestBody @Valid LockdownWanted wanted, @AuthenticationPrincipal SignedIn who) {
    return lockdown.lockDown(wanted.sessions(), who);
  }

  /** The last lockdown, where it has not been undone. */
  @GetMapping("/lockdowns")
  @PreAuthorize("hasAnyRole('WARDEN', 'AUDITOR')")
  List<FloorLockdown.LockdownView> lockdowns() {
    return lockdown.standing();
  }

  /** Undoes a lockdown: doors and waiting rooms are as they were. */
  @DeleteMapping("/lockdowns/{id}")
  @PreAuthorize("hasRole('WARDEN')")
  FloorLockdown.LockdownView undoLockdown(
      @PathVariable long id, @AuthenticationPrincipal SignedIn who) {
    return lockdown.undo(id, who);
  }

  @GetMapping("/sessions/{id}")
  @PreAuthorize("hasAnyRole('WARDEN', 'UNIT_WARDEN', 'AUDITOR', 'HOST')")
  FloorView.SessionPage session(
      @PathVariable String id,
      @RequestParam(defaultValue = "") @Size(max = 100) String text,
      @RequestParam(defaultValue = "100") @Min(1) @Max(1000) int most,
      @AuthenticationPrincipal SignedIn who) {
    return floor.page(id, text, most, who);
  }

  @PostMapping("/sessions/{id}/orders")
  @PreAuthorize("hasAnyRole('WARDEN', 'UNIT_WARDEN', 'HOST')")
  FloorOrders.FloorOrder order(
      @PathVariable String id,
      @RequestBody @Valid ToDo wanted,
      @AuthenticationPrincipal SignedIn who) {
    Order order = order(wanted);
    return order.act() == Order.Act.LET_IN_ALL
        ? floor.letIn(id, wanted.key(), "invited".equals(wanted.whom()), wanted.uninvited(), who)
        : floor.order(id, wanted.key(), order, wanted.reason(), who);
  }

  private static Order order(ToDo wanted) {
    Order.Act act =
        Arrays.stream(Order.Act.values())
            .filter(each -> each.id().equals(wanted.act()))
            .findFirst()
            .orElseThrow(() -> wrong("/act", "there is no act " + wanted.act()));
    if (act.concernsPeople() && wanted.people().isEmpty()) {
      throw wrong("/people", "say who");
    }
    Control control = Control.byId(wanted.control());
    String value = wanted.value();
    if (act == Order.Act.SET) {
      if (control == null) {
        throw wrong("/control", "there is no such control");
      }
      if (value == null || !SessionBook.isValue(control, value)) {
        throw wrong("/value", control.id() + " has no such value");
      }
    }
    if (act == Order.Act.ROLE && !ROLES.contains(String.valueOf(value))) {
      throw wrong("/value", "a role is one of " + String.join(", ", ROLES));
    }
    return new Order(act, wanted.people(), act == Order.Act.SET ? control : null, value);
  }

  private static ProblemException wrong(String where, String what) {
    return ProblemException.invalid(
        "This cannot be done: " + what + ".", List.of(new Fault(where, what)));
  }

  @PostMapping("/alerts/{id}")
  @PreAuthorize("hasAnyRole('WARDEN', 'UNIT_WARDEN', 'HOST')")
  FloorAlerts.FloorAlert handle(
      @PathVariable long id,
      @RequestBody @Valid Handling wanted,
      @AuthenticationPrincipal SignedIn who) {
    if (wanted.state().equals("handed-on") && isBlank(wanted.to())) {
      throw wrong("/to", "say to whom it is handed on");
    }
    if (wanted.state().equals("closed") && isBlank(wanted.note())) {
      throw wrong("/note", "an alert is closed with a note");
    }
    return floor.handle(id, wanted.state(), wanted.to(), wanted.note(), who);
  }

  /** A word on all alerts of one cause. */
  record CauseHandling(
      @NotBlank @Size(max = 190) String cause,
      @NotNull @Pattern(regexp = "acknowledged|closed") String state,
      @Nullable @Size(max = 2000) String note) {}

  /** How many alerts were handled as one. */
  record HandledAlerts(int alerts) {}

  @PostMapping("/sessions/{id}/alerts")
  @PreAuthorize("hasAnyRole('WARDEN', 'UNIT_WARDEN', 'HOST')")
  HandledAlerts handleAll(
      @PathVariable String id,
      @RequestBody @Valid CauseHandling wanted,
      @AuthenticationPrincipal SignedIn who) {
    if (wanted.state().equals("closed") && isBlank(wanted.note())) {
      throw wrong("/note", "an alert is closed with a note");
    }
    return new HandledAlerts(
        floor.handleAll(id, wanted.cause(), wanted.state(), wanted.note(), who));
  }

  /** What stands open in any session that one may see, for a line on every page. */
  @GetMapping("/alerts")
  @PreAuthorize("hasAnyRole('WARDEN', 'UNIT_WARDEN', 'AUDITOR', 'HOST')")
  FloorService.OpenAlerts open(@AuthenticationPrincipal SignedIn who) {
    return floor.open(who);
  }

  /** Meetings of which one wants to know whether they are in session. */
  record MeetingsAsked(
      @NotNull @Size(max = 5000) List<@NotBlank @Size(max = 64) String> meetings) {}

  /** Which of some meetings are in session, and whether what is changed reaches that. */
  @PostMapping("/in-session")
  @PreAuthorize("hasAnyRole('WARDEN', 'UNIT_WARDEN', 'AUDITOR', 'HOST')")
  List<FloorFollow.InSession> inSession(
      @RequestBody @Valid MeetingsAsked asked, @AuthenticationPrincipal SignedIn who) {
    return floor.inSession(asked.meetings(), who);
  }

  private static boolean isBlank(@Nullable String text) {
    return text == null || text.isBlank();
  }
}
