package app.uprightwarden.server.exchange;

import app.uprightwarden.core.people.Directory;
import app.uprightwarden.core.people.Person;
import app.uprightwarden.core.people.Standing;
import app.uprightwarden.server.access.AccessHash;
import app.uprightwarden.server.people.Organisation;
import app.uprightwarden.server.people.OrganisationService;
import app.uprightwarden.server.problem.Fault;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.problem.Texts;
import app.uprightwarden.server.problem.Worded;
import app.uprightwarden.server.register.Details;
import app.uprightwarden.server.register.MeetingDocument;
import app.uprightwarden.server.register.MeetingRestore;
import app.uprightwarden.server.register.MeetingVersions;
import app.uprightwarden.server.register.RegisterService;
import app.uprightwarden.server.register.Scheduled;
import app.uprightwarden.server.register.StoredMeeting;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.json.JsonMapper;

/** Imports that were taken, and the way back out of each as a whole. */
@Service
class ImportBatches {
  private static final int MAX_NAMED = 50;
  private static final int AT_ONCE = 1000;

  private final ImportRepository imports;
  private final OrganisationService organisation;
  private final RegisterService register;
  private final MeetingRestore restore;
  private final MeetingVersions versions;
  private final JsonMapper json;
  private final Clock clock;

  ImportBatches(
      ImportRepository imports,
      OrganisationService organisation,
      RegisterService register,
      MeetingRestore restore,
      MeetingVersions versions,
      JsonMapper json,
      Clock clock) {
    this.imports = imports;
    this.organisation = organisation;
    this.register = register;
    this.restore = restore;
    this.versions = versions;
    this.json = json;
    this.clock = clock;
  }

  /** An import as it is listed. */
  record ImportBatch(
      long id,
      @Worded String what,
      String name,
      String by,
      Instant at,
      int added,
      int changed,
      int unchanged,
      int refused,
      @Nullable String takenBackBy,
      @Nullable Instant takenBackAt) {}

  /** What taking back did. */
  record TakenBack(int removed, int restored, List<String> left) {}

  @Transactional(propagation = Propagation.MANDATORY)
  long open(String what, String name, String by) {
    ImportBatchEntity row = new ImportBatchEntity();
    row.what = what;
    row.name = Texts.cut(name, 200);
    row.takenBy = by;
    row.takenAt = clock.instant();
    imports.insert(row);
    return row.id;
  }

  @Transactional(propagation = Propagation.MANDATORY)
  void close(long batch, ImportReport report) {
    imports.close(batch, report.added(), report.changed(), report.unchanged(), report.refused());
  }

  /**
   * Notes what meetings were before; called after they were put.
   *
   * @param position of the first; the others follow
   * @param put as they are stored now, in order
   * @param fresh those of them that were not there before
   */
  @Transactional(propagation = Propagation.MANDATORY)
  void meetings(long batch, int position, List<StoredMeeting> put, Set<String> fresh) {
    Map<String, Long> kept =
        versions.lastKept(
            put.stream().map(s -> s.meeting().id()).filter(id -> !fresh.contains(id)).toList());
    List<ImportItemEntity> items = new ArrayList<>();
    for (StoredMeeting stored : put) {
      String id = stored.meeting().id();
      ImportItemEntity row = item(batch, position + items.size(), "meetings", id);
      row.document = fresh.contains(id) ? null : String.valueOf(kept.get(id));
      row.version = stored.version();
      row.digest = digestOf(stored);
      items.add(row);
    }
    imports.insert(items);
  }

  private static ImportItemEntity item(long batch, int position, String part, String ref) {
    ImportItemEntity row = new ImportItemEntity();
    row.batch = batch;
    row.position = position;
    row.part = part;
    row.ref = ref;
    return row;
  }

  /** Notes that a meeting was cancelled; it has no version then. */
  @Transactional(propagation = Propagation.MANDATORY)
  void cancelled(long batch, int position, String id) {
    ImportItemEntity row = item(batch, position, "meetings", id);
    row.document = Long.toString(restore.lastKept(id));
    imports.insert(List.of(row));
  }

