package app.uprightwarden.server.drafting;

import app.uprightwarden.core.rulebook.Rulebook;
import app.uprightwarden.core.rulebook.Scope;
import app.uprightwarden.server.access.Role;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.people.UnitScope;
import app.uprightwarden.server.problem.Fault;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.rulebook.LayerName;
import app.uprightwarden.server.rulebook.RulebookWriter;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import org.springframework.stereotype.Component;

/**
 * What a unit's warden may do with drafts: their own ones, begun from what is in force, changed in
 * the layers of their unit and those below it. Publishing is for administrators.
 */
@Component
class UnitDrafts {
  private final UnitScope units;
  private final DraftService drafts;

  UnitDrafts(UnitScope units, DraftService drafts) {
    this.units = units;
    this.drafts = drafts;
  }

  boolean mayOpen(Draft draft, SignedIn who) {
    return who.role() != Role.UNIT_WARDEN || draft.madeBy().equals(who.email());
  }

  /**
   * @throws ProblemException 404 where it is not theirs
   */
  void check(long id, SignedIn who) {
    if (drafts.find(id).filter(d -> !mayOpen(d, who)).isPresent()) {
      throw ProblemException.notFound("There is no draft " + id + " for you.");
    }
  }

  void checkBeginning(String from, SignedIn who) {
    if (who.role() == Role.UNIT_WARDEN && !from.equals("in-force")) {
      throw ProblemException.forbidden(
          "not-your-unit", "Begin from the edition in force; other units' rules stay as they are.");
    }
  }

  void checkLayers(List<DraftService.Edit> edits, SignedIn who) {
    List<Fault> faults = new ArrayList<>();
    for (int i = 0; i < edits.size(); i++) {
      if (!isTheirs(LayerName.parse(edits.get(i).layer()), who)) {
        faults.add(new Fault("/edits/" + i + "/layer", "is not a layer of your unit"));
      }
    }
    refuse(faults);
  }

  /** A rulebook to be looked at may differ from the one in force in their layers only. */
  void checkDocument(Rulebook document, Rulebook inForce, SignedIn who) {
    Map<Scope, Object> before = byScope(inForce);
    Map<Scope, Object> after = byScope(document);
    Set<Scope> all = new HashSet<>(before.keySet());
    all.addAll(after.keySet());
    refuse(
        all.stream()
            .filter(layer -> !Objects.equals(before.get(layer), after.get(layer)))
            .filter(layer -> !isTheirs(layer, who))
            .map(layer -> new Fault("/document/layers", layer + " is not of your unit"))
            .toList());
  }

  /** Each layer as it is written out, in the one order that equal ones have. */
  private static Map<Scope, Object> byScope(Rulebook rulebook) {
    Map<Scope, Object> layers = new HashMap<>();
    rulebook
        .layers()
        .forEach(l -> layers.put(l.scope(), RulebookWriter.plain(new Rulebook(List.of(l)))));
    return layers;
  }

  private boolean isTheirs(Scope layer, SignedIn who) {
    Set<String> only = units.units(who);
    return only == null
        || (layer.level() == Scope.Level.UNIT && only.contains(String.valueOf(layer.id())));
  }

  private static void refuse(List<Fault> faults) {
    if (!faults.isEmpty()) {
      throw new ProblemException(
          org.springframework.http.HttpStatus.FORBIDDEN,
          "not-your-unit",
          "You draft rules for your unit. Nothing was changed.",
          faults);
    }
  }
}
