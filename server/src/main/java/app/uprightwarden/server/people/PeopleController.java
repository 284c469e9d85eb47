package app.uprightwarden.server.people;

import app.uprightwarden.core.people.Directory;
import app.uprightwarden.core.people.Person;
import app.uprightwarden.core.people.Standing;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.limits.Takes;
import app.uprightwarden.server.problem.Fault;
import app.uprightwarden.server.problem.ProblemException;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Pattern;
import jakarta.validation.constraints.Size;
import java.time.DateTimeException;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.security.access.prepost.PreAuthorize;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.validation.annotation.Validated;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PatchMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** The directory: people, lists, spaces, rooms, units, kinds, partners. */
@RestController
@RequestMapping("/api/people")
@Validated
class PeopleController {
  private static final String EMAIL = "[^@\\s<>\"]{1,64}@[^@\\s<>\"]{1,189}";
  private static final String ID = "[A-Za-z0-9][A-Za-z0-9._:-]{0,63}";

  private final OrganisationService organisation;
  private final PeopleSearch search;

  PeopleController(OrganisationService organisation, PeopleSearch search) {
    this.organisation = organisation;
    this.search = search;
  }

  /** Somebody in the directory. */
  record PersonView(
      String email,
      String name,
      String standing,
      @Nullable String unit,
      boolean active,
      @Nullable String zone) {
    static PersonView of(Person person, Map<String, ZoneId> zones) {
      ZoneId zone = zones.get(Directory.fold(person.email()));
      return new PersonView(
          person.email(),
          person.name(),
          person.standing().id(),
          person.unit(),
          person.active(),
          zone == null ? null : zone.getId());
    }
  }

  /** A page of people; {@code total} counts all that the filter keeps. */
  record PeoplePage(List<PersonView> items, int total) {}

  /**
   * @param text part of a name or address
   * @param standing {@code member} or {@code guest}
   * @param gone only those who are no longer active
   * @param best those whose name or address begins with the text come first; else all by name
   */
  @GetMapping
  @PreAuthorize("hasAnyRole('WARDEN', 'UNIT_WARDEN', 'AUDITOR', 'HOST')")
  PeoplePage people(
      @RequestParam(defaultValue = "") String text,
      @RequestParam(defaultValue = "") String unit,
      @RequestParam(defaultValue = "") String standing,
      @RequestParam(defaultValue = "false") boolean gone,
      @RequestParam(defaultValue = "false") boolean best,
      @RequestParam(defaultValue = "0") @Min(0) int page,
      @RequestParam(defaultValue = "200") @Min(1) @Max(1000) int size) {
    PeopleSearch.Found found =
        search.find(
            text,
            best,
            person ->
                (unit.isBlank() || unit.equals(person.unit()))
                    && (standing.isBlank() || standing.equals(person.standing().id()))
                    && (!gone || !person.active()),
            page,
            size);
    Map<String, ZoneId> zones =
        organisation.zones(
            found.people().stream().map(person -> Directory.fold(person.email())).toList());
    return new PeoplePage(
        found.people().stream().map(person -> PersonView.of(person, zones)).toList(),
        found.total());
  }

  /** Somebody's entry as it was looked at. */
  record PersonSeen(
      @NotNull @Size(max = 200) String name,
      @NotNull @Pattern(regexp = "member|guest") String standing,
      @Nullable @Size(max = 64) String unit,
      boolean active,
      @Nullable @Size(max = 64) String zone) {}

  /**
   * Somebody to put in place.
   *
   * @param seen their entry as it was looked at; left out, nobody asks whether somebody changed it
   *     since
   */
  record PersonToPut(
      @NotBlank @Size(max = 200) String name,
      @NotNull @Pattern(regexp = "member|guest") String standing,
      @Nullable @Size(max = 64) String unit,
      boolean active,
      @Nullable @Size(max = 64) String zone,
      @Nullable @Valid PersonSeen seen) {}