  /**
   * What a meeting is, however often it was changed and changed back meanwhile: an earlier import
   * can be taken back once a later one was.
   */
  private String digestOf(StoredMeeting stored) {
    Details details = stored.details().withSequence(0);
    var facts = stored.meeting().passcode();
    return AccessHash.sha256(
        json.writeValueAsString(MeetingDocument.of(new Scheduled(stored.meeting(), details, null)))
            + (facts == null ? "" : facts.fingerprint()));
  }

  /** What something of the directory was before, and is. */
  record Noted(String part, String ref, @Nullable Object before, Object after) {}

  /** Notes what things of the directory were before. */
  @Transactional(propagation = Propagation.MANDATORY)
  void others(long batch, int position, List<Noted> noted) {
    List<ImportItemEntity> items = new ArrayList<>();
    for (Noted each : noted) {
      ImportItemEntity row = item(batch, position + items.size(), each.part(), each.ref());
      row.document = each.before() == null ? null : json.writeValueAsString(each.before());
      row.digest = digest(each.after());
      items.add(row);
    }
    for (int i = 0; i < items.size(); i += AT_ONCE) {
      imports.insert(items.subList(i, Math.min(i + AT_ONCE, items.size())));
    }
  }

  private String digest(Object thing) {
    return AccessHash.sha256(json.writeValueAsString(thing));
  }

  /** Imports, the last first. */
  @Transactional(readOnly = true)
  List<ImportBatch> list() {
    return imports.newest().stream()
        .map(
            row ->
                new ImportBatch(
                    row.id,
                    row.what,
                    row.name,
                    row.takenBy,
                    row.takenAt,
                    row.added,
                    row.changed,
                    row.unchanged,
                    row.refused,
                    row.takenBackBy,
                    row.takenBackAt))
        .toList();
  }

  /**
   * Takes an import back: what it added goes, what it changed is as it was before.
   *
   * @param force what was changed since is left as it is now; without it, that refuses the whole
   * @throws ProblemException 409 where something was changed since, or it is taken back already
   */
  @Transactional
  public TakenBack takeBack(long id, boolean force, String by, ImportJob.Progress progress) {
    int claimed = imports.takeBack(id, by, clock.instant());
    if (claimed == 0) {
      boolean known = list().stream().anyMatch(batch -> batch.id() == id);
      throw known
          ? ProblemException.conflict("taken-back", "This import was taken back already.")
          : ProblemException.notFound("There is no import " + id + ".");
    }
    List<ImportItemEntity> items = imports.items(id);
    Set<ImportItemEntity> changedSince = changedSince(items);
    if (!changedSince.isEmpty() && !force) {
      throw ProblemException.conflict(
          "changed-since",
          "%d of what it brought was changed since. Nothing was taken back. Take back the rest, and leave these as they are?"
              .formatted(changedSince.size()),
          changedSince.stream()
              .limit(MAX_NAMED)
              .map(item -> new Fault("", item.part + " " + item.ref))
              .toList());
    }
    List<ImportItemEntity> others =
        items.stream().filter(item -> !changedSince.contains(item)).toList();
    progress.of(others.size());
    int removed = 0;
    for (int i = 0; i < others.size(); ) {
      // what came one after the other and goes the same way goes together
      int end = i + 1;
      while (end < others.size() && end - i < AT_ONCE && isAlike(others.get(i), others.get(end))) {
        end++;
      }
      removed += takeBack(others.subList(i, end), by);
      for (; i < end; i++) {
        progress.done().accept(i + 1);
      }
    }
    return new TakenBack(
        removed,
        others.size() - removed,
        changedSince.stream().map(item -> item.part + " " + item.ref).toList());
  }

  private static boolean isAlike(ImportItemEntity one, ImportItemEntity other) {
    return one.part.equals(other.part) && (one.document == null) == (other.document == null);
  }

  /** Those of some things that are not as the import left them, in their order. */
  private Set<ImportItemEntity> changedSince(List<ImportItemEntity> items) {
    Now now = new Now();
    Set<ImportItemEntity> changed = new LinkedHashSet<>();
    for (int i = 0; i < items.size(); i += AT_ONCE) {
      List<ImportItemEntity> some = items.subList(i, Math.min(i + AT_ONCE, items.size()));
      Map<String, StoredMeeting> stored =
          register.among(
              some.stream()
                  .filter(item -> item.part.equals("meetings"))
                  .map(item -> item.ref)
                  .distinct()
                  .toList());
      some.stream().filter(item -> !isAsTaken(item, stored, now)).forEach(changed::add);
    }
    return changed;
  }

