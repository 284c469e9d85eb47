package app.uprightwarden.server.remedies;

import app.uprightwarden.core.people.Directory;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.limits.Takes;
import app.uprightwarden.server.schema.Plain;
import app.uprightwarden.server.waivers.WaiverRequests;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.security.access.prepost.PreAuthorize;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** What hosts are asked: by wardens, answered by the hosts themselves. */
@Takes(kilobytes = 1024)
@RestController
@RequestMapping("/api/host-requests")
class HostRequestController {
  private static final String READERS = "hasAnyRole('WARDEN', 'UNIT_WARDEN', 'AUDITOR')";
  private static final String ASKERS = "hasAnyRole('WARDEN', 'UNIT_WARDEN')";

  private final HostRequests requests;
  private final HostAnswers answers;
  private final RemedyService remedies;
  private final RequestRows rows;

  HostRequestController(
      HostRequests requests, HostAnswers answers, RemedyService remedies, RequestRows rows) {
    this.requests = requests;
    this.answers = answers;
    this.remedies = remedies;
    this.rows = rows;
  }

  /** What to ask about: meetings, or single findings in them. */
  record AskForm(
      @NotNull @Size(min = 1, max = 5000) List<RemedyController.@Valid @NotNull TargetForm> targets,
      @Nullable @Size(max = 2000) String note) {}

  /** A host's word; see {@link HostRequests.Answer}. */
  record AnswerForm(
      @NotNull @Size(max = 1000) String answer,
      @Plain @Nullable @Size(max = 200) Map<String, Object> controls,
      @Nullable @Size(max = 2000) String reason) {}

  /** See {@link RequestRows.AskingSettings}; what is left out stays as it is. */
  record AskingForm(
      @Nullable @Min(1) @Max(60) Integer remindDays,
      @Nullable @Min(0) @Max(90) Integer applyAfterDays) {}

  @PostMapping
  @PreAuthorize(ASKERS)
  HostRequests.HostsAsked ask(
      @RequestBody @Valid AskForm form, @AuthenticationPrincipal SignedIn who) {
    return remedies.ask(
        form.targets().stream().map(RemedyController.TargetForm::target).toList(),
        form.note() == null ? "" : form.note(),
        who);
  }

  @GetMapping
  @PreAuthorize(READERS)
  List<RequestRows.HostRequest> open(@AuthenticationPrincipal SignedIn who) {
    return requests.openFor(who);
  }

  /** What is asked of whoever asks. */
  @GetMapping("/mine")
  @PreAuthorize("hasAnyRole('WARDEN', 'UNIT_WARDEN', 'AUDITOR', 'HOST')")
  List<RequestRows.HostRequest> mine(
      @AuthenticationPrincipal(expression = SignedIn.AS_HOST) SignedIn who) {
    return requests.openOf(Directory.fold(who.email()));
  }

  @PostMapping("/items/{id}/answer")
  @PreAuthorize("hasAnyRole('WARDEN', 'UNIT_WARDEN', 'AUDITOR', 'HOST')")
  RequestRows.AskedItem answer(
      @PathVariable long id,
      @RequestBody @Valid AnswerForm form,
      @AuthenticationPrincipal(expression = SignedIn.AS_HOST) SignedIn who) {
    return answers.answer(
        id, new HostRequests.Answer(form.answer(), form.controls(), form.reason()), who);
  }

  /** Applies what a host proposed, and closes it. */
  @PostMapping("/items/{id}/accept")
  @PreAuthorize(ASKERS)
  RequestRows.AskedItem accept(@PathVariable long id, @AuthenticationPrincipal SignedIn who) {
    return answers.accept(id, who);
  }

  /** Closes what a host answered, without doing anything about it. */
  @PostMapping("/items/{id}/close")
  @PreAuthorize(ASKERS)
  RequestRows.AskedItem close(@PathVariable long id, @AuthenticationPrincipal SignedIn who) {
    requests.settle(id, who);
    return rows.get(id);
  }

  @GetMapping("/settings")
  @PreAuthorize(READERS)
  RequestRows.AskingSettings settings() {
    return rows.settings();
  }

  @PutMapping("/settings")
  @PreAuthorize("hasRole('WARDEN')")
  RequestRows.AskingSettings set(@RequestBody @Valid AskingForm form) {
    return rows.set(form.remindDays(), form.applyAfterDays());
  }

  /** The answer to a host who asked for a waiver; {@code until} where it is granted. */
  record WaiverAnswer(
      boolean granted, @NotNull @Size(max = 2000) String answer, @Nullable Instant until) {}

  @PostMapping("/waivers/{id}/answer")
  @PreAuthorize("hasRole('WARDEN')")
  WaiverRequests.WaiverRequest answerWaiver(
      @PathVariable long id,
      @RequestBody @Valid WaiverAnswer form,
      @AuthenticationPrincipal SignedIn who) {
    return answers.answerWaiver(id, form.granted(), form.answer(), form.until(), who);
  }
}
