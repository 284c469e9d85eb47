package app.uprightwarden.server.people;

import app.uprightwarden.core.people.Directory;
import app.uprightwarden.core.people.Person;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.json.JsonMapper;

/** The organisation and its people. */
@Service
public class OrganisationService {
  private static final TypeReference<List<String>> STRINGS = new TypeReference<>() {};
  private static final TypeReference<List<Organisation.Partner>> PARTNERS =
      new TypeReference<>() {};

  private final JdbcClient jdbc;
  private final PersonRepository people;
  private final HouseService house;
  private final JsonMapper json;

  OrganisationService(
      JdbcClient jdbc, PersonRepository people, HouseService house, JsonMapper json) {
    this.jdbc = jdbc;
    this.house = house;
    this.people = people;
    this.json = json;
  }

  @Transactional(readOnly = true)
  public Organisation organisation() {
    return jdbc.sql(
            "select name, domains, partners, max_participants, max_minutes from organisation")
        .query(
            (row, n) ->
                new Organisation(
                    row.getString(1),
                    json.readValue(row.getString(2), STRINGS),
                    json.readValue(row.getString(3), PARTNERS),
                    new Organisation.Plan(row.getInt(4), row.getInt(5)),
                    units(),
                    kinds(),
                    gatherings("space"),
                    gatherings("list")))
        .optional()
        .orElse(Organisation.EMPTY);
  }

  private List<Organisation.Unit> units() {
    return jdbc.sql("select id, name, parent from unit order by position")
        .query((r, n) -> new Organisation.Unit(r.getString(1), r.getString(2), r.getString(3)))
        .list();
  }

  private List<Organisation.Kind> kinds() {
    return jdbc.sql("select id, name, confidential from kind order by position")
        .query((r, n) -> new Organisation.Kind(r.getString(1), r.getString(2), r.getBoolean(3)))
        .list();
  }

  private List<Organisation.Gathering> gatherings(String sort) {
    return jdbc.sql("select id, name, members from gathering where sort = ? order by position")
        .param(sort)
        .query(
            (r, n) ->
                new Organisation.Gathering(
                    r.getString(1), r.getString(2), json.readValue(r.getString(3), STRINGS)))
        .list();
  }

  @Transactional(readOnly = true)
  public List<Person> people() {
    return people.inOrder().stream().map(PersonEntity::person).toList();
  }

  /** The directory the core judges with. */
  @Transactional(readOnly = true)
  public Directory directory() {
    return directory(organisation(), people());
  }

  /** A directory of an organisation that need not be stored. */
  public static Directory directory(Organisation organisation, List<Person> people) {
    List<String> partnerDomains = new ArrayList<>();
    organisation.partners().forEach(partner -> partnerDomains.addAll(partner.domains()));
    Map<String, @Nullable String> parents = new HashMap<>();
    organisation.units().forEach(unit -> parents.put(unit.id(), unit.parent()));
    Map<String, List<String>> groups = new HashMap<>();
    organisation.lists().forEach(g -> groups.put("list:" + g.id(), g.members()));
    organisation.spaces().forEach(g -> groups.put("space:" + g.id(), g.members()));
    return new Directory(people, partnerDomains, parents, groups);
  }

  /**
   * Puts the organisation's own facts in place, and adds or changes units, kinds, spaces and lists
   * by their ids. Nothing is removed.
   */
  @Transactional
  public void put(Organisation organisation) {
    jdbc.sql(
            "insert into organisation (id, name, domains, partners, max_participants, max_minutes)"
                + " values (1, ?, ?, ?, ?, ?) on duplicate key update name = values(name),"
                + " domains = values(domains), partners = values(partners),"
                + " max_participants = values(max_participants), max_minutes = values(max_minutes)")
        .params(
            organisation.name(),
            json.writeValueAsString(organisation.domains()),
            json.writeValueAsString(organisation.partners()),
            organisation.plan().maxParticipants(),
            organisation.plan().maxMinutes())
        .update();
    putUnits(organisation.units());
    for (Organisation.Kind kind : organisation.kinds()) {
      jdbc.sql(
              "insert into kind (id, name, confidential) values (?, ?, ?)"
                  + " on duplicate key update name = values(name),"
                  + " confidential = values(confidential)")
          .params(kind.id(), kind.name(), kind.confidential())
          .update();
    }
    putGatherings("space", organisation.spaces());
    putGatherings("list", organisation.lists());
    house.directoryChanged();
  }

  /** Units first without parents: a parent may come later in the list. */
  private void putUnits(List<Organisation.Unit> units) {
    for (Organisation.Unit unit : units) {
      jdbc.sql(
              "insert into unit (id, name) values (?, ?) on duplicate key update name ="
                  + " values(name)")
          .params(unit.id(), unit.name())
          .update();
    }
    for (Organisation.Unit unit : units) {
      jdbc.sql("update unit set parent = :parent where id = :id")
          .param("parent", unit.parent())
          .param("id", unit.id())
          .update();
    }
  }

  private void putGatherings(String sort, List<Organisation.Gathering> gatherings) {
    for (Organisation.Gathering gathering : gatherings) {
      jdbc.sql(
              "insert into gathering (id, sort, name, members) values (?, ?, ?, ?) on duplicate key"
                  + " update name = values(name), members = values(members)")
          .params(
              gathering.id(), sort, gathering.name(), json.writeValueAsString(gathering.members()))
          .update();
    }
  }

  /** Adds or changes people by their address. */
  @Transactional
  public void put(List<Person> changed) {
    Map<String, PersonEntity> known = new HashMap<>();
    people.findAll().forEach(p -> known.put(Directory.fold(p.getId()), p));
    List<PersonEntity> fresh = new ArrayList<>();
    for (Person person : changed) {
      PersonEntity entity = known.get(Directory.fold(person.email()));
      if (entity == null) {
        fresh.add(new PersonEntity(person));
      } else {
        entity.set(person);
      }
    }
    // one by one in order: the position an export follows is given as they are stored
    fresh.forEach(people::saveAndFlush);
    house.directoryChanged();
  }
}