  /**
   * Puts somebody in place.
   *
   * @param ifNoneMatch {@code *} where nobody may have this address yet (RFC 9110, 13.1.2)
   */
  @PutMapping("/{email}")
  @PreAuthorize("hasRole('WARDEN')")
  PersonView put(
      @PathVariable @Pattern(regexp = EMAIL) String email,
      @RequestHeader(name = HttpHeaders.IF_NONE_MATCH, required = false)
          @Nullable String ifNoneMatch,
      @RequestBody @Valid PersonToPut given) {
    Organisation all = organisation.organisation();
    List<Fault> faults = new ArrayList<>();
    if (given.unit() != null && all.units().stream().noneMatch(u -> u.id().equals(given.unit()))) {
      faults.add(new Fault("/unit", "there is no such unit"));
    }
    PersonSeen seen = given.seen();
    ZoneId zone = zone(given.zone(), "/zone", faults);
    ZoneId zoneSeen = seen == null ? null : zone(seen.zone(), "/seen/zone", faults);
    if (!faults.isEmpty()) {
      throw ProblemException.invalid("Some values are wrong. Nothing was changed.", faults);
    }
    Person person =
        person(email, given.name().strip(), given.standing(), given.unit(), given.active());
    if (isNew(ifNoneMatch)) {
      organisation.add(person, zone);
    } else {
      organisation.change(
          person,
          zone,
          seen == null
              ? null
              : person(email, seen.name(), seen.standing(), seen.unit(), seen.active()),
          zoneSeen);
    }
    return PersonView.of(
        organisation.people().stream()
            .filter(p -> Directory.fold(p.email()).equals(Directory.fold(email)))
            .findFirst()
            .orElse(person),
        organisation.zones());
  }

  private static Person person(
      String email, String name, String standing, @Nullable String unit, boolean active) {
    return new Person(
        email, name, Standing.valueOf(standing.toUpperCase(Locale.ROOT)), unit, active);
  }

  private static @Nullable ZoneId zone(@Nullable String given, String at, List<Fault> faults) {
    try {
      return given == null || given.isBlank() ? null : ZoneId.of(given);
    } catch (DateTimeException e) {
      faults.add(new Fault(at, "is no time zone; use a name such as Europe/Dublin"));
      return null;
    }
  }

  private static boolean isNew(@Nullable String ifNoneMatch) {
    return ifNoneMatch != null && ifNoneMatch.strip().equals("*");
  }

  /**
   * A list or a space with its members. Hosts see those of the ones that they are in.
   *
   * @param sort {@code lists} or {@code spaces}
   */
  @GetMapping("/groups/{sort}/{id}")
  @PreAuthorize("hasAnyRole('WARDEN', 'UNIT_WARDEN', 'AUDITOR', 'HOST')")
  Organisation.Gathering gathering(
      @PathVariable @Pattern(regexp = "lists|spaces") String sort,
      @PathVariable String id,
      @AuthenticationPrincipal(expression = SignedIn.AS_HOST) SignedIn who) {
    Organisation all = organisation.organisation();
    Organisation.Gathering found =
        (sort.equals("lists") ? all.lists() : all.spaces())
            .stream()
                .filter(each -> each.id().equals(id))
                .findFirst()
                .orElseThrow(() -> ProblemException.notFound("There is no " + id + "."));
    String self = Directory.fold(who.email());
    boolean isIn = found.members().stream().anyMatch(each -> Directory.fold(each).equals(self));
    if (who.isHost() && !isIn) {
      throw ProblemException.forbidden(
          "members-not-seen", "Who is in it is seen by those who are.");
    }
    return found;
  }

  /** A list or a space to put in place. */
  record GatheringToPut(
      @NotBlank @Size(max = 200) String name,
      @NotNull @Size(max = OrganisationService.MAX_MEMBERS)
          List<@NotNull @Pattern(regexp = EMAIL) String> members) {}

  /**
   * What is to be otherwise in a list or a space; who is named in neither stays as they are.
   *
   * @param name what it is to be called; left out, it is called as it is
   */
  record GatheringChange(
      @Nullable @Pattern(regexp = "(?s).*\\S.*") @Size(max = 200) String name,
      @NotNull @Size(max = OrganisationService.MAX_MEMBERS)
          List<@NotNull @Pattern(regexp = EMAIL) String> add,
      @NotNull @Size(max = OrganisationService.MAX_MEMBERS)
          List<@NotNull @Size(max = 254) String> remove) {}

