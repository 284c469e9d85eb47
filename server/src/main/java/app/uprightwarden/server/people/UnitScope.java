package app.uprightwarden.server.people;

import app.uprightwarden.core.people.Directory;
import app.uprightwarden.core.people.Person;
import app.uprightwarden.server.access.Role;
import app.uprightwarden.server.access.SignedIn;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;

/** What a unit's warden looks after: that unit, and the units below it. */
@Service
public class UnitScope {
  private final OrganisationService organisation;

  UnitScope(OrganisationService organisation) {
    this.organisation = organisation;
  }

  /** The units somebody is kept to; null where they are not kept to any. */
  public @Nullable Set<String> units(SignedIn who) {
    if (who.role() != Role.UNIT_WARDEN) {
      return null;
    }
    String own = who.unit();
    Directory directory = organisation.directory();
    return organisation.organisation().units().stream()
        .map(Organisation.Unit::id)
        .filter(id -> directory.unitPath(id).contains(own))
        .collect(Collectors.toUnmodifiableSet());
  }

  /** Whether meetings of this host concern somebody. */
  public boolean hasHost(SignedIn who, String host) {
    if (who.role() != Role.UNIT_WARDEN) {
      return true;
    }
    Directory directory = organisation.directory();
    Person person = directory.find(host);
    return person != null && directory.unitPath(person.unit()).contains(who.unit());
  }
}
