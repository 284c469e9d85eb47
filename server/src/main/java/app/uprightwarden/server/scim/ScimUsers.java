package app.uprightwarden.server.scim;

import app.uprightwarden.core.people.Directory;
import app.uprightwarden.core.people.Person;
import app.uprightwarden.server.people.Organisation;
import app.uprightwarden.server.people.OrganisationService;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import com.unboundid.scim2.common.exceptions.BadRequestException;
import com.unboundid.scim2.common.exceptions.ResourceConflictException;
import com.unboundid.scim2.common.exceptions.ResourceNotFoundException;
import com.unboundid.scim2.common.exceptions.ScimException;
import com.unboundid.scim2.common.filters.Filter;
import com.unboundid.scim2.common.filters.FilterType;
import com.unboundid.scim2.common.utils.FilterEvaluator;
import java.time.Clock;
import java.time.DateTimeException;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/**
 * People as SCIM Users. Who was in the directory before it was linked has an id too, made of their
 * address; what the directory elsewhere says of them beside what we keep is stored with that id.
 */
@Service
class ScimUsers implements ScimResources {
  static final String SORT = "user";

  private final ScimRecordRepository rows;
  private final OrganisationService organisation;
  private final Clock clock;
  private volatile Ids ids = new Ids(List.of(), Map.of());

  ScimUsers(ScimRecordRepository rows, OrganisationService organisation, Clock clock) {
    this.rows = rows;
    this.organisation = organisation;
    this.clock = clock;
  }

  /** The people whose ids were made of their addresses, as one state of the directory has them. */
  private record Ids(List<Person> of, Map<String, Person> byId) {}

  /** The id of somebody who has no record. */
  static String idOf(String address) {
    return ScimIds.of(SORT, Directory.fold(address));
  }

  private Map<String, Person> byMadeId() {
    List<Person> people = organisation.people();
    Ids known = ids;
    if (known.of() != people) {
      Map<String, Person> byId = new HashMap<>();
      people.forEach(person -> byId.put(idOf(person.email()), person));
      known = new Ids(people, byId);
      ids = known;
    }
    return known.byId();
  }

  /** The record of an id, made up where there is none yet. */
  private ScimRecordEntity record(String id, boolean forChange) throws ScimException {
    ScimRecordEntity row = (forChange ? rows.locked(id) : rows.find(id)).orElse(null);
    if (row == null) {
      Person person = byMadeId().get(id);
      if (person != null && rows.ofTarget(SORT, Directory.fold(person.email())).isEmpty()) {
        return madeUp(person);
      }
    }
    if (row == null || row.gone || !row.sort.equals(SORT)) {
      throw new ResourceNotFoundException("There is no User " + id + ".");
    }
    return row;
  }

  private ScimRecordEntity madeUp(Person person) {
    ScimRecordEntity row = new ScimRecordEntity();
    row.id = idOf(person.email());
    row.sort = SORT;
    row.target = Directory.fold(person.email());
    row.userName = row.target;
    return row;
  }

  private Person person(ScimRecordEntity row) throws ScimException {
    return organisation
        .person(row.target)
        .orElseThrow(() -> new ResourceNotFoundException("There is no User " + row.id + "."));
  }

  @Override
  @Transactional(readOnly = true)
  public ObjectNode get(String id) throws ScimException {
    ScimRecordEntity row = record(id, false);
    return ScimUserDocument.of(row, person(row), organisation.unitsNow());
  }

  @Override
  @Transactional(readOnly = true)
  public ObjectNode list(Query query) throws ScimException {
    List<Organisation.Unit> units = organisation.organisation().units();
    Filter filter = ScimIds.filter(query.filter());
    if (filter == null) {
      Set<String> gone = new HashSet<>(rows.gone(SORT));
      List<Person> here =
          organisation.people().stream()
              .filter(person -> !gone.contains(Directory.fold(person.email())))
              .toList();
      int from = Math.min(here.size(), query.startIndex() - 1);
      List<Person> page = here.subList(from, Math.min(here.size(), from + query.count()));
      return ScimJson.list(here.size(), query.startIndex(), documents(page, units));
    }
    List<ObjectNode> found = new ArrayList<>();
    for (ObjectNode each : candidates(filter, units)) {
      if (FilterEvaluator.evaluate(filter, each)) {
        found.add(each);
      }
    }
    int from = Math.min(found.size(), query.startIndex() - 1);
    return ScimJson.list(
        found.size(),
        query.startIndex(),
        found.subList(from, Math.min(found.size(), from + query.count())));
  }