  /** The directory as it is, read once. */
  private final class Now {
    private final Organisation all = organisation.organisation();
    private final Map<String, ZoneId> zones = organisation.zones();
    private final Map<String, Person> people = new HashMap<>();
    private final Map<String, Organisation.Room> rooms = new HashMap<>();
    private final Map<String, Organisation.Gathering> lists = byId(all.lists());
    private final Map<String, Organisation.Gathering> spaces = byId(all.spaces());

    Now() {
      organisation.people().forEach(p -> people.put(Directory.fold(p.email()), p));
      all.rooms().forEach(room -> rooms.put(room.id(), room));
    }

    private static Map<String, Organisation.Gathering> byId(
        List<Organisation.Gathering> gatherings) {
      Map<String, Organisation.Gathering> byId = new HashMap<>();
      gatherings.forEach(gathering -> byId.put(gathering.id(), gathering));
      return byId;
    }

    @Nullable Object of(String part, String ref) {
      return switch (part) {
        case "people" -> {
          Person person = people.get(ref);
          yield person == null ? null : zoned(person, zones);
        }
        case "lists" -> lists.get(ref);
        case "spaces" -> spaces.get(ref);
        case "rooms" -> rooms.get(ref);
        default -> null;
      };
    }
  }

  private boolean isAsTaken(
      ImportItemEntity item, Map<String, StoredMeeting> stored, Now directory) {
    if (item.part.equals("meetings")) {
      StoredMeeting now = stored.get(item.ref);
      if (now == null || item.version == null) {
        return now == null && item.version == null;
      }
      return now.version() == item.version
          || item.digest != null && item.digest.equals(digestOf(now));
    }
    Object now = directory.of(item.part, item.ref);
    if (now == null) {
      return false;
    }
    // earlier versions of this program noted people without their zones
    return digest(now).equals(item.digest)
        || now instanceof Zoned person && digest(person.person()).equals(item.digest);
  }

  /** Takes back things of one sort that all go, or are all put back; how many went. */
  private int takeBack(List<ImportItemEntity> alike, String by) {
    ImportItemEntity first = alike.get(0);
    List<String> refs = alike.stream().map(item -> item.ref).toList();
    if (first.document == null) {
      if (first.part.equals("meetings")) {
        register.forgetAll(refs, by);
      } else {
        organisation.removeAll(first.part, refs);
      }
      return alike.size();
    }
    if (first.part.equals("people")) {
      putBack(alike.stream().map(item -> String.valueOf(item.document)).toList());
    } else {
      alike.forEach(item -> putBack(item, String.valueOf(item.document), by));
    }
    return 0;
  }

  private void putBack(ImportItemEntity item, String document, String by) {
    switch (item.part) {
      case "meetings" -> restore.restore(item.ref, Long.parseLong(document), "taken-back", by);
      case "lists", "spaces" ->
          organisation.putGathering(
              item.part.equals("lists") ? "list" : "space",
              json.readValue(document, Organisation.Gathering.class));
      case "rooms" -> organisation.putRoom(json.readValue(document, Organisation.Room.class));
      default -> throw new IllegalStateException("nothing of the sort " + item.part);
    }
  }

  /** A person and their zone, as an import found them. */
  record Zoned(
      String email,
      String name,
      Standing standing,
      @Nullable String unit,
      boolean active,
      @Nullable String zone) {
    Person person() {
      return new Person(email, name, standing, unit, active);
    }
  }

  static Zoned zoned(Person person, Map<String, ZoneId> zones) {
    ZoneId zone = zones.get(Directory.fold(person.email()));
    return new Zoned(
        person.email(),
        person.name(),
        person.standing(),
        person.unit(),
        person.active(),
        zone == null ? null : zone.getId());
  }

  private void putBack(List<String> documents) {
    List<Person> people = new ArrayList<>();
    Map<String, @Nullable ZoneId> zones = new LinkedHashMap<>();
    for (String document : documents) {
      Zoned was = json.readValue(document, Zoned.class);
      people.add(was.person());
      zones.put(Directory.fold(was.email()), was.zone() == null ? null : ZoneId.of(was.zone()));
    }
    organisation.put(people);
    organisation.putZones(zones);
  }
}
