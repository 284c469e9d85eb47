package app.uprightwarden.server.outbox;

import app.uprightwarden.server.access.Role;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.problem.ProblemException;
import jakarta.validation.constraints.Pattern;
import jakarta.validation.constraints.Size;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.security.access.prepost.PreAuthorize;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Reading what went out. */
@RestController
@RequestMapping("/api/outbox")
class OutboxController {
  private static final int MAX = 500;

  private final OutboxService outbox;

  OutboxController(OutboxService outbox) {
    this.outbox = outbox;
  }

  /**
   * The newest 500 of those that are asked for.
   *
   * @param about only messages about this, such as {@code edition:4}; all where left out
   * @param text part of whom they went to, or of their subject
   * @param state {@code kept}, {@code waiting}, {@code sent} or {@code failed}
   * @param from written then or later; {@code to} before that
   */
  @GetMapping
  @PreAuthorize("hasAnyRole('WARDEN', 'AUDITOR')")
  List<OutboxService.Kept> messages(
      @RequestParam(defaultValue = "") String about,
      @RequestParam(defaultValue = "") @Size(max = 200) String text,
      @RequestParam(defaultValue = "") @Pattern(regexp = "(kept|waiting|sent|failed)?")
          String state,
      @RequestParam(required = false) @Nullable Instant from,
      @RequestParam(required = false) @Nullable Instant to,
      @AuthenticationPrincipal SignedIn who) {
    return outbox.newest(
        new OutboxService.Wanted(about, text, state, from, to), MAX, who.role() == Role.WARDEN);
  }

  /** The message as mail programs read it (RFC 5322). */
  @GetMapping(value = "/{id}/mail", produces = "message/rfc822")
  @PreAuthorize("hasAnyRole('WARDEN', 'AUDITOR')")
  ResponseEntity<byte[]> mail(@PathVariable long id, @AuthenticationPrincipal SignedIn who) {
    byte[] raw =
        outbox
            .raw(id, who.role() == Role.WARDEN)
            .orElseThrow(() -> ProblemException.notFound("There is no such message."));
    return ResponseEntity.ok()
        .contentType(MediaType.parseMediaType("message/rfc822"))
        .header("Content-Disposition", "attachment; filename=\"message-" + id + ".eml\"")
        .body(raw);
  }
}
