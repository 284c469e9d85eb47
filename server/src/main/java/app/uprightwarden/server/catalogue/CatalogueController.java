package app.uprightwarden.server.catalogue;

import app.uprightwarden.core.audit.Auditor;
import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.Family;
import app.uprightwarden.core.door.DoorStep;
import app.uprightwarden.core.people.Persona;
import app.uprightwarden.core.people.Right;
import app.uprightwarden.core.rulebook.Level;
import app.uprightwarden.server.access.AccessHash;
import app.uprightwarden.server.problem.Languages;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.http.CacheControl;
import org.springframework.http.ResponseEntity;
import org.springframework.security.access.prepost.PreAuthorize;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** The core's declarations, for pages and programs; the same for everybody signed in. */
@RestController
@RequestMapping("/api/catalogue")
class CatalogueController {
  /** Everything that is declared. */
  record Catalogue(
      List<FamilyView> families,
      List<ControlView> controls,
      List<CheckView> checks,
      List<Named> personas,
      List<Named> rights,
      List<Named> levels,
      List<StepView> steps) {}

  record FamilyView(String id, String title, String shortTitle) {}

  /**
   * A control.
   *
   * @param scale {@code words}, {@code numbers} or {@code sets}
   * @param rungs the words in order, loosest first; for numbers the word for no limit, if any
   * @param unit of numbers
   * @param zero what people read for the number 0
   * @param largerIsStricter of numbers
   * @param emptyIsAll of sets
   * @param universe every name a set may hold, or null where any will do
   */
  record ControlView(
      String id,
      String family,
      String title,
      String effect,
      String risk,
      String scale,
      boolean neutral,
      boolean inMatrix,
      int friction,
      List<RungView> rungs,
      @Nullable String unit,
      @Nullable String zero,
      boolean largerIsStricter,
      boolean emptyIsAll,
      @Nullable List<String> universe,
      String allowed) {}

  record RungView(String word, String label) {}

  /** A check; base severity 0 stands for the importance of the rule. */
  record CheckView(
      String id, String title, String summary, String why, String mend, int baseSeverity) {}

  record Named(String id, String phrase) {}

  /** A question of the door, in its order, and the control that answers it, if one does. */
  record StepView(String id, String title, @Nullable String control) {}

  /** In one language, and what tells it from others: it changes with the version alone. */
  private record Worded(Catalogue catalogue, String tag) {}

  private final Map<Locale, Worded> worded =
      Languages.ALL.stream()
          .collect(Collectors.toUnmodifiableMap(language -> language, CatalogueController::in));

  private static Worded in(Locale language) {
    CatalogueTexts texts = new CatalogueTexts(language);
    Catalogue catalogue =
        new Catalogue(
            Arrays.stream(Family.values()).map(texts::family).toList(),
            Control.all().stream().map(texts::control).toList(),
            Auditor.catalogue().stream().map(texts::check).toList(),
            Persona.all().stream().map(p -> texts.named("persona", p.id(), p.phrase())).toList(),
            Right.all().stream().map(r -> texts.named("right", r.id(), r.phrase())).toList(),
            Level.all().stream().map(l -> texts.named("level", l.id(), l.phrase())).toList(),
            Arrays.stream(DoorStep.values()).map(texts::step).toList());
    return new Worded(catalogue, AccessHash.sha256(catalogue.toString()));
  }

  /** A page that has it is told so (RFC 9110, section 13). */
  @GetMapping
  @PreAuthorize("isAuthenticated()")
  ResponseEntity<Catalogue> catalogue(Locale asked) {
    Worded in = Objects.requireNonNull(worded.get(Languages.of(asked)));
    return ResponseEntity.ok()
        .cacheControl(CacheControl.noCache().cachePrivate())
        .varyBy("Accept-Language")
        .eTag(in.tag())
        .body(in.catalogue());
  }
}
