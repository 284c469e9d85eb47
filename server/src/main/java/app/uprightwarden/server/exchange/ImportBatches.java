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
import app.uprightwarden.server.register.Details;
import app.uprightwarden.server.register.MeetingDocument;
import app.uprightwarden.server.register.MeetingRestore;
import app.uprightwarden.server.register.RegisterService;
import app.uprightwarden.server.register.Scheduled;
import app.uprightwarden.server.register.Stored;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.json.JsonMapper;

/** Imports that were taken, and the way back out of each as a whole. */
@Service
class ImportBatches {
  private static final int MOST_NAMED = 50;

  private final ImportRepository imports;
  private final OrganisationService organisation;
  private final RegisterService register;
  private final MeetingRestore restore;
  private final JsonMapper json;
  private final Clock clock;

  ImportBatches(
      ImportRepository imports,
      OrganisationService organisation,
      RegisterService register,
      MeetingRestore restore,
      JsonMapper json,
      Clock clock) {
    this.imports = imports;
    this.organisation = organisation;
    this.register = register;
    this.restore = restore;
    this.json = json;
    this.clock = clock;
  }

  /** An import as it is listed. */
  record ImportBatch(
      long id,
      String what,
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

  /** Notes what a meeting was before; called after it was put. */
  @Transactional(propagation = Propagation.MANDATORY)
  void meeting(long batch, int position, String id, boolean fresh, long version) {
    ImportItemEntity row = item(batch, position, "meetings", id);
    row.document = fresh ? null : Long.toString(restore.lastKept(id));
    row.version = version;
    row.digest = digestOf(id);
    imports.insert(row);
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
    imports.insert(row);
  }

  /**
   * What a meeting is, however often it was changed and changed back meanwhile: an earlier import
   * can be taken back once a later one was.
   */
  private @Nullable String digestOf(String meeting) {
    Stored stored = register.find(meeting).orElse(null);
    if (stored == null) {
      return null;
    }
    Details details = stored.details().withSequence(0);
    var facts = stored.meeting().passcode();
    return AccessHash.sha256(
        json.writeValueAsString(MeetingDocument.of(new Scheduled(stored.meeting(), details, null)))
            + (facts == null ? "" : facts.fingerprint()));
  }

  /** Notes what something of the directory was before. */
  @Transactional(propagation = Propagation.MANDATORY)
  void other(
      long batch, int position, String part, String ref, @Nullable Object before, Object after) {
    ImportItemEntity row = item(batch, position, part, ref);
    row.document = before == null ? null : json.writeValueAsString(before);
    row.digest = digest(after);
    imports.insert(row);
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
  TakenBack takeBack(long id, boolean force, String by) {
    int claimed = imports.takeBack(id, by, clock.instant());
    if (claimed == 0) {
      boolean known = list().stream().anyMatch(batch -> batch.id() == id);
      throw known
          ? ProblemException.conflict("taken-back", "This import was taken back already.")
          : ProblemException.notFound("There is no import " + id + ".");
    }
    List<ImportItemEntity> items = imports.items(id);
    List<ImportItemEntity> changedSince = items.stream().filter(item -> !isAsTaken(item)).toList();
    if (!changedSince.isEmpty() && !force) {
      throw ProblemException.conflict(
          "changed-since",
          "%d of what it brought was changed since. Nothing was taken back. Take back the rest, and leave these as they are?"
              .formatted(changedSince.size()),
          changedSince.stream()
              .limit(MOST_NAMED)
              .map(item -> new Fault("", item.part + " " + item.ref))
              .toList());
    }
    List<ImportItemEntity> others = new ArrayList<>(items);
    others.removeAll(changedSince);
    int removed = 0;
    for (ImportItemEntity item : others) {
      removed += takeBack(item, by) ? 1 : 0;
    }
    return new TakenBack(
        removed,
        others.size() - removed,
        changedSince.stream().map(item -> item.part + " " + item.ref).toList());
  }

  private boolean isAsTaken(ImportItemEntity item) {
    if (item.part.equals("meetings")) {
      Stored now = register.find(item.ref).orElse(null);
      if (now == null || item.version == null) {
        return now == null && item.version == null;
      }
      return now.version() == item.version
          || item.digest != null && item.digest.equals(digestOf(item.ref));
    }
    Object now = current(item.part, item.ref);
    if (now == null) {
      return false;
    }
    // earlier versions of this program noted people without their zones
    return digest(now).equals(item.digest)
        || now instanceof Zoned person && digest(person.person()).equals(item.digest);
  }

  private @Nullable Object current(String part, String ref) {
    Organisation all = organisation.organisation();
    return switch (part) {
      case "people" ->
          organisation.people().stream()
              .filter(p -> Directory.fold(p.email()).equals(ref))
              .findFirst()
              .<Object>map(person -> zoned(person, organisation.zones()))
              .orElse(null);
      case "lists" -> byId(all.lists(), ref);
      case "spaces" -> byId(all.spaces(), ref);
      case "rooms" -> all.rooms().stream().filter(r -> r.id().equals(ref)).findFirst().orElse(null);
      default -> null;
    };
  }

  private static Organisation.@Nullable Gathering byId(
      List<Organisation.Gathering> gatherings, String id) {
    return gatherings.stream().filter(g -> g.id().equals(id)).findFirst().orElse(null);
  }

  /** Whether it was removed, rather than put back. */
  private boolean takeBack(ImportItemEntity item, String by) {
    if (item.document == null) {
      if (item.part.equals("meetings")) {
        register.forget(item.ref, by);
      } else {
        organisation.remove(item.part, item.ref);
      }
      return true;
    }
    switch (item.part) {
      case "meetings" -> restore.restore(item.ref, Long.parseLong(item.document), "taken-back", by);
      case "people" -> putBack(item.document);
      case "lists", "spaces" ->
          organisation.putGathering(
              item.part.equals("lists") ? "list" : "space",
              json.readValue(item.document, Organisation.Gathering.class));
      case "rooms" -> organisation.putRoom(json.readValue(item.document, Organisation.Room.class));
      default -> throw new IllegalStateException("nothing of the sort " + item.part);
    }
    return false;
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

  private void putBack(String document) {
    Zoned was = json.readValue(document, Zoned.class);
    organisation.put(List.of(was.person()));
    organisation.setZone(
        Directory.fold(was.email()), was.zone() == null ? null : ZoneId.of(was.zone()));
  }
}
