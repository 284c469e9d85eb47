package app.uprightwarden.server.exchange;

import app.uprightwarden.core.people.Directory;
import app.uprightwarden.core.people.Person;
import app.uprightwarden.server.people.Organisation;
import app.uprightwarden.server.people.OrganisationService;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.BiFunction;
import java.util.function.Consumer;
import java.util.function.Function;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** The part of an import that is about people, lists, spaces and rooms. */
@Component
class ImportDirectory {
  private final OrganisationService organisation;
  private final ImportBatches batches;

  ImportDirectory(OrganisationService organisation, ImportBatches batches) {
    this.organisation = organisation;
    this.batches = batches;
  }

  /** A thing that was read, and where in its file. */
  record Read<T>(T thing, ImportTally.Place place) {
    static <T> List<Read<T>> of(List<T> things) {
      return things.stream().map(thing -> new Read<>(thing, ImportTally.Place.UNKNOWN)).toList();
    }
  }

  @Transactional(propagation = Propagation.MANDATORY)
  void takePeople(List<Person> given, Map<String, ZoneId> zones, ImportRun run) {
    takeReadPeople(Read.of(given), zones, run);
  }

  @Transactional(propagation = Propagation.MANDATORY)
  void takeReadPeople(List<Read<Person>> given, Map<String, ZoneId> zones, ImportRun run) {
    Map<String, ZoneId> before = organisation.zones();
    Map<String, ZoneId> after = new HashMap<>(before);
    after.putAll(zones);
    List<Person> changed = new ArrayList<>();
    take(
        "people",
        organisation.people(),
        given,
        person -> Directory.fold(person.email()),
        run,
        person -> {
          String email = Directory.fold(person.email());
          return zones.containsKey(email) && !zones.get(email).equals(before.get(email));
        },
        changed::add,
        (person, isBefore) -> ImportBatches.zoned(person, isBefore ? before : after));
    if (!run.job().dryRun()) {
      organisation.put(changed);
      Map<String, ZoneId> moved = new HashMap<>(zones);
      moved.entrySet().removeIf(zone -> zone.getValue().equals(before.get(zone.getKey())));
      organisation.putZones(moved);
    }
  }

  @Transactional(propagation = Propagation.MANDATORY)
  void takeGatherings(
      String part,
      List<Organisation.Gathering> stored,
      List<Organisation.Gathering> given,
      ImportRun run) {
    takeReadGatherings(part, stored, Read.of(given), run);
  }

  @Transactional(propagation = Propagation.MANDATORY)
  void takeReadGatherings(
      String part,
      List<Organisation.Gathering> stored,
      List<Read<Organisation.Gathering>> given,
      ImportRun run) {
    String sort = part.equals("lists") ? "list" : "space";
    take(
        part,
        stored,
        given,
        Organisation.Gathering::id,
        run,
        same -> false,
        gathering -> organisation.putGathering(sort, gathering),
        (thing, isBefore) -> thing);
  }

  @Transactional(propagation = Propagation.MANDATORY)
  void takeRooms(List<Organisation.Room> stored, List<Organisation.Room> given, ImportRun run) {
    take(
        "rooms",
        stored,
        Read.of(given),
        Organisation.Room::id,
        run,
        same -> false,
        organisation::putRoom,
        (thing, isBefore) -> thing);
  }

  private <T> void take(
      String part,
      List<T> stored,
      List<Read<T>> given,
      Function<T, String> id,
      ImportRun run,
      java.util.function.Predicate<T> differsBesides,
      Consumer<T> store,
      BiFunction<T, Boolean, Object> noted) {
    Map<String, T> known = new HashMap<>();
    stored.forEach(thing -> known.put(id.apply(thing), thing));
    List<ImportBatches.Noted> notes = new ArrayList<>();
    run.job().progress().of(given.size());
    int done = 0;
    for (Read<T> read : given) {
      T thing = read.thing();
      String name = id.apply(thing);
      T before = known.get(name);
      run.job().progress().done().accept(++done);
      boolean same = thing.equals(before) && !differsBesides.test(thing);
      run.tally().count(part, name, before == null, same, read.place());
      if (!same && !run.job().dryRun()) {
        store.accept(thing);
        notes.add(
            new ImportBatches.Noted(
                part,
                name,
                before == null ? null : noted.apply(before, true),
                noted.apply(thing, false)));
      }
    }
    if (run.batch() != null) {
      batches.others(run.batch(), run.nextItems(notes.size()), notes);
    }
  }

  /** Counts what differs of a part that cannot be taken back. */
  static <T> void compare(
      String part, List<T> stored, List<T> given, Function<T, String> id, ImportRun run) {
    Map<String, T> known = new HashMap<>();
    stored.forEach(item -> known.put(id.apply(item), item));
    for (T item : given) {
      T before = known.get(id.apply(item));
      run.tally().count(part, id.apply(item), before == null, item.equals(before));
    }
  }
}
