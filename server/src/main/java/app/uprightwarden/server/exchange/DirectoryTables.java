package app.uprightwarden.server.exchange;

import app.uprightwarden.core.people.Directory;
import app.uprightwarden.core.people.Person;
import app.uprightwarden.core.people.Standing;
import app.uprightwarden.server.people.Organisation;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;

/** People, and lists and spaces, as tables. */
final class DirectoryTables {
  static final List<String> PEOPLE = List.of("email", "name", "standing", "unit", "active", "zone");
  static final List<String> LISTS = List.of("sort", "id", "name", "members");

  private DirectoryTables() {}

  static boolean arePeople(List<String> columns) {
    return columns.contains("email") && columns.contains("name");
  }

  static boolean areLists(List<String> columns) {
    return columns.contains("id") && columns.contains("members");
  }

  /**
   * Reads people. A column that is not there, and a cell that is empty, says nothing; a dash says
   * that there is none.
   */
  static FoundPeople people(Tables.Table table, FoundPeople found) {
    for (Tables.Row row : table.rows()) {
      found.add(
          new FoundPeople.Raw(
              row.get("email"),
              row.get("name"),
              row.get("standing").toLowerCase(Locale.ROOT),
              row.get("unit"),
              row.get("active"),
              row.get("zone")),
          row.line());
    }
    return found;
  }

  /** Reads lists and spaces. */
  static List<FoundGroups.Raw> gatherings(Tables.Table table, String sort) {
    return table.rows().stream()
        .filter(row -> sortOf(row).equals(sort))
        .map(
            row ->
                new FoundGroups.Raw(
                    row.get("id"),
                    row.get("name").isEmpty() ? row.get("id") : row.get("name"),
                    members(row),
                    row.line(),
                    List.of()))
        .toList();
  }

  static String sortOf(Tables.Row row) {
    return row.get("sort").equalsIgnoreCase("space") ? "space" : "list";
  }

  static List<String> members(Tables.Row row) {
    return Arrays.stream(row.get("members").split("[\\s,;]+"))
        .filter(member -> !member.isEmpty())
        .toList();
  }

  static String write(List<Person> people, Map<String, java.time.ZoneId> zones) {
    return Tables.write(
        PEOPLE,
        people.stream()
            .map(
                p -> {
                  java.time.ZoneId zone = zones.get(Directory.fold(p.email()));
                  return List.of(
                      p.email(),
                      p.name(),
                      p.standing() == Standing.MEMBER ? "member" : "guest",
                      Objects.requireNonNullElse(p.unit(), ""),
                      p.active() ? "yes" : "no",
                      zone == null ? "" : zone.getId());
                })
            .toList());
  }

  static String writeLists(Organisation organisation) {
    List<List<String>> rows = new java.util.ArrayList<>();
    organisation
        .lists()
        .forEach(l -> rows.add(List.of("list", l.id(), l.name(), String.join(" ", l.members()))));
    organisation
        .spaces()
        .forEach(s -> rows.add(List.of("space", s.id(), s.name(), String.join(" ", s.members()))));
    return Tables.write(LISTS, rows);
  }
}
