package app.uprightwarden.server.scim;

import app.uprightwarden.core.people.Directory;
import app.uprightwarden.server.people.Organisation;
import app.uprightwarden.server.people.OrganisationService;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import com.unboundid.scim2.common.exceptions.BadRequestException;
import com.unboundid.scim2.common.exceptions.ResourceConflictException;
import com.unboundid.scim2.common.exceptions.ResourceNotFoundException;
import com.unboundid.scim2.common.exceptions.ScimException;
import com.unboundid.scim2.common.filters.Filter;
import com.unboundid.scim2.common.utils.FilterEvaluator;
import java.text.Normalizer;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/**
 * Lists as SCIM Groups. A group may hold groups: here a list then has everybody whom it reaches,
 * each once, and a circle of groups ends where it began.
 */
@Service
class ScimGroups implements ScimResources {
  static final String SORT = "group";

  /** How many people a list may reach. */
  static final int MAX_MEMBERS = 20_000;

  private static final int MAX_NAME = 200;

  private final ScimRecordRepository rows;
  private final OrganisationService organisation;
  private final ScimUsers users;
  private final Clock clock;

  ScimGroups(
      ScimRecordRepository rows, OrganisationService organisation, ScimUsers users, Clock clock) {
    this.rows = rows;
    this.organisation = organisation;
    this.users = users;
    this.clock = clock;
  }

  /** All groups as they stand, by id, and what they hold. */
  private final class Groups {
    final Map<String, ScimRecordEntity> byId = new LinkedHashMap<>();
    final Map<String, Organisation.Gathering> lists = new LinkedHashMap<>();
    final Map<String, Set<String>> holds = new HashMap<>();

    /**
     * @param forChange where what is reached is worked out anew: then no other change of a group
     *     may happen meanwhile
     */
    Groups(boolean forChange) {
      Map<String, ScimRecordEntity> records = new HashMap<>();
      (forChange ? rows.allLocked(SORT) : rows.all(SORT))
          .forEach(row -> records.put(row.target, row));
      for (Organisation.Gathering list : organisation.listsNow()) {
        ScimRecordEntity row = records.get(list.id());
        if (row == null) {
          row = madeUp(list);
        }
        if (!row.gone) {
          byId.put(row.id, row);
          lists.put(row.id, list);
        }
      }
      byId.forEach((id, row) -> holds.put(id, groupsIn(row)));
    }

    /** The groups that a group holds itself. */
    private Set<String> groupsIn(ScimRecordEntity row) {
      Set<String> in = new LinkedHashSet<>();
      for (JsonNode member : ScimJson.parse(row.document).path("members")) {
        String value = ScimJson.text(member, "value");
        if (byId.containsKey(value)) {
          in.add(value);
        }
      }
      return in;
    }

    /** A group and all that hold it, however far away. */
    Set<String> above(String id) {
      Set<String> above = new LinkedHashSet<>(Set.of(id));
      boolean grew = true;
      while (grew) {
        grew = false;
        for (Map.Entry<String, Set<String>> each : holds.entrySet()) {
          boolean reaches = each.getValue().stream().anyMatch(above::contains);
          grew |= reaches && above.add(each.getKey());
        }
      }
      return above;
    }

    /** The ids of the users that a group reaches. */
    Set<String> reached(String id) {
      Set<String> seen = new HashSet<>();
      Deque<String> open = new ArrayDeque<>(List.of(id));
      Set<String> people = new LinkedHashSet<>();
      while (!open.isEmpty()) {
        String group = open.remove();
        ScimRecordEntity row = byId.get(group);
        if (row == null || !seen.add(group)) {
          continue; // a circle ends where it began
        }
        for (String member : members(row, lists.get(group))) {
          if (byId.containsKey(member)) {
            open.add(member);
          } else {
            people.add(member);
          }
        }
      }
      return people;
    }

    /** Circles: each as the names of its groups, the first one again at the end. */
    List<List<String>> circles() {
      List<List<String>> circles = new ArrayList<>();
      Set<String> done = new HashSet<>();
      for (String id : byId.keySet()) {
        List<String> way = way(id, id, new HashSet<>());
        if (way != null && done.add(String.join(" ", way.stream().sorted().distinct().toList()))) {
          circles.add(way.stream().map(this::nameOf).toList());
        }
      }
      return circles;
    }

    private String nameOf(String id) {
      Organisation.Gathering list = lists.get(id);
      return list == null ? id : list.name();
    }

    private @Nullable List<String> way(String from, String to, Set<String> seen) {
      for (String next : holds.getOrDefault(from, Set.of())) {
        if (next.equals(to)) {
          return List.of(from, to);
        }
        if (seen.add(next)) {
          List<String> rest = way(next, to, seen);
          if (rest != null) {
            List<String> way = new ArrayList<>(List.of(from));
            way.addAll(rest);
            return way;
          }
        }
      }
      return null;
    }
  }

