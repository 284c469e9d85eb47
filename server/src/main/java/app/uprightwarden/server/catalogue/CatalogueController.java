package app.uprightwarden.server.catalogue;

import app.uprightwarden.core.audit.Auditor;
import app.uprightwarden.core.audit.Check;
import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.Family;
import app.uprightwarden.core.control.Scale;
import app.uprightwarden.core.door.DoorStep;
import app.uprightwarden.core.people.Persona;
import app.uprightwarden.core.people.Right;
import app.uprightwarden.core.rulebook.Level;
import app.uprightwarden.server.access.AccessHash;
import java.util.Arrays;
import java.util.List;
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

  private final Catalogue catalogue =
      new Catalogue(
          Arrays.stream(Family.values())
              .map(f -> new FamilyView(f.id(), f.title(), f.shortTitle()))
              .toList(),
          Control.all().stream().map(CatalogueController::view).toList(),
          Auditor.catalogue().stream().map(CatalogueController::view).toList(),
          Persona.all().stream().map(p -> new Named(p.id(), p.phrase())).toList(),
          Right.all().stream().map(r -> new Named(r.id(), r.phrase())).toList(),
          Level.all().stream().map(l -> new Named(l.id(), l.phrase())).toList(),
          Arrays.stream(DoorStep.values()).map(CatalogueController::view).toList());

  /** It changes with the version alone: a page that has it is told so (RFC 9110, section 13). */
  private final String tag = AccessHash.sha256(catalogue.toString());

  @GetMapping
  @PreAuthorize("isAuthenticated()")
  ResponseEntity<Catalogue> catalogue() {
    return ResponseEntity.ok()
        .cacheControl(CacheControl.noCache().cachePrivate())
        .eTag(tag)
        .body(catalogue);
  }

  private static CheckView view(Check check) {
    return new CheckView(
        check.id(),
        check.title(),
        check.summary(),
        check.why(),
        check.mend(),
        check.baseSeverity());
  }

  private static StepView view(DoorStep step) {
    Control control = step.control();
    return new StepView(step.id(), step.title(), control == null ? null : control.id());
  }

  private static ControlView view(Control control) {
    Scale scale = control.scale();
    Scale.Numbers numbers = scale instanceof Scale.Numbers n ? n : null;
    Scale.Sets sets = scale instanceof Scale.Sets s ? s : null;
    return new ControlView(
        control.id(),
        control.family().id(),
        control.title(),
        control.effect(),
        control.risk(),
        numbers != null ? "numbers" : sets != null ? "sets" : "words",
        control.isNeutral(),
        control.inMatrix(),
        control.friction(),
        rungs(scale),
        numbers == null ? null : numbers.unit(),
        numbers == null ? null : numbers.zero(),
        numbers != null && numbers.largerIsStricter(),
        sets != null && sets.emptyIsAll(),
        sets == null || sets.universe() == null ? null : sets.universe().stream().sorted().toList(),
        scale.allowed());
  }

  private static List<RungView> rungs(Scale scale) {
    if (scale instanceof Scale.Words words) {
      return words.rungs().stream().map(r -> new RungView(r.word(), r.label())).toList();
    }
    if (scale instanceof Scale.Numbers numbers && numbers.unlimitedWord() != null) {
      return List.of(new RungView(numbers.unlimitedWord().word(), numbers.unlimitedWord().label()));
    }
    return List.of();
  }
}
