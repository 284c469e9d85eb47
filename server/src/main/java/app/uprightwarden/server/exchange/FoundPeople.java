package app.uprightwarden.server.exchange;

import app.uprightwarden.core.people.Directory;
import app.uprightwarden.core.people.Person;
import app.uprightwarden.core.people.Standing;
import app.uprightwarden.server.people.Organisation;
import java.time.DateTimeException;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/** People as they were found in a file of any format: those that can be taken, and the rest. */
final class FoundPeople {
  private static final Pattern EMAIL = Pattern.compile("[^@\\s<>\"]{1,64}@[^@\\s<>\"]{1,189}");

  private final Organisation organisation;
  private final List<ImportDirectory.Read<Person>> people = new ArrayList<>();
  private final Map<String, ZoneId> zones = new HashMap<>();
  private final List<Refused> refused = new ArrayList<>();
  private final Set<String> seen = new HashSet<>();

  FoundPeople(Organisation organisation) {
    this.organisation = organisation;
  }

  /**
   * A person as a file has them.
   *
   * @param standing {@code member} or {@code guest}; null where the file does not say
   * @param unit a unit's id or name, or empty
   * @param zone an IANA zone, or empty
   */
  record Raw(
      String email,
      String name,
      @Nullable String standing,
      String unit,
      boolean active,
      String zone) {}

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
    String why = why(raw);
    if (why != null) {
      refuse(raw.email(), raw.name(), line, why);
      return;
    }
    String unit = unit(raw.unit());
    if (unit == null && !raw.unit().isEmpty()) {
      remarks.add("there is no unit “" + raw.unit() + "”; it is left out");
    }
    zone(raw, remarks);
    Standing standing = standing(raw);
    if (raw.standing() == null) {
      remarks.add("the file names no standing: " + standing.id() + ", by the address");
    }
    people.add(
        new ImportDirectory.Read<>(
            new Person(raw.email(), raw.name().strip(), standing, unit, raw.active()),
            new ImportTally.Place(raw.name(), line, List.copyOf(remarks))));
  }

  private @Nullable String why(Raw raw) {
    if (!EMAIL.matcher(raw.email()).matches()) {
      return "“" + raw.email() + "” is no mail address";
    }
    if (raw.name().isBlank() || raw.name().length() > 200) {
      return "a name has 1 to 200 characters";
    }
    if (raw.standing() != null && !List.of("member", "guest").contains(raw.standing())) {
      return "the standing is “member” or “guest”, not “" + raw.standing() + "”";
    }
    return seen.add(Directory.fold(raw.email())) ? null : "the same address came before";
  }

  void refuse(String email, String name, @Nullable Integer line, String why) {
    refused.add(new Refused(email, new ImportTally.Place(name, line, List.of(why))));
  }

  private Standing standing(Raw raw) {
    if (raw.standing() != null) {
      return raw.standing().equals("guest") ? Standing.GUEST : Standing.MEMBER;
    }
    String address = Directory.fold(raw.email());
    String domain = address.substring(address.indexOf('@') + 1);
    boolean ours = organisation.domains().stream().anyMatch(d -> Directory.fold(d).equals(domain));
    return ours ? Standing.MEMBER : Standing.GUEST;
  }

  private @Nullable String unit(String named) {
    return organisation.units().stream()
        .filter(u -> u.id().equalsIgnoreCase(named) || u.name().equalsIgnoreCase(named))
        .findFirst()
        .map(Organisation.Unit::id)
        .orElse(null);
  }

  private void zone(Raw raw, List<String> remarks) {
    if (raw.zone().isEmpty()) {
      return;
    }
    try {
      zones.put(Directory.fold(raw.email()), ZoneId.of(raw.zone()));
    } catch (DateTimeException e) {
      remarks.add("“" + raw.zone() + "” is no time zone; it is left out");
    }
  }
}