  /** Those among whom a filter may find somebody: one of them where it names one. */
  private List<ObjectNode> candidates(Filter filter, List<Organisation.Unit> units)
      throws ScimException {
    String value = ScimIds.equalTo(filter);
    if (filter.getFilterType() == FilterType.EQUAL && value != null) {
      List<ScimRecordEntity> named = new ArrayList<>();
      switch (String.valueOf(filter.getAttributePath()).toLowerCase(Locale.ROOT)) {
        case "username" -> {
          String name = Directory.fold(value);
          rows.ofName(SORT, name).ifPresent(named::add);
          if (named.isEmpty() && rows.ofTarget(SORT, name).isEmpty()) {
            organisation.person(name).map(this::madeUp).ifPresent(named::add);
          }
        }
        case "externalid" -> named.addAll(rows.ofExternal(SORT, value));
        case "id" -> {
          try {
            named.add(record(value, false));
          } catch (ResourceNotFoundException e) {
            return List.of();
          }
        }
        default -> {
          return documents(notGone(organisation.people()), units);
        }
      }
      List<ObjectNode> documents = new ArrayList<>();
      for (ScimRecordEntity row : named) {
        Person person = row.gone ? null : organisation.person(row.target).orElse(null);
        if (person != null) {
          documents.add(ScimUserDocument.of(row, person, units));
        }
      }
      return documents;
    }
    return documents(notGone(organisation.people()), units);
  }

  private List<Person> notGone(List<Person> people) {
    Set<String> gone = new HashSet<>(rows.gone(SORT));
    return people.stream().filter(p -> !gone.contains(Directory.fold(p.email()))).toList();
  }

  private List<ObjectNode> documents(List<Person> people, List<Organisation.Unit> units) {
    Map<String, ScimRecordEntity> records = new HashMap<>();
    if (people.size() > MAX_PAGE) {
      rows.all(SORT).forEach(row -> records.put(row.target, row));
    } else if (!people.isEmpty()) {
      rows.ofTargets(SORT, people.stream().map(p -> Directory.fold(p.email())).toList())
          .forEach(row -> records.put(row.target, row));
    }
    List<ObjectNode> documents = new ArrayList<>();
    for (Person person : people) {
      ScimRecordEntity row = records.get(Directory.fold(person.email()));
      documents.add(ScimUserDocument.of(row == null ? madeUp(person) : row, person, units));
    }
    return documents;
  }

  @Override
  @Transactional(rollbackFor = ScimException.class)
  public ObjectNode create(ObjectNode given) throws ScimException {
    ScimIds.checkSchema(given, ScimJson.USER);
    String userName = ScimJson.text(given, "userName");
    String address = ScimUserDocument.address(given);
    ScimRecordEntity before = rows.ofName(SORT, Directory.fold(userName)).orElse(null);
    if (before == null) {
      before = rows.ofTarget(SORT, Directory.fold(address)).orElse(null);
    }
    Person there = organisation.person(address).orElse(null);
    if (before != null && !before.gone || before == null && there != null) {
      throw ResourceConflictException.uniqueness("There is a User " + userName + " already.");
    }
    if (before != null) {
      rows.delete(before.id); // deleted there once: it is another resource now
    }
    ScimRecordEntity row = new ScimRecordEntity();
    row.id = UUID.randomUUID().toString();
    row.sort = SORT;
    row.madeAt = clock.instant();
    // whoever is made again is here again, unless it is said that they are not
    Person was =
        there == null
            ? null
            : new Person(there.email(), there.name(), there.standing(), there.unit(), true);
    return save(row, given, was, null);
  }

  @Override
  @Transactional(rollbackFor = ScimException.class)
  public ObjectNode replace(String id, ObjectNode given, @Nullable String match)
      throws ScimException {
    ScimIds.checkSchema(given, ScimJson.USER);
    ScimRecordEntity row = record(id, true);
    Person before = person(row);
    check(row, before, match);
    return save(row, given, before, null);
  }

  @Override
  @Transactional(rollbackFor = ScimException.class)
  public ObjectNode patch(String id, ObjectNode request, @Nullable String match)
      throws ScimException {
    ScimIds.checkSchema(request, ScimJson.PATCH);
    ScimRecordEntity row = record(id, true);
    Person before = person(row);
    ObjectNode now = check(row, before, match);
    ObjectNode wanted = now.deepCopy();
    ScimJson.patch(wanted, request);
    if (!ScimJson.text(wanted, "id").equals(row.id)) {
      throw BadRequestException.mutability("The id cannot be changed.");
    }
    return save(row, wanted, before, now);
  }

  private ObjectNode check(ScimRecordEntity row, Person person, @Nullable String match)
      throws ScimException {
    ObjectNode now = ScimUserDocument.of(row, person, organisation.unitsNow());
    ScimIds.checkVersion(now, match);
    return now;
  }