  private static ScimRecordEntity madeUp(Organisation.Gathering list) {
    ScimRecordEntity row = new ScimRecordEntity();
    row.id = ScimIds.of(SORT, list.id());
    row.sort = SORT;
    row.target = list.id();
    row.userName = list.id();
    return row;
  }

  /** Groups that hold each other, as their names, for people to see. */
  @Transactional(readOnly = true)
  public List<List<String>> circles() {
    return new Groups(false).circles();
  }

  /** The ids that a group holds itself; of a list that nobody gave as a group, its members'. */
  private List<String> members(ScimRecordEntity row, Organisation.@Nullable Gathering list) {
    JsonNode given = ScimJson.parse(row.document).path("members");
    if (given.isArray()) {
      return ScimJson.texts(given, "value");
    }
    if (list == null) {
      return List.of();
    }
    List<String> folded = list.members().stream().map(Directory::fold).distinct().toList();
    Map<String, String> ids = users.idsOf(folded);
    return folded.stream().map(each -> ids.getOrDefault(each, each)).toList();
  }

  private ScimRecordEntity record(Groups groups, String id) throws ScimException {
    ScimRecordEntity row = groups.byId.get(id);
    if (row == null) {
      throw new ResourceNotFoundException("There is no Group " + id + ".");
    }
    return row;
  }

  private ObjectNode document(Groups groups, ScimRecordEntity row) {
    Organisation.Gathering list = groups.lists.get(row.id);
    ObjectNode document = ScimJson.object();
    document.putArray("schemas").add(ScimJson.GROUP);
    document.put("id", row.id);
    if (row.externalId != null) {
      document.put("externalId", row.externalId);
    }
    document.put("displayName", list == null ? row.target : list.name());
    ArrayNode members = document.putArray("members");
    for (String id : members(row, list)) {
      boolean isGroup = groups.byId.containsKey(id);
      members
          .addObject()
          .put("value", id)
          .put("type", isGroup ? "Group" : "User")
          .put("$ref", ScimIds.BASE + (isGroup ? "/Groups/" : "/Users/") + id);
    }
    ScimIds.meta(document, "Group", "/Groups/" + row.id, row);
    return document;
  }

  @Override
  @Transactional(readOnly = true)
  public ObjectNode get(String id) throws ScimException {
    Groups groups = new Groups(false);
    return document(groups, record(groups, id));
  }

  @Override
  @Transactional(readOnly = true)
  public ObjectNode list(Query query) throws ScimException {
    Groups groups = new Groups(false);
    Filter filter = ScimIds.filter(query.filter());
    List<ScimRecordEntity> found = new ArrayList<>();
    for (ScimRecordEntity row : groups.byId.values()) {
      if (filter == null || FilterEvaluator.evaluate(filter, document(groups, row))) {
        found.add(row);
      }
    }
    int from = Math.min(found.size(), query.startIndex() - 1);
    return ScimJson.list(
        found.size(),
        query.startIndex(),
        found.subList(from, Math.min(found.size(), from + query.count())).stream()
            .map(row -> document(groups, row))
            .toList());
  }

  @Override
  @Transactional(rollbackFor = ScimException.class)
  public ObjectNode create(ObjectNode given) throws ScimException {
    ScimIds.checkSchema(given, ScimJson.GROUP);
    Groups groups = new Groups(true);
    String name = name(given, null);
    boolean isThere =
        groups.lists.values().stream().anyMatch(list -> list.name().equalsIgnoreCase(name));
    if (isThere) {
      throw ResourceConflictException.uniqueness("There is a Group " + name + " already.");
    }
    ScimRecordEntity row = new ScimRecordEntity();
    row.id = UUID.randomUUID().toString();
    row.sort = SORT;
    row.target = freeId(name);
    row.userName = row.target;
    row.madeAt = clock.instant();
    return save(groups, row, given, null);
  }

  /** A list's id that reads like its name, and is nobody's. */
  private String freeId(String name) {
    String plain =
        Normalizer.normalize(name, Normalizer.Form.NFKD)
            .toLowerCase(Locale.ROOT)
            .replaceAll("[^a-z0-9]+", "-")
            .replaceAll("^-|-$", "");
    String id = plain.isEmpty() ? "list" : plain.substring(0, Math.min(50, plain.length()));
    Set<String> taken = new HashSet<>();
    organisation.listsNow().forEach(list -> taken.add(list.id()));
    rows.all(SORT).forEach(row -> taken.add(row.target));
    String free = id;
    for (int i = 2; taken.contains(free); i++) {
      free = id + "-" + i;
    }
    return free;
  }

  @Override
  @Transactional(rollbackFor = ScimException.class)
  public ObjectNode replace(String id, ObjectNode given, @Nullable String match)
      throws ScimException {
    ScimIds.checkSchema(given, ScimJson.GROUP);
    return change(id, match, now -> given);
  }