  /**
   * Names it, adds members and takes some out; what others did to it meanwhile stays.
   *
   * @param sort {@code lists} or {@code spaces}
   */
  @Takes(kilobytes = 2048)
  @PatchMapping("/groups/{sort}/{id}")
  @PreAuthorize("hasRole('WARDEN')")
  Organisation.Gathering changeGathering(
      @PathVariable @Pattern(regexp = "lists|spaces") String sort,
      @PathVariable @Pattern(regexp = ID) String id,
      @RequestBody @Valid GatheringChange change) {
    return organisation.changeGathering(
        sort.equals("lists") ? "list" : "space",
        id,
        change.name() == null ? null : change.name().strip(),
        change.add(),
        change.remove());
  }

  /**
   * @param sort {@code lists} or {@code spaces}
   * @param ifNoneMatch {@code *} where there may be none with this id yet
   */
  @Takes(kilobytes = 2048)
  @PutMapping("/groups/{sort}/{id}")
  @PreAuthorize("hasRole('WARDEN')")
  Organisation.Gathering putGathering(
      @PathVariable @Pattern(regexp = "lists|spaces") String sort,
      @PathVariable @Pattern(regexp = ID) String id,
      @RequestHeader(name = HttpHeaders.IF_NONE_MATCH, required = false)
          @Nullable String ifNoneMatch,
      @RequestBody @Valid GatheringToPut given) {
    Organisation.Gathering gathering =
        new Organisation.Gathering(
            id, given.name().strip(), given.members().stream().distinct().toList());
    String one = sort.equals("lists") ? "list" : "space";
    if (isNew(ifNoneMatch)) {
      organisation.addGathering(one, gathering);
    } else {
      organisation.putGathering(one, gathering);
    }
    return gathering;
  }

  /** A room as it was looked at. */
  record RoomSeen(
      @NotNull @Size(max = 200) String name, @NotNull @Size(max = 254) String email, int seats) {}

  /**
   * A room to put in place.
   *
   * @param seen the room as it was looked at; left out, nobody asks whether somebody changed it
   *     since
   */
  record RoomToPut(
      @NotBlank @Size(max = 200) String name,
      @NotNull @Pattern(regexp = EMAIL) String email,
      @Min(1) @Max(1_000_000) int seats,
      @Nullable @Valid RoomSeen seen) {}

  /**
   * @param ifNoneMatch {@code *} where there may be none with this id yet
   */
  @PutMapping("/groups/rooms/{id}")
  @PreAuthorize("hasRole('WARDEN')")
  Organisation.Room putRoom(
      @PathVariable @Pattern(regexp = ID) String id,
      @RequestHeader(name = HttpHeaders.IF_NONE_MATCH, required = false)
          @Nullable String ifNoneMatch,
      @RequestBody @Valid RoomToPut given) {
    Organisation.Room room =
        new Organisation.Room(id, given.name().strip(), given.email(), given.seats());
    if (isNew(ifNoneMatch)) {
      organisation.addRoom(room);
    } else {
      RoomSeen seen = given.seen();
      organisation.changeRoom(
          room,
          seen == null ? null : new Organisation.Room(id, seen.name(), seen.email(), seen.seats()));
    }
    return room;
  }

  /** Takes a list, space or room away; one that meetings still refer to stays. */
  @DeleteMapping("/groups/{sort}/{id}")
  @PreAuthorize("hasRole('WARDEN')")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void remove(
      @PathVariable @Pattern(regexp = "lists|spaces|rooms") String sort, @PathVariable String id) {
    int used = organisation.uses(sort, id);
    if (used > 0) {
      throw ProblemException.conflict(
          "in-use",
          used
              + (used == 1 ? " meeting refers" : " meetings refer")
              + " to it. Take it out of those first. Nothing was changed.");
    }
    organisation.removeAll(sort, List.of(id));
  }