  /** Who is deleted there has left: their meetings stay, and are found. */
  @Override
  @Transactional(rollbackFor = ScimException.class)
  public void delete(String id, @Nullable String match) throws ScimException {
    ScimRecordEntity row = record(id, true);
    Person before = person(row);
    check(row, before, match);
    organisation.put(
        List.of(
            new Person(before.email(), before.name(), before.standing(), before.unit(), false)));
    row.gone = true;
    row.changedAt = clock.instant();
    if (row.madeAt.equals(Instant.EPOCH)) {
      row.madeAt = row.changedAt;
    }
    rows.save(row);
  }

  /**
   * Stores a person as a document says.
   *
   * @param patched the resource before it was patched, or null where it was given whole
   */
  private ObjectNode save(
      ScimRecordEntity row, ObjectNode given, @Nullable Person before, @Nullable ObjectNode patched)
      throws ScimException {
    List<Organisation.Unit> units = organisation.unitsNow();
    ObjectNode kept = ScimUserDocument.kept(given);
    // domains by themselves: nothing here reads all the people there are for one change
    Person person =
        ScimUserDocument.person(given, before, units, organisation::domainsNow, patched);
    String folded = Directory.fold(person.email());
    boolean isMoved = before != null && !folded.equals(Directory.fold(before.email()));
    if (isMoved && organisation.person(folded).isPresent()) {
      throw ResourceConflictException.uniqueness(
          "Somebody else has the address " + person.email() + ".");
    }
    String userName = Directory.fold(ScimJson.text(given, "userName"));
    ScimRecordEntity named = rows.ofName(SORT, userName).orElse(null);
    if (named != null && !named.id.equals(row.id)) {
      throw ResourceConflictException.uniqueness("There is another User " + userName + ".");
    }
    organisation.put(List.of(person));
    if (isMoved && before != null) {
      move(before.email(), person.email());
    }
    zone(given, folded);
    row.target = folded;
    row.userName = userName;
    row.externalId = ScimUserDocument.external(given);
    row.document = ScimJson.write(kept);
    row.changedAt = clock.instant();
    if (row.madeAt.equals(Instant.EPOCH)) {
      row.madeAt = row.changedAt;
    }
    rows.save(row);
    return ScimUserDocument.of(row, person, units);
  }

  /** Another address: lists have it in place of the one before. */
  private void move(String from, String to) {
    String folded = Directory.fold(from);
    for (Organisation.Gathering list : organisation.listsNow()) {
      if (list.members().stream().anyMatch(m -> Directory.fold(m).equals(folded))) {
        List<String> members =
            list.members().stream().map(m -> Directory.fold(m).equals(folded) ? to : m).toList();
        organisation.putGathering(
            "list", new Organisation.Gathering(list.id(), list.name(), members));
      }
    }
    organisation.removeAll("people", List.of(from));
  }

  private void zone(JsonNode given, String folded) throws BadRequestException {
    String zone = ScimJson.text(given, "timezone");
    if (!zone.isEmpty()) {
      try {
        organisation.setZone(folded, ZoneId.of(zone));
      } catch (DateTimeException e) {
        throw BadRequestException.invalidValue("There is no time zone " + zone + " (IANA).");
      }
    }
  }

  /** The addresses of users by their ids, for those that there are. */
  Map<String, String> addresses(Set<String> wanted) {
    Map<String, String> addresses = new HashMap<>();
    List<String> all = List.copyOf(wanted);
    for (int i = 0; i < all.size(); i += MAX_PAGE) {
      rows.some(SORT, all.subList(i, Math.min(all.size(), i + MAX_PAGE)))
          .forEach(
              row -> {
                if (!row.gone) {
                  addresses.put(row.id, row.target);
                }
              });
    }
    if (addresses.size() < wanted.size()) {
      Map<String, Person> made = byMadeId();
      wanted.forEach(
          id -> {
            Person person = made.get(id);
            if (person != null) {
              addresses.putIfAbsent(id, Directory.fold(person.email()));
            }
          });
    }
    return addresses;
  }

  /** The ids of people by their folded addresses. */
  Map<String, String> idsOf(List<String> addresses) {
    Map<String, String> found = new HashMap<>();
    addresses.forEach(address -> found.put(address, idOf(address)));
    for (int i = 0; i < addresses.size(); i += MAX_PAGE) {
      rows.ofTargets(SORT, addresses.subList(i, Math.min(addresses.size(), i + MAX_PAGE)))
          .forEach(row -> found.put(row.target, row.id));
    }
    return found;
  }
}
