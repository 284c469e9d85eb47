package app.uprightwarden.server.people;

import app.uprightwarden.core.people.Directory;
import app.uprightwarden.core.people.Person;
import app.uprightwarden.server.ledger.Ledger;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.RowCallbackHandler;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionSynchronizationManager;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.json.JsonMapper;

/** The organisation and its people. */
@Service
public class OrganisationService {
  private static final TypeReference<List<String>> STRINGS = new TypeReference<>() {};
  private static final TypeReference<List<Organisation.Partner>> PARTNERS =
      new TypeReference<>() {};

  /** Whoever asks is known to the ledger; without a request it is the program itself. */
  private static final String BY = "upright-warden";

  private static final Map<String, String> WORDS =
      Map.of("people", "person", "lists", "group", "spaces", "group", "rooms", "room");

  private final JdbcClient jdbc;
  private final PersonRepository people;
  private final HouseService house;
  private final Ledger ledger;
  private final JsonMapper json;
  private volatile @Nullable Known known;

  OrganisationService(
      JdbcClient jdbc,
      PersonRepository people,
      HouseService house,
      Ledger ledger,
      JsonMapper json) {
    this.jdbc = jdbc;
    this.house = house;
    this.ledger = ledger;
    this.people = people;
    this.json = json;
  }

  /** All of it as one revision has it. */
  private record Known(
      long revision, Organisation organisation, List<Person> people, Directory directory) {}

  /**
   * What is there now; read again only where the revision is another. What a transaction that
   * writes sees need never have been true for others, and is not kept.
   */
  private Known known() {
    long revision = house.directoryRevision();
    Known kept = known;
    if (kept != null && kept.revision() == revision) {
      return kept;
    }
    Organisation all = read();
    List<Person> persons = people.inOrder().stream().map(PersonEntity::person).toList();
    Known fresh = new Known(revision, all, persons, directory(all, persons));
    if (TransactionSynchronizationManager.isCurrentTransactionReadOnly()) {
      known = fresh;
    }
    return fresh;
  }

  @Transactional(readOnly = true)
  public Organisation organisation() {
    return known().organisation();
  }

  private Organisation read() {
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
                    gatherings("list"),
                    rooms()))
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

  private List<Organisation.Room> rooms() {
    return jdbc.sql("select id, name, email, seats from room order by position")
        .query(
            (r, n) ->
                new Organisation.Room(r.getString(1), r.getString(2), r.getString(3), r.getInt(4)))
        .list();
  }

  @Transactional(readOnly = true)
  public List<Person> people() {
    return known().people();
  }

  /** The zones of those people whose zone is known, by folded address. */
  @Transactional(readOnly = true)
  public Map<String, ZoneId> zones() {
    Map<String, ZoneId> zones = new HashMap<>();
    jdbc.sql("select folded, zone from person where zone is not null")
        .query(
            (RowCallbackHandler) row -> zones.put(row.getString(1), ZoneId.of(row.getString(2))));
    return zones;
  }

  /** Sets people's zones, by folded address; of others nothing changes. */
  @Transactional
  public void putZones(Map<String, ZoneId> zones) {
    zones.forEach(
        (email, zone) ->
            jdbc.sql("update person set zone = ? where folded = ?")
                .params(zone.getId(), email)
                .update());
  }

  /** Sets or takes away one person's zone, by folded address. */
  @Transactional
  public void setZone(String email, @Nullable ZoneId zone) {
    jdbc.sql("update person set zone = :zone where folded = :email")
        .param("zone", zone == null ? null : zone.getId())
        .param("email", email)
        .update();
  }

  /** How many meetings refer to a list, space or room. */
  @Transactional(readOnly = true)
  public int uses(String part, String id) {
    String sql =
        switch (part) {
          case "lists" -> "select count(*) from meeting where json_contains(lists, json_quote(?))";
          case "spaces" -> "select count(*) from meeting where space = ?";
          default -> "select count(*) from meeting where room = ?";
        };
    return jdbc.sql(sql).param(id).query(Integer.class).single();
  }

  /** Takes a person, list, space or room away, as taking back an import does. */
  @Transactional
  public void remove(String part, String id) {
    Object before = part(part, id);
    if (before != null) {
      ledger.changed(WORDS.getOrDefault(part, part), id, id, () -> before, null, BY);
    }
    switch (part) {
      case "people" ->
          jdbc.sql("delete from person where folded = ?").param(Directory.fold(id)).update();
      case "lists", "spaces" ->
          jdbc.sql("delete from gathering where sort = ? and id = ?")
              .params(part.equals("lists") ? "list" : "space", id)
              .update();
      case "rooms" -> {
        jdbc.sql("update meeting set room = null where room = ?").param(id).update();
        jdbc.sql("delete from room where id = ?").param(id).update();
      }
      default -> throw new IllegalArgumentException("nothing of the sort " + part);
    }
    house.directoryChanged();
  }

  /** What stands under an id, as the ledger writes it; null where nothing does. */
  private @Nullable Object part(String part, String id) {
    return switch (part) {
      case "people" ->
          people.findAll().stream()
              .filter(p -> Directory.fold(p.getId()).equals(Directory.fold(id)))
              .findFirst()
              .map(PersonEntity::person)
              .orElse(null);
      case "rooms" ->
          rooms().stream().filter(room -> room.id().equals(id)).findFirst().orElse(null);
      default ->
          gatherings(part.equals("lists") ? "list" : "space").stream()
              .filter(gathering -> gathering.id().equals(id))
              .findFirst()
              .orElse(null);
    };
  }

  private void note(String part, String id, String title, Object after) {
    Object before = part(part, id);
    if (!after.equals(before)) {
      ledger.changed(
          WORDS.getOrDefault(part, part),
          id,
          title,
          before == null ? null : () -> before,
          () -> after,
          BY);
    }
  }

  /** The organisation's own facts, without its lists, spaces and rooms. */
  private static Organisation facts(Organisation all) {
    return new Organisation(
        all.name(),
        all.domains(),
        all.partners(),
        all.plan(),
        all.units(),
        all.kinds(),
        List.of(),
        List.of(),
        List.of());
  }

  /** Puts one list or space in place. */
  @Transactional
  public void putGathering(String sort, Organisation.Gathering gathering) {
    note(sort + "s", gathering.id(), gathering.name(), gathering);
    putGatherings(sort, List.of(gathering));
    house.directoryChanged();
  }

  /** Puts one room in place. */
  @Transactional
  public void putRoom(Organisation.Room room) {
    note("rooms", room.id(), room.name(), room);
    putRooms(List.of(room));
    house.directoryChanged();
  }

  /** The directory the core judges with. */
  @Transactional(readOnly = true)
  public Directory directory() {
    return known().directory();
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
    Organisation before = facts(organisation());
    Organisation after = facts(organisation);
    if (!after.equals(before)) {
      ledger.changed("house", "1", after.name(), () -> before, () -> after, BY);
    }
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
    putRooms(organisation.rooms());
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

  private void putRooms(List<Organisation.Room> rooms) {
    for (Organisation.Room room : rooms) {
      jdbc.sql(
              "insert into room (id, name, email, seats) values (?, ?, ?, ?) on duplicate key"
                  + " update name = values(name), email = values(email), seats = values(seats)")
          .params(room.id(), room.name(), room.email(), room.seats())
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
      Person before = entity == null ? null : entity.person();
      if (!person.equals(before)) {
        ledger.changed(
            "person",
            Directory.fold(person.email()),
            person.name(),
            before == null ? null : () -> before,
            () -> person,
            BY);
      }
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
