package app.uprightwarden.server.people;

import app.uprightwarden.core.people.Directory;
import app.uprightwarden.core.people.Person;
import app.uprightwarden.server.ledger.Ledger;
import app.uprightwarden.server.problem.Fault;
import app.uprightwarden.server.problem.ProblemException;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.UUID;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionSynchronizationManager;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.json.JsonMapper;

/** The organisation and its people. */
@Service
public class OrganisationService {
  /** How many people a list or a space holds at most. */
  static final int MAX_MEMBERS = 20_000;

  private static final int AT_ONCE = 1000;
  private static final TypeReference<List<String>> STRINGS = new TypeReference<>() {};
  private static final TypeReference<List<Organisation.Partner>> PARTNERS =
      new TypeReference<>() {};

  /** Whoever asks is known to the ledger; without a request it is the program itself. */
  private static final String BY = "upright-warden";

  private static final Map<String, String> WORDS =
      Map.of("people", "person", "lists", "group", "spaces", "group", "rooms", "room");

  private final DirectoryRepository directory;
  private final ObjectProvider<UsedByMeetings> meetings;
  private final SettingsService settings;
  private final Ledger ledger;
  private final JsonMapper json;
  private volatile @Nullable Known known;

  OrganisationService(
      DirectoryRepository directory,
      ObjectProvider<UsedByMeetings> meetings,
      SettingsService settings,
      Ledger ledger,
      JsonMapper json) {
    this.directory = directory;
    this.meetings = meetings;
    this.settings = settings;
    this.ledger = ledger;
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
    long revision = settings.directoryRevision();
    Known kept = known;
    if (kept != null && kept.revision() == revision) {
      return kept;
    }
    Organisation all = read();
    List<Person> persons = directory.people().stream().map(PersonEntity::person).toList();
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
    return directory
        .organisation()
        .map(
            row ->
                new Organisation(
                    row.name,
                    json.readValue(row.domains, STRINGS),
                    json.readValue(row.partners, PARTNERS),
                    new Organisation.Plan(row.maxParticipants, row.maxMinutes),
                    units(),
                    kinds(),
                    gatherings("space"),
                    gatherings("list"),
                    rooms()))
        .orElse(Organisation.EMPTY);
  }

  private List<Organisation.Unit> units() {
    return directory.units().stream()
        .map(row -> new Organisation.Unit(row.id, row.name, row.parent))
        .toList();
  }

  private List<Organisation.Kind> kinds() {
    return directory.kinds().stream()
        .map(row -> new Organisation.Kind(row.id, row.name, row.confidential))
        .toList();
  }

  private List<Organisation.Gathering> gatherings(String sort) {
    return directory.gatherings(sort).stream()
        .map(
            row ->
                new Organisation.Gathering(row.id, row.name, json.readValue(row.members, STRINGS)))
        .toList();
  }

  private List<Organisation.Room> rooms() {
    return directory.rooms().stream()
        .map(row -> new Organisation.Room(row.id, row.name, row.email, row.seats))
        .toList();
  }

  @Transactional(readOnly = true)
  public List<Person> people() {
    return known().people();
  }

  /** The zones of those people whose zone is known, by folded address. */
  @Transactional(readOnly = true)
  public Map<String, ZoneId> zones() {
    Map<String, ZoneId> zones = new HashMap<>();
    directory
        .peopleWithZone()
        .forEach(row -> zones.put(row.folded, ZoneId.of(String.valueOf(row.zone))));
    return zones;
  }

  /** The same for some of them. */
  @Transactional(readOnly = true)
  public Map<String, ZoneId> zones(Collection<String> folded) {
    Map<String, ZoneId> zones = new HashMap<>();
    inParts(
        List.copyOf(folded),
        some ->
            directory.people(some).stream()
                .filter(row -> row.zone != null)
                .forEach(row -> zones.put(row.folded, ZoneId.of(String.valueOf(row.zone)))));
    return zones;
  }

  /** Sets people's zones, or takes them away, by folded address; of others nothing changes. */
  @Transactional
  public void putZones(Map<String, ? extends @Nullable ZoneId> zones) {
    inParts(
        List.copyOf(zones.keySet()),
        some -> {
          List<PersonEntity> rows = directory.people(some);
          for (PersonEntity row : rows) {
            ZoneId zone = zones.get(row.folded);
            row.zone = zone == null ? null : zone.getId();
          }
          directory.update(rows);
        });
  }

