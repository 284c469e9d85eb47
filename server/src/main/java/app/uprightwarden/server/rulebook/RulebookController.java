package app.uprightwarden.server.rulebook;

import app.uprightwarden.server.access.SignedIn;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.security.access.prepost.PreAuthorize;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.databind.json.JsonMapper;

/** The rulebook: read by everybody signed in, drafted and published by wardens. */
@RestController
@RequestMapping("/api/rulebook")
class RulebookController {
  private final RulebookService rulebook;
  private final JsonMapper json;

  RulebookController(RulebookService rulebook, JsonMapper json) {
    this.rulebook = rulebook;
    this.json = json;
  }

  /** An edition; number 0 where nothing has been published yet. */
  record EditionView(
      int number,
      Instant publishedAt,
      String publishedBy,
      String reason,
      Map<String, Object> document) {}

  /** An edition without its rules. */
  record EditionLine(int number, Instant publishedAt, String publishedBy, String reason) {}

  /** A draft. */
  record DraftView(int baseEdition, Instant savedAt, Map<String, Object> document) {}

  /** What to keep as the draft. */
  record DraftToSave(@Min(0) int baseEdition, @NotNull Map<String, Object> document) {}

  /** What to publish; {@code baseEdition} is the one it was drafted from. */
  record ToPublish(
      @Min(0) int baseEdition,
      @NotBlank @Size(max = 2000) String reason,
      @NotNull Map<String, Object> document) {}

  @GetMapping
  @PreAuthorize("isAuthenticated()")
  EditionView inForce() {
    return view(rulebook.inForce());
  }

  /** The starter rulebook, to begin a first draft from. */
  @GetMapping("/starter")
  @PreAuthorize("hasRole('WARDEN')")
  @SuppressWarnings("unchecked")
  Map<String, Object> starter() {
    return json.treeToValue(rulebook.starter(), Map.class);
  }

  @GetMapping("/editions")
  @PreAuthorize("isAuthenticated()")
  List<EditionLine> editions() {
    return rulebook.editions().stream()
        .map(e -> new EditionLine(e.number(), e.publishedAt(), e.publishedBy(), e.reason()))
        .toList();
  }

  @GetMapping("/editions/{number}")
  @PreAuthorize("isAuthenticated()")
  EditionView edition(@PathVariable int number) {
    return view(rulebook.edition(number));
  }

  @PostMapping("/editions")
  @PreAuthorize("hasRole('WARDEN')")
  @ResponseStatus(HttpStatus.CREATED)
  EditionView publish(@RequestBody @Valid ToPublish wanted, @AuthenticationPrincipal SignedIn who) {
    return view(
        rulebook.publish(
            wanted.baseEdition(), json.valueToTree(wanted.document()), wanted.reason(), who));
  }

  @GetMapping("/draft")
  @PreAuthorize("hasRole('WARDEN')")
  ResponseEntity<DraftView> draft(@AuthenticationPrincipal SignedIn who) {
    return rulebook
        .draft(who)
        .map(d -> ResponseEntity.ok(view(d)))
        .orElseGet(() -> ResponseEntity.noContent().build());
  }

  @PutMapping("/draft")
  @PreAuthorize("hasRole('WARDEN')")
  DraftView save(@RequestBody @Valid DraftToSave wanted, @AuthenticationPrincipal SignedIn who) {
    return view(rulebook.save(who, wanted.baseEdition(), json.valueToTree(wanted.document())));
  }

  @DeleteMapping("/draft")
  @PreAuthorize("hasRole('WARDEN')")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void discard(@AuthenticationPrincipal SignedIn who) {
    rulebook.discard(who);
  }

  @SuppressWarnings("unchecked")
  private EditionView view(RulebookService.Edition e) {
    return new EditionView(
        e.number(),
        e.publishedAt(),
        e.publishedBy(),
        e.reason(),
        json.treeToValue(e.document(), Map.class));
  }

  @SuppressWarnings("unchecked")
  private DraftView view(RulebookService.Draft d) {
    return new DraftView(d.baseEdition(), d.savedAt(), json.treeToValue(d.document(), Map.class));
  }
}