  /**
   * The organisation's own facts, units and kinds to put in place; nothing is removed.
   *
   * @param facts as they came with the organisation that was looked at; left out, nobody asks
   *     whether somebody changed them since
   */
  record HouseToPut(
      @NotBlank @Size(max = 200) String name,
      @NotNull @Size(max = 100) List<@NotBlank @Size(max = 189) String> domains,
      @NotNull @Size(max = 1000) List<@NotNull @Valid PartnerToPut> partners,
      @Min(1) @Max(1_000_000) int maxParticipants,
      @Min(1) @Max(100_000) int maxMinutes,
      @NotNull @Size(max = 5000) List<@NotNull @Valid UnitToPut> units,
      @NotNull @Size(max = 1000) List<@NotNull @Valid KindToPut> kinds,
      @Nullable @Size(max = 64) String facts) {}

  record PartnerToPut(
      @NotBlank @Size(max = 200) String name,
      @NotNull @Size(max = 100) List<@NotBlank @Size(max = 189) String> domains) {}

  record UnitToPut(
      @NotNull @Pattern(regexp = ID) String id,
      @NotBlank @Size(max = 200) String name,
      @Nullable @Size(max = 200) String parent) {}

  record KindToPut(
      @NotNull @Pattern(regexp = ID) String id,
      @NotBlank @Size(max = 200) String name,
      boolean confidential) {}

  @Takes(kilobytes = 1024)
  @PutMapping("/house")
  @PreAuthorize("hasRole('WARDEN')")
  Organisation putHouse(@RequestBody @Valid HouseToPut given) {
    List<Organisation.Unit> units =
        given.units().stream()
            .map(u -> new Organisation.Unit(u.id(), u.name(), u.parent()))
            .toList();
    checkIds(given);
    checkTree(units);
    organisation.change(
        new Organisation(
            given.name().strip(),
            given.domains(),
            given.partners().stream()
                .map(p -> new Organisation.Partner(p.name(), p.domains()))
                .toList(),
            new Organisation.Plan(given.maxParticipants(), given.maxMinutes()),
            units,
            given.kinds().stream()
                .map(k -> new Organisation.Kind(k.id(), k.name(), k.confidential()))
                .toList(),
            List.of(),
            List.of(),
            List.of()),
        given.facts());
    return organisation.organisation();
  }

  /** No unit and no kind is there twice: the second would take the place of the first. */
  private static void checkIds(HouseToPut given) {
    List<Fault> faults = new ArrayList<>();
    checkIds("units", given.units().stream().map(UnitToPut::id).toList(), faults);
    checkIds("kinds", given.kinds().stream().map(KindToPut::id).toList(), faults);
    if (!faults.isEmpty()) {
      throw ProblemException.invalid("Some ids are there twice. Nothing was changed.", faults);
    }
  }

  private static void checkIds(String part, List<String> ids, List<Fault> faults) {
    Set<String> known = new HashSet<>();
    for (int i = 0; i < ids.size(); i++) {
      if (!known.add(ids.get(i))) {
        faults.add(
            new Fault(
                "/" + part + "/" + i + "/id",
                "“" + ids.get(i) + "” is there already; give another id"));
      }
    }
  }

  /** Every parent is a unit, and nobody is their own ancestor. */
  private static void checkTree(List<Organisation.Unit> units) {
    Map<String, @Nullable String> parents = new HashMap<>();
    units.forEach(u -> parents.put(u.id(), u.parent()));
    List<Fault> faults = new ArrayList<>();
    for (int i = 0; i < units.size(); i++) {
      String at = units.get(i).parent();
      for (int steps = 0; at != null; steps++) {
        if (!parents.containsKey(at) || steps > units.size()) {
          faults.add(
              new Fault(
                  "/units/" + i + "/parent",
                  parents.containsKey(at) ? "the units form a circle" : "there is no such unit"));
          break;
        }
        at = parents.get(at);
      }
    }
    if (!faults.isEmpty()) {
      throw ProblemException.invalid("The units are no tree. Nothing was changed.", faults);
    }
  }
}