  /** Something done with so many at a time: lists in questions have their limits. */
  private static <T> void inParts(List<T> all, Consumer<List<T>> part) {
    for (int i = 0; i < all.size(); i += AT_ONCE) {
      part.accept(all.subList(i, Math.min(i + AT_ONCE, all.size())));
    }
  }

  /** Sets or takes away one person's zone, by folded address. */
  @Transactional
  public void setZone(String email, @Nullable ZoneId zone) {
    directory.setZone(email, zone == null ? null : zone.getId());
  }

  /** How many meetings refer to a list, space or room. */
  @Transactional(readOnly = true)
  public int uses(String part, String id) {
    return meetings.getObject().count(part, id);
  }

  /** Takes people, lists, spaces or rooms away, a thousand at a time, as taking back does. */
  @Transactional
  public void removeAll(String part, List<String> ids) {
    for (Map.Entry<String, Object> before : parts(part, ids).entrySet()) {
      ledger.changed(
          WORDS.getOrDefault(part, part),
          before.getKey(),
          before.getKey(),
          before::getValue,
          null,
          BY);
    }
    switch (part) {
      case "people" -> directory.deletePeople(ids.stream().map(Directory::fold).toList());
      case "lists", "spaces" -> directory.deleteGatherings(sort(part), ids);
      case "rooms" -> {
        ids.forEach(meetings.getObject()::leaveRoom);
        directory.deleteRooms(ids);
      }
      default -> throw new IllegalArgumentException("nothing of the sort " + part);
    }
    settings.directoryChanged();
  }

  private static String sort(String part) {
    return part.equals("lists") ? "list" : "space";
  }

  /** What stands under some ids, as the ledger writes it, in their order. */
  private Map<String, Object> parts(String part, List<String> ids) {
    Map<String, Object> all = new HashMap<>();
    switch (part) {
      case "people" ->
          directory
              .people(ids.stream().map(Directory::fold).toList())
              .forEach(row -> all.put(row.folded, row.person()));
      case "rooms" -> rooms().forEach(room -> all.put(room.id(), room));
      default -> gatherings(sort(part)).forEach(group -> all.put(group.id(), group));
    }
    Map<String, Object> found = new LinkedHashMap<>();
    for (String id : ids) {
      Object thing = all.get(part.equals("people") ? Directory.fold(id) : id);
      if (thing != null) {
        found.put(id, thing);
      }
    }
    return found;
  }

