package app.uprightwarden.server.scheduling;

import app.uprightwarden.core.rulebook.Scope;
import app.uprightwarden.server.people.Organisation;

/** Layers by the names people know. */
final class LayerNames {
  private LayerNames() {}

  static String of(Scope scope, Organisation organisation) {
    if (scope.equals(Scope.ORGANISATION)) {
      return "Organisation";
    }
    return organisation.units().stream()
        .filter(unit -> Scope.unit(unit.id()).equals(scope))
        .map(Organisation.Unit::name)
        .findFirst()
        .or(
            () ->
                organisation.kinds().stream()
                    .filter(kind -> Scope.kind(kind.id()).equals(scope))
                    .map(Organisation.Kind::name)
                    .findFirst())
        .orElse(scope.toString());
  }
}
