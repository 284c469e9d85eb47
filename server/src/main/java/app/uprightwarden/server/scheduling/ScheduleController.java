package app.uprightwarden.server.scheduling;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.people.Directory;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.limits.Takes;
import app.uprightwarden.server.problem.Fault;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.register.MeetingVersions;
import app.uprightwarden.server.register.RegisterService;
import app.uprightwarden.server.register.StoredMeeting;
import app.uprightwarden.server.schema.Plain;
import app.uprightwarden.server.waivers.WaiverRequests;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Email;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotEmpty;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Pattern;
import jakarta.validation.constraints.Size;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.springframework.dao.DataIntegrityViolationException;
import org.springframework.security.access.prepost.PreAuthorize;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.validation.annotation.Validated;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.databind.json.JsonMapper;

/** Scheduling, changing, cancelling and putting back meetings: hosts their own, wardens all. */
@RestController
@RequestMapping("/api/meetings")
@Validated
class ScheduleController {
  private final ScheduleService schedule;
  private final BulkMeetings many;
  private final SchedulingPreviewService preview;
  private final History history;
  private final Answers answers;
  private final WaiverRequests waivers;
  private final MeetingVersions versions;
  private final RegisterService register;
  private final JsonMapper json;

  ScheduleController(
      ScheduleService schedule,
      BulkMeetings many,
      SchedulingPreviewService preview,
      History history,
      Answers answers,
      WaiverRequests waivers,
      MeetingVersions versions,
      RegisterService register,
      JsonMapper json) {
    this.schedule = schedule;
    this.many = many;
    this.preview = preview;
    this.history = history;
    this.answers = answers;
    this.waivers = waivers;
    this.versions = versions;
    this.register = register;
    this.json = json;
  }

  /**
   * A meeting to save.
   *
   * @param version the one a change was made on; 0 for a new meeting
   * @param meeting as a bundle has it, without an id
   * @param send whether invitees are written to
   * @param word to the invitees
   * @param reason why it goes beyond a limit
   * @param service the conference service a new meeting is made in; 0 for none, null for the usual
   *     one
   * @param key of a new meeting, chosen by whoever asks: saved again with the same key, since an
   *     answer was lost, it does not become a second one; null where nobody asks that
   */
  record ToSave(
      @Min(0) long version,
      @NotNull @Size(max = 200) Map<String, @Nullable Object> meeting,
      boolean send,
      @Nullable @Size(max = 2000) String word,
      @Nullable @Size(max = 2000) String reason,
      @Nullable @Min(0) Long service,
      @Nullable @Pattern(regexp = "[A-Za-z0-9-]{16,64}") String key) {
    ScheduleService.Saving saving() {
      return new ScheduleService.Saving(
          send,
          Objects.requireNonNullElse(word, ""),
          Objects.requireNonNullElse(reason, ""),
          service);
    }
  }

  @PostMapping
  @PreAuthorize("hasAnyRole('WARDEN', 'UNIT_WARDEN', 'HOST')")
  ScheduleService.Saved schedule(
      @RequestBody @Valid ToSave wanted,
      @AuthenticationPrincipal(expression = SignedIn.AS_HOST) SignedIn who) {
    ScheduleService.Saved saved = schedule.savedBefore(wanted.key(), wanted.saving(), who);
    if (saved != null) {
      return saved;
    }
    try {
      return schedule.schedule(
          json.valueToTree(wanted.meeting()), wanted.key(), wanted.saving(), who);
    } catch (DataIntegrityViolationException e) {
      // the first try with this key was still at it
      ScheduleService.Saved first = schedule.savedBefore(wanted.key(), wanted.saving(), who);
      if (first == null) {
        throw e;
      }
      return first;
    }
  }

  @PutMapping("/{id}")
  @PreAuthorize("hasAnyRole('WARDEN', 'UNIT_WARDEN', 'HOST')")
  ScheduleService.Saved change(
      @PathVariable String id,
      @RequestBody @Valid ToSave wanted,
      @AuthenticationPrincipal(expression = SignedIn.AS_HOST) SignedIn who) {
    return schedule.change(
        id, wanted.version(), json.valueToTree(wanted.meeting()), wanted.saving(), who);
  }

  /** How many were told. */
  record Told(int sent) {}

  @DeleteMapping("/{id}")
  @PreAuthorize("hasAnyRole('WARDEN', 'UNIT_WARDEN', 'HOST')")
  Told cancel(
      @PathVariable String id,
      @RequestParam @Min(0) long version,
      @RequestParam(defaultValue = "true") boolean send,
      @RequestParam(defaultValue = "") @Size(max = 2000) String word,
      @AuthenticationPrincipal(expression = SignedIn.AS_HOST) SignedIn who) {
    return new Told(schedule.cancel(id, version, send, word, who));
  }

  /** A meeting as a form to change or copy; its passcode is asked for apart. */
  record MeetingFormView(
      long version, Map<String, @Nullable Object> meeting, boolean hasPasscode) {}

  @GetMapping("/{id}/form")
  @PreAuthorize("hasAnyRole('WARDEN', 'UNIT_WARDEN', 'HOST')")
  MeetingFormView form(
      @PathVariable String id,
      @AuthenticationPrincipal(expression = SignedIn.AS_HOST) SignedIn who) {
    StoredMeeting stored = register.get(id, who);
    return new MeetingFormView(
        stored.version(), preview.form(stored), stored.meeting().passcode() != null);
  }