  private void note(String part, String id, String title, Object after) {
    Object before = parts(part, List.of(id)).get(id);
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

  /** What tells whether the organisation's own facts are still as somebody saw them. */
  String mark(Organisation all) {
    return UUID.nameUUIDFromBytes(json.writeValueAsBytes(facts(all))).toString();
  }

  /**
   * Puts the organisation's own facts in place, as {@link #put(Organisation)} does.
   *
   * @param seen the mark of what they were when they were looked at; null does not ask
   * @throws ProblemException 409 where somebody changed them since
   */
  @Transactional
  public void change(Organisation wanted, @Nullable String seen) {
    directory.lockOrganisation();
    if (seen != null && !seen.equals(mark(read()))) {
      throw ProblemException.conflict(
          "changed-meanwhile",
          "Somebody has changed the organisation since you opened it. Look at what it is now, and"
              + " change it again. Nothing was saved.");
    }
    put(wanted);
  }

  /** Puts one list or space in place. */
  @Transactional
  public void putGathering(String sort, Organisation.Gathering gathering) {
    note(sort + "s", gathering.id(), gathering.name(), gathering);
    putGatherings(sort, List.of(gathering));
    settings.directoryChanged();
  }

  /**
   * Names a list or a space, adds to it and takes out of it. What others added or took out since
   * somebody looked at it stays.
   *
   * @param sort {@code list} or {@code space}
   * @param name what it is to be called; null leaves that as it is
   * @throws ProblemException 404 where it is gone, 422 where it would hold too many
   */
  @Transactional
  public Organisation.Gathering changeGathering(
      String sort, String id, @Nullable String name, List<String> add, List<String> remove) {
    GatheringEntity row =
        directory
            .lockedGathering(sort, id)
            .orElseThrow(
                () -> ProblemException.notFound("There is none with the id " + id + " any more."));
    Map<String, String> members = new LinkedHashMap<>();
    json.readValue(row.members, STRINGS).forEach(each -> members.put(Directory.fold(each), each));
    remove.forEach(each -> members.remove(Directory.fold(each)));
    add.forEach(each -> members.putIfAbsent(Directory.fold(each), each));
    if (members.size() > MAX_MEMBERS) {
      throw ProblemException.invalid(
          "It would hold too many people. Nothing was changed.",
          List.of(
              new Fault(
                  "/add",
                  "makes " + members.size() + " members; a list holds up to " + MAX_MEMBERS)));
    }
    Organisation.Gathering gathering =
        new Organisation.Gathering(
            id, name == null ? row.name : name, List.copyOf(members.values()));
    putGathering(sort, gathering);
    return gathering;
  }

  /**
   * Asks that nothing stands under an id yet, and keeps others who ask the same from putting
   * something there before this transaction ends.
   *
   * @throws ProblemException 412 where something does
   */
  private void refuseKnown(String part, String id) {
    directory.lockOrganisation();
    if (!parts(part, List.of(id)).isEmpty()) {
      throw new ProblemException(
          HttpStatus.PRECONDITION_FAILED,
          "there-already",
          part.equals("people")
              ? "Somebody with this address is in the directory already: change their entry."
                  + " Nothing was changed."
              : "There is one with this id already: choose another id. Nothing was changed.");
    }
  }

  /** Puts a room in place where there is none with its id yet. */
  @Transactional
  public void addRoom(Organisation.Room room) {
    refuseKnown("rooms", room.id());
    putRoom(room);
  }

  /** Puts a list or space in place where there is none with its id yet. */
  @Transactional
  public void addGathering(String sort, Organisation.Gathering gathering) {
    refuseKnown(sort + "s", gathering.id());
    putGathering(sort, gathering);
  }

  /** Puts somebody in place, with their zone, where nobody has their address yet. */
  @Transactional
  public void add(Person person, @Nullable ZoneId zone) {
    refuseKnown("people", person.email());
    put(List.of(person));
    setZone(Directory.fold(person.email()), zone);
  }

  /**
   * Puts somebody in place, with their zone.
   *
   * @param seen what their entry was when it was looked at; null does not ask
   * @param zoneSeen the zone that was seen with it
   * @throws ProblemException 409 where somebody changed it since
   */
  @Transactional
  public void change(
      Person person, @Nullable ZoneId zone, @Nullable Person seen, @Nullable ZoneId zoneSeen) {
    directory.lockOrganisation();
    String folded = Directory.fold(person.email());
    List<PersonEntity> known = directory.people(List.of(folded));
    if (seen != null && !(known.size() == 1 && isAsSeen(known.get(0), seen, zoneSeen))) {
      throw ProblemException.conflict(
          "changed-meanwhile",
          "Somebody has changed this entry since you opened it. Look at what it is now, and change"
              + " it again. Nothing was saved.");
    }
    put(List.of(person));
    setZone(folded, zone);
  }

  private static boolean isAsSeen(PersonEntity row, Person seen, @Nullable ZoneId zoneSeen) {
    Person now = row.person();
    return now.name().equals(seen.name())
        && now.standing() == seen.standing()
        && Objects.equals(now.unit(), seen.unit())
        && now.active() == seen.active()
        && Objects.equals(row.zone, zoneSeen == null ? null : zoneSeen.getId());
  }

  /**
   * Puts a room in place.
   *
   * @param seen what it was when it was looked at; null does not ask
   * @throws ProblemException 409 where somebody changed it since
   */
  @Transactional
  public void changeRoom(Organisation.Room room, Organisation.@Nullable Room seen) {
    directory.lockOrganisation();
    if (seen != null && !seen.equals(parts("rooms", List.of(room.id())).get(room.id()))) {
      throw ProblemException.conflict(
          "changed-meanwhile",
          "Somebody has changed this room since you opened it. Look at what it is now, and change"
              + " it again. Nothing was saved.");
    }
    putRoom(room);
  }

  /** Puts one room in place. */
  @Transactional
  public void putRoom(Organisation.Room room) {
    note("rooms", room.id(), room.name(), room);
    putRooms(List.of(room));
    settings.directoryChanged();
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
    OrganisationEntity row = new OrganisationEntity();
    row.id = 1;
    row.name = organisation.name();
    row.domains = json.writeValueAsString(organisation.domains());
    row.partners = json.writeValueAsString(organisation.partners());
    row.maxParticipants = organisation.plan().maxParticipants();
    row.maxMinutes = organisation.plan().maxMinutes();
    directory.save(row);
    putUnits(organisation.units());
    for (Organisation.Kind kind : organisation.kinds()) {
      KindEntity of = new KindEntity();
      of.id = kind.id();
      of.name = kind.name();
      of.confidential = kind.confidential();
      directory.save(of);
    }
    putGatherings("space", organisation.spaces());
    putGatherings("list", organisation.lists());
    putRooms(organisation.rooms());
    settings.directoryChanged();
  }

  /** Units first without parents: a parent may come later in the list. */
  private void putUnits(List<Organisation.Unit> units) {
    units.forEach(unit -> directory.putUnit(unit.id(), unit.name()));
    units.forEach(unit -> directory.setParent(unit.id(), unit.parent()));
  }

  private void putRooms(List<Organisation.Room> rooms) {
    for (Organisation.Room room : rooms) {
      RoomEntity row = new RoomEntity();
      row.id = room.id();
      row.name = room.name();
      row.email = room.email();
      row.seats = room.seats();
      directory.save(row);
    }
  }

  private void putGatherings(String sort, List<Organisation.Gathering> gatherings) {
    for (Organisation.Gathering gathering : gatherings) {
      GatheringEntity row = new GatheringEntity();
      row.id = gathering.id();
      row.sort = sort;
      row.name = gathering.name();
      row.members = json.writeValueAsString(gathering.members());
      directory.save(row);
    }
  }

  /** Whether the organisation has a unit. */
  boolean hasUnit(String id) {
    return directory.countUnits(id) == 1;
  }

  /** Somebody by their address, as it is stored at this moment. */
  @Transactional(readOnly = true)
  public Optional<Person> person(String email) {
    return directory.people(List.of(Directory.fold(email))).stream()
        .findFirst()
        .map(PersonEntity::person);
  }

  /** The organisation's own domains as they are stored at this moment. */
  @Transactional(readOnly = true)
  public List<String> domainsNow() {
    return directory
        .organisation()
        .map(row -> json.readValue(row.domains, STRINGS))
        .orElse(List.of());
  }

  /** The units as they are stored at this moment. */
  @Transactional(readOnly = true)
  public List<Organisation.Unit> unitsNow() {
    return units();
  }

  /** The lists as they are stored at this moment. */
  @Transactional(readOnly = true)
  public List<Organisation.Gathering> listsNow() {
    return gatherings("list");
  }

  /** Adds or changes people by their address. */
  @Transactional
  public void put(List<Person> changed) {
    Map<String, PersonEntity> known = new HashMap<>();
    List<String> folded = changed.stream().map(p -> Directory.fold(p.email())).toList();
    inParts(folded, some -> directory.people(some).forEach(row -> known.put(row.folded, row)));
    // in order: the position an export follows is given as they are stored
    Map<String, PersonEntity> fresh = new LinkedHashMap<>();
    Map<String, PersonEntity> others = new LinkedHashMap<>();
    for (Person person : changed) {
      String address = Directory.fold(person.email());
      PersonEntity row = known.get(address);
      Person before = row == null ? null : row.person();
      if (person.equals(before)) {
        continue;
      }
      ledger.changed(
          "person", address, person.name(), before == null ? null : () -> before, () -> person, BY);
      if (row == null) {
        row = new PersonEntity(person);
        known.put(address, row);
        fresh.put(address, row);
      } else {
        row.set(person);
        others.putIfAbsent(address, row);
      }
    }
    others.keySet().removeAll(fresh.keySet());
    if (fresh.isEmpty() && others.isEmpty()) {
      return; // the same once more, as a directory says it every night, has nothing looked at again
    }
    inParts(List.copyOf(fresh.values()), directory::insert);
    inParts(List.copyOf(others.values()), directory::update);
    if (!others.isEmpty() && others.size() <= AT_ONCE) {
      // few: their own meetings go before the rest of what a changed directory means
      meetings.ifAvailable(used -> used.hostsChanged(others.keySet()));
    }
    settings.directoryChanged();
  }
}
