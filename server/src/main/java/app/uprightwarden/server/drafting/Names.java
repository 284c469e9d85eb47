package app.uprightwarden.server.drafting;

import app.uprightwarden.core.rulebook.Scope;
import app.uprightwarden.server.people.Organisation;
import java.util.HashMap;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** Layers by the names people know them by. */
final class Names {
  private final Map<Scope, String> names = new HashMap<>();

  Names(Organisation organisation) {
    organisation.units().forEach(u -> names.put(Scope.unit(u.id()), u.name()));
    organisation.kinds().forEach(k -> names.put(Scope.kind(k.id()), k.name()));
    names.put(Scope.ORGANISATION, "Organisation");
  }

  String of(Scope scope) {
    return names.getOrDefault(scope, scope.toString());
  }

  String unit(@Nullable String id) {
    return id == null || id.isEmpty() ? "no unit" : of(Scope.unit(id));
  }
}
