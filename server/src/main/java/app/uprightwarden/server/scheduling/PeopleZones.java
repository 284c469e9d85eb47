package app.uprightwarden.server.scheduling;

import app.uprightwarden.core.people.Directory;
import app.uprightwarden.server.people.OrganisationService;
import java.time.ZoneId;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * On which clock people live, read for those who are asked about: a directory may have thousands.
 */
final class PeopleZones {
  private final OrganisationService organisation;
  private final Map<String, Optional<ZoneId>> known = new HashMap<>();

  /**
   * @param likely the addresses of those who will be asked about, read at once
   */
  PeopleZones(OrganisationService organisation, Collection<String> likely) {
    this.organisation = organisation;
    List<String> folded = likely.stream().map(Directory::fold).distinct().toList();
    Map<String, ZoneId> zones = organisation.zones(folded);
    folded.forEach(email -> known.put(email, Optional.ofNullable(zones.get(email))));
  }

  /** The zone of an address, however it is written; null where none is known. */
  @Nullable ZoneId of(String email) {
    String folded = Directory.fold(email);
    return known
        .computeIfAbsent(folded, of -> Optional.ofNullable(organisation.zones(List.of(of)).get(of)))
        .orElse(null);
  }
}
