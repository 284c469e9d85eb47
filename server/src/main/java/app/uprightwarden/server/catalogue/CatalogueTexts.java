package app.uprightwarden.server.catalogue;

import app.uprightwarden.core.audit.Check;
import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.Family;
import app.uprightwarden.core.control.Scale;
import app.uprightwarden.core.door.DoorStep;
import app.uprightwarden.server.judging.DeclaredTexts;
import java.util.List;
import java.util.Locale;

/** The catalogue's parts in one language. */
final class CatalogueTexts {
  private final DeclaredTexts texts;

  CatalogueTexts(Locale language) {
    texts = new DeclaredTexts(language);
  }

  private String text(String key, String english) {
    return texts.text(key, english);
  }

  CatalogueController.FamilyView family(Family family) {
    String key = "family." + family.id();
    String title = text(key + ".title", family.title());
    boolean isShort = !family.shortTitle().equals(family.title());
    return new CatalogueController.FamilyView(
        family.id(), title, isShort ? text(key + ".short", family.shortTitle()) : title);
  }

  CatalogueController.Named named(String what, String id, String phrase) {
    return new CatalogueController.Named(id, text(what + "." + id, phrase));
  }

  CatalogueController.CheckView check(Check check) {
    String key = "check." + check.id();
    return new CatalogueController.CheckView(
        check.id(),
        text(key + ".title", check.title()),
        text(key + ".summary", check.summary()),
        text(key + ".why", check.why()),
        text(key + ".mend", check.mend()),
        check.baseSeverity());
  }

  CatalogueController.StepView step(DoorStep step) {
    Control control = step.control();
    return new CatalogueController.StepView(
        step.id(), text("step." + step.id(), step.title()), control == null ? null : control.id());
  }

  CatalogueController.ControlView control(Control control) {
    String key = "control." + control.id();
    Scale scale = control.scale();
    Scale.Numbers numbers = scale instanceof Scale.Numbers n ? n : null;
    Scale.Sets sets = scale instanceof Scale.Sets s ? s : null;
    return new CatalogueController.ControlView(
        control.id(),
        control.family().id(),
        text(key + ".title", control.title()),
        text(key + ".effect", control.effect()),
        text(key + ".risk", control.risk()),
        numbers != null ? "numbers" : sets != null ? "sets" : "words",
        control.isNeutral(),
        control.inMatrix(),
        control.friction(),
        rungs(key, scale),
        numbers == null || numbers.unit() == null ? null : text(key + ".unit", numbers.unit()),
        numbers == null || numbers.zero() == null ? null : text(key + ".zero", numbers.zero()),
        numbers != null && numbers.largerIsStricter(),
        sets != null && sets.emptyIsAll(),
        sets == null || sets.universe() == null ? null : sets.universe().stream().sorted().toList(),
        scale.allowed());
  }

  private List<CatalogueController.RungView> rungs(String key, Scale scale) {
    if (scale instanceof Scale.Words words) {
      return words.rungs().stream().map(r -> rung(key, r.word(), r.label())).toList();
    }
    if (scale instanceof Scale.Numbers numbers && numbers.unlimitedWord() != null) {
      return List.of(rung(key, numbers.unlimitedWord().word(), numbers.unlimitedWord().label()));
    }
    return List.of();
  }

  private CatalogueController.RungView rung(String key, String word, String label) {
    return new CatalogueController.RungView(word, text(key + ".value." + word, label));
  }
}