  /** Where one joins it, and the same as text to be passed on. */
  @GetMapping("/{id}/join")
  @PreAuthorize("hasAnyRole('WARDEN', 'UNIT_WARDEN', 'HOST')")
  ScheduleService.JoinView join(
      @PathVariable String id,
      @AuthenticationPrincipal(expression = SignedIn.AS_HOST) SignedIn who) {
    return schedule.join(id, who);
  }

  @GetMapping("/{id}/history")
  @PreAuthorize("isAuthenticated()")
  History.Story history(@PathVariable String id, @AuthenticationPrincipal SignedIn who) {
    return history.of(id, who);
  }

  /** Puts a version back; a host's must be within the limits. */
  @PostMapping("/{id}/restore")
  @PreAuthorize("hasAnyRole('WARDEN', 'UNIT_WARDEN', 'HOST')")
  History.Story restore(
      @PathVariable String id,
      @RequestParam long version,
      @AuthenticationPrincipal(expression = SignedIn.AS_HOST) SignedIn who) {
    schedule.restore(id, version, who);
    return history.of(id, who);
  }

  /** Where invitees stand with it. */
  @GetMapping("/{id}/answers")
  @PreAuthorize("hasAnyRole('WARDEN', 'UNIT_WARDEN', 'AUDITOR', 'HOST')")
  List<Answers.InvitationAnswer> answers(
      @PathVariable String id,
      @AuthenticationPrincipal(expression = SignedIn.AS_HOST) SignedIn who) {
    register.get(id, who);
    return answers.of(id);
  }

  /** What a host wants that the rulebook does not allow; {@code wanted} in its plain form. */
  record WaiverWish(
      @NotBlank @Size(max = 64) String control,
      @Plain @NotNull Object wanted,
      @NotBlank @Size(max = 2000) String reason) {}

  @PostMapping("/{id}/waiver-requests")
  @PreAuthorize("hasAnyRole('UNIT_WARDEN', 'HOST')")
  Told askForWaiver(
      @PathVariable String id,
      @RequestBody @Valid WaiverWish wish,
      @AuthenticationPrincipal(expression = SignedIn.AS_HOST) SignedIn who) {
    StoredMeeting stored = register.get(id, who);
    Control control = Control.byId(wish.control());
    if (control == null) {
      throw ProblemException.invalid(
          "There is no such control.", List.of(new Fault("/control", wish.control())));
    }
    return new Told(
        waivers.ask(stored, control, value(control, wish.wanted()), wish.reason(), who));
  }

  private static Value value(Control control, Object plain) {
    try {
      return control.parse(plain);
    } catch (IllegalArgumentException e) {
      throw ProblemException.invalid(
          "That is no value of it.", List.of(new Fault("/wanted", String.valueOf(e.getMessage()))));
    }
  }

  @GetMapping("/{id}/waiver-requests")
  @PreAuthorize("isAuthenticated()")
  List<WaiverRequests.WaiverRequest> waiverRequests(
      @PathVariable String id, @AuthenticationPrincipal SignedIn who) {
    register.get(id, who);
    return waivers.of(id);
  }

  /** Meetings that were cancelled and could be put back; a host's own. */
  @GetMapping("/cancelled")
  @PreAuthorize("hasAnyRole('WARDEN', 'UNIT_WARDEN', 'AUDITOR', 'HOST')")
  List<MeetingVersions.Cancelled> cancelled(
      @AuthenticationPrincipal(expression = SignedIn.AS_HOST) SignedIn who) {
    return versions.cancelled(500).stream()
        .filter(c -> !who.isHost() || Directory.fold(c.host()).equals(Directory.fold(who.email())))
        .toList();
  }

  /**
   * One act on several meetings.
   *
   * @param act {@code control}, {@code hand-over} or {@code cancel}
   * @param control and {@code value}: what it is set to; a value of null takes it away
   * @param to who hosts them from then on
   * @param send whether those invited to what is cancelled are told
   */
  record ManyActs(
      @NotEmpty @Size(max = 5000) List<@Size(max = 64) @NotBlank String> ids,
      @NotNull @Pattern(regexp = "control|hand-over|cancel") String act,
      @Nullable @Size(max = 64) String control,
      @Plain @Nullable Object value,
      @Nullable @Email @Size(max = 254) String to,
      boolean send,
      @Nullable @Size(max = 2000) String word) {}

  @Takes(kilobytes = 512, costly = true)
  @PostMapping("/many")
  @PreAuthorize("hasRole('WARDEN')")
  BulkMeetings.ManyDone many(
      @RequestBody @Valid ManyActs wanted, @AuthenticationPrincipal SignedIn who) {
    List<String> ids = wanted.ids().stream().distinct().toList();
    return switch (wanted.act()) {
      case "cancel" -> many.cancel(ids, wanted.send(), wanted.word(), who);
      case "hand-over" -> {
        if (wanted.to() == null) {
          throw ProblemException.invalid(
              "Say who is to host them.", List.of(new Fault("/to", "is missing")));
        }
        yield many.handOver(ids, wanted.to(), who);
      }
      default -> {
        Control control = Control.byId(wanted.control());
        if (control == null) {
          throw ProblemException.invalid(
              "There is no such control.",
              List.of(new Fault("/control", String.valueOf(wanted.control()))));
        }
        Object plain = wanted.value();
        yield many.control(ids, control, plain == null ? null : value(control, plain), who);
      }
    };
  }
}