  @Override
  @Transactional(rollbackFor = ScimException.class)
  public ObjectNode patch(String id, ObjectNode request, @Nullable String match)
      throws ScimException {
    ScimIds.checkSchema(request, ScimJson.PATCH);
    return change(
        id,
        match,
        now -> {
          ObjectNode wanted = now.deepCopy();
          ScimJson.patch(wanted, request);
          if (!ScimJson.text(wanted, "id").equals(id)) {
            throw BadRequestException.mutability("The id cannot be changed.");
          }
          if (!wanted.has("members")) {
            wanted.putArray("members"); // the last one was taken away, and the attribute with it
          }
          return wanted;
        });
  }

  private interface Wanted {
    ObjectNode of(ObjectNode now) throws ScimException;
  }

  private ObjectNode change(String id, @Nullable String match, Wanted wanted) throws ScimException {
    Groups groups = new Groups(true);
    ScimRecordEntity row = record(groups, id);
    ObjectNode now = document(groups, row);
    ScimIds.checkVersion(now, match);
    return save(groups, row, wanted.of(now), groups.lists.get(id));
  }

  @Override
  @Transactional(rollbackFor = ScimException.class)
  public void delete(String id, @Nullable String match) throws ScimException {
    Groups groups = new Groups(true);
    ScimRecordEntity row = record(groups, id);
    ScimIds.checkVersion(document(groups, row), match);
    Organisation.Gathering list = groups.lists.get(id);
    Set<String> above = groups.above(id);
    if (list != null && organisation.uses("lists", list.id()) > 0) {
      // meetings name it: it stays there, and reaches nobody any more
      organisation.putGathering(
          "list", new Organisation.Gathering(list.id(), list.name(), List.of()));
      row.gone = true;
      row.document = "{}";
      row.changedAt = clock.instant();
      row.madeAt = row.madeAt.equals(Instant.EPOCH) ? row.changedAt : row.madeAt;
      rows.save(row);
    } else {
      organisation.removeAll("lists", List.of(row.target));
      rows.delete(row.id);
    }
    above.remove(id);
    groups.byId.remove(id);
    above.forEach(each -> flatten(groups, each));
  }

  private ObjectNode save(
      Groups groups,
      ScimRecordEntity row,
      ObjectNode given,
      Organisation.@Nullable Gathering before)
      throws ScimException {
    String name = name(given, before);
    ObjectNode kept = ScimJson.object();
    // what a document does not name stays as it is
    List<String> members =
        given.has("members") || before == null
            ? ScimJson.texts(given.path("members"), "value").stream().distinct().toList()
            : members(row, before);
    check(groups, row.id, members);
    ArrayNode list = kept.putArray("members");
    members.forEach(member -> list.addObject().put("value", member));
    String external = ScimJson.text(given, "externalId");
    if (external.length() > 254) {
      throw BadRequestException.invalidValue("An externalId has 254 characters at most.");
    }
    row.externalId = external.isEmpty() ? null : external;
    row.document = ScimJson.write(kept);
    row.changedAt = clock.instant();
    row.madeAt = row.madeAt.equals(Instant.EPOCH) ? row.changedAt : row.madeAt;
    rows.save(row);
    groups.byId.put(row.id, row);
    groups.lists.put(row.id, new Organisation.Gathering(row.target, name, List.of()));
    groups.holds.put(row.id, groups.groupsIn(row));
    for (String each : groups.above(row.id)) {
      flatten(groups, each);
    }
    return document(groups, row);
  }

  private static String name(ObjectNode given, Organisation.@Nullable Gathering before)
      throws BadRequestException {
    String name = ScimJson.text(given, "displayName");
    if (name.isEmpty() && before != null) {
      return before.name();
    }
    if (name.isEmpty() || name.length() > MAX_NAME) {
      throw BadRequestException.invalidValue(
          "A Group has a displayName of 1 to " + MAX_NAME + " characters.");
    }
    return name;
  }

  private void check(Groups groups, String id, List<String> members) throws ScimException {
    if (members.size() > MAX_MEMBERS) {
      throw BadRequestException.tooMany("A Group has at most " + MAX_MEMBERS + " members.");
    }
    Set<String> people = new LinkedHashSet<>(members);
    people.removeIf(each -> groups.byId.containsKey(each) || each.equals(id));
    people.removeAll(users.addresses(people).keySet());
    // an address of a list that was here before, of somebody whom the directory does not know
    people.removeIf(each -> each.contains("@"));
    if (!people.isEmpty()) {
      throw BadRequestException.invalidValue(
          "There is no User or Group " + people.iterator().next() + ": make it first.");
    }
  }

  /** Everybody whom a group reaches, as the list that meetings use. */
  private void flatten(Groups groups, String id) {
    Organisation.Gathering list = groups.lists.get(id);
    ScimRecordEntity row = groups.byId.get(id);
    if (list == null || row == null) {
      return;
    }
    Set<String> reached = groups.reached(id);
    Map<String, String> addresses = users.addresses(reached);
    List<String> members =
        reached.stream()
            .map(each -> each.contains("@") ? each : addresses.get(each))
            .filter(java.util.Objects::nonNull)
            .distinct()
            .limit(MAX_MEMBERS)
            .toList();
    organisation.putGathering("list", new Organisation.Gathering(row.target, list.name(), members));
  }
}
