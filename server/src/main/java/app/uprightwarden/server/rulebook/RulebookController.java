package app.uprightwarden.server.rulebook;

import app.uprightwarden.server.access.SignedIn;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.security.access.prepost.PreAuthorize;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** The rulebook's editions: read by everybody signed in. Drafts are another matter. */
@RestController
@RequestMapping("/api/rulebook")
class RulebookController {
  private final RulebookService rulebook;

  RulebookController(RulebookService rulebook) {
    this.rulebook = rulebook;
  }

  /** An edition without its rules; number 0 where nothing has been published yet. */
  record EditionLine(
      int number,
      Instant publishedAt,
      Instant effectiveAt,
      String publishedBy,
      @Nullable String consentBy,
      String reason,
      @Nullable Instant withdrawnAt,
      @Nullable String withdrawnBy) {
    static EditionLine of(RulebookService.Edition e) {
      return new EditionLine(
          e.number(),
          e.publishedAt(),
          e.effectiveAt(),
          e.publishedBy(),
          e.consentBy(),
          e.reason(),
          e.withdrawnAt(),
          e.withdrawnBy());
    }
  }

  /**
   * An edition with its rules in their one order.
   *
   * @param next the number that the next edition will have
   * @param toCome the edition that is to come into force after this one
   */
  record EditionView(
      int number,
      Instant publishedAt,
      Instant effectiveAt,
      String publishedBy,
      String reason,
      int next,
      Map<String, Object> document,
      @Nullable EditionLine toCome) {}

  @GetMapping
  @PreAuthorize("isAuthenticated()")
  EditionView inForce() {
    return view(rulebook.inForce(), rulebook.toCome().map(EditionLine::of).orElse(null));
  }

  @GetMapping("/editions")
  @PreAuthorize("isAuthenticated()")
  List<EditionLine> editions() {
    return rulebook.editions().stream().map(EditionLine::of).toList();
  }

  @GetMapping("/editions/{number}")
  @PreAuthorize("isAuthenticated()")
  EditionView edition(@PathVariable int number) {
    return view(rulebook.edition(number), null);
  }

  /** Takes back an edition that has not come into force. */
  @PostMapping("/editions/{number}/withdraw")
  @PreAuthorize("hasRole('WARDEN')")
  EditionLine withdraw(@PathVariable int number, @AuthenticationPrincipal SignedIn who) {
    return EditionLine.of(rulebook.withdraw(number, who));
  }

  private EditionView view(RulebookService.Edition e, @Nullable EditionLine toCome) {
    return new EditionView(
        e.number(),
        e.publishedAt(),
        e.effectiveAt(),
        e.publishedBy(),
        e.reason(),
        rulebook.nextNumber(),
        RulebookWriter.plain(rulebook.rulebook(e)),
        toCome);
  }
}
