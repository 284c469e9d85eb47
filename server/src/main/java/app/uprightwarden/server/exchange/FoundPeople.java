package app.uprightwarden.server.exchange;

import app.uprightwarden.core.people.Directory;
import app.uprightwarden.core.people.Person;
import app.uprightwarden.core.people.Standing;
import app.uprightwarden.server.people.Organisation;
import java.time.DateTimeException;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/** People as they were found in a file of any format: those that can be taken, and the rest. */
final class FoundPeople {
  private static final Pattern EMAIL = Pattern.compile("[^@\\s<>\"]{1,64}@[^@\\s<>\"]{1,189}");

  /** In a file of people: there is none. */
  static final String NONE = "-";

  private static final Set<String> YES =
      Set.of("yes", "true", "1", "y", "active", "enabled", "ja", "oui", "sí", "si");
  private static final Set<String> NO =
      Set.of("no", "false", "0", "n", "inactive", "disabled", "gone", "nein", "non");

  private final Organisation organisation;
  private final Map<String, Person> known = new HashMap<>();
  private final List<ImportDirectory.Read<Person>> people = new ArrayList<>();
  private final Map<String, ZoneId> zones = new HashMap<>();
  private final List<Refused> refused = new ArrayList<>();
  private final Set<String> seen = new HashSet<>();

  /**
   * @param known the people there are: what a file does not say of them stays as it is
   */
  FoundPeople(Organisation organisation, Collection<Person> known) {
    this.organisation = organisation;
    known.forEach(person -> this.known.put(Directory.fold(person.email()), person));
  }

  /**
   * A person as a file has them; null for what it does not say.
   *
   * @param standing {@code member} or {@code guest}
   * @param unit a unit's id or name, or {@link #NONE}
   * @param active as it is written
   * @param zone an IANA zone
   */
  record Raw(
      String email,
      @Nullable String name,
      @Nullable String standing,
      @Nullable String unit,
      @Nullable String active,
      @Nullable String zone) {
    Raw {
      name = said(name);
      standing = said(standing);
      unit = said(unit);
      active = said(active);
      zone = said(zone);
    }

    private static @Nullable String said(@Nullable String text) {
      return text == null || text.isBlank() ? null : text.strip();
    }
  }

  /** Somebody who cannot be taken, and why. */
  record Refused(String email, ImportTally.Place place) {}

  List<ImportDirectory.Read<Person>> people() {
    return people;
  }

  Map<String, ZoneId> zones() {
    return zones;
  }

  List<Refused> refused() {
    return refused;
  }

  void add(Raw raw, @Nullable Integer line) {
    List<String> remarks = new ArrayList<>();
    Person before = known.get(Directory.fold(raw.email()));
    String name = raw.name() != null ? raw.name() : before != null ? before.name() : raw.email();
    String why = why(raw, name);
    if (why != null) {
      refuse(raw.email(), name, line, why);
      return;
    }
    zone(raw, remarks);
    people.add(
        new ImportDirectory.Read<>(
            new Person(
                before == null ? raw.email() : before.email(),
                name,
                standing(raw, before, remarks),
                unit(raw, before, remarks),
                active(raw, before)),
            new ImportTally.Place(name, line, List.copyOf(remarks))));
  }

  private static boolean active(Raw raw, @Nullable Person before) {
    return raw.active() == null
        ? before == null || before.active()
        : YES.contains(raw.active().toLowerCase(Locale.ROOT));
  }

  private @Nullable String why(Raw raw, String name) {
    if (!EMAIL.matcher(raw.email()).matches()) {
      return "“" + raw.email() + "” is no mail address";
    }
    if (name.isBlank() || name.length() > 200) {
      return "a name has 1 to 200 characters";
    }
    if (raw.standing() != null && !List.of("member", "guest").contains(raw.standing())) {
      return "the standing is “member” or “guest”, not “" + raw.standing() + "”";
    }
    if (raw.active() != null) {
      String active = raw.active().toLowerCase(Locale.ROOT);
      if (!YES.contains(active) && !NO.contains(active)) {
        return "active is “yes” or “no”, not “" + raw.active() + "”";
      }
    }
    return seen.add(Directory.fold(raw.email())) ? null : "the same address came before";
  }

  void refuse(String email, String name, @Nullable Integer line, String why) {
    refused.add(new Refused(email, new ImportTally.Place(name, line, List.of(why))));
  }

  private Standing standing(Raw raw, @Nullable Person before, List<String> remarks) {
    if (raw.standing() != null) {
      return raw.standing().equals("guest") ? Standing.GUEST : Standing.MEMBER;
    }
    if (before != null) {
      return before.standing();
    }
    String address = Directory.fold(raw.email());
    String domain = address.substring(address.indexOf('@') + 1);
    boolean ours = organisation.domains().stream().anyMatch(d -> Directory.fold(d).equals(domain));
    Standing standing = ours ? Standing.MEMBER : Standing.GUEST;
    remarks.add("the file names no standing: " + standing.id() + ", by the address");
    return standing;
  }

  private @Nullable String unit(Raw raw, @Nullable Person before, List<String> remarks) {
    String was = before == null ? null : before.unit();
    String named = raw.unit();
    if (named == null) {
      return was;
    }
    if (named.equals(NONE)) {
      return null;
    }
    String unit =
        organisation.units().stream()
            .filter(u -> u.id().equalsIgnoreCase(named) || u.name().equalsIgnoreCase(named))
            .findFirst()
            .map(Organisation.Unit::id)
            .orElse(null);
    if (unit == null) {
      remarks.add(
          "there is no unit “" + named + "”; " + (was == null ? "it is left out" : was + " stays"));
      return was;
    }
    return unit;
  }

  /** The address of somebody whom a group names otherwise than by the file's own names. */
  @Nullable String addressOf(String name) {
    String folded = Directory.fold(name);
    if (EMAIL.matcher(name).matches()) {
      boolean isKnown = known.containsKey(folded) || seen.contains(folded);
      return isKnown ? name : null;
    }
    List<String> meant =
        known.values().stream()
            .filter(
                p ->
                    Directory.fold(p.email()).startsWith(folded + "@")
                        || p.name().equalsIgnoreCase(name.strip()))
            .map(Person::email)
            .toList();
    return meant.size() == 1 ? meant.get(0) : null;
  }

  private void zone(Raw raw, List<String> remarks) {
    if (raw.zone() == null) {
      return;
    }
    try {
      zones.put(Directory.fold(raw.email()), ZoneId.of(raw.zone()));
    } catch (DateTimeException e) {
      remarks.add("“" + raw.zone() + "” is no time zone; it is left out");
    }
  }
}
