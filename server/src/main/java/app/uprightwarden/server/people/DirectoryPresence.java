package app.uprightwarden.server.people;

import app.uprightwarden.core.people.Person;
import app.uprightwarden.server.access.KnownPeople;
import java.util.ArrayList;
import java.util.List;
import org.springframework.stereotype.Component;

/** Tells those who look after accounts what the directory says of people. */
@Component
class DirectoryPresence implements KnownPeople {
  private final OrganisationService organisation;

  DirectoryPresence(OrganisationService organisation) {
    this.organisation = organisation;
  }

  @Override
  public Presence presence(String email) {
    Person person = organisation.directory().find(email);
    if (person == null) {
      return Presence.UNKNOWN;
    }
    return person.active() ? Presence.HERE : Presence.GONE;
  }

  @Override
  public List<String> houseWords() {
    Organisation all = organisation.organisation();
    List<String> words = new ArrayList<>();
    words.add(all.name());
    words.addAll(all.domains());
    all.units().forEach(unit -> words.add(unit.name()));
    return words;
  }

  @Override
  public boolean hasUnit(String id) {
    return organisation.hasUnit(id);
  }
}
