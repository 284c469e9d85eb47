package app.uprightwarden.server.exchange;

import app.uprightwarden.core.people.Directory;
import app.uprightwarden.server.access.AccessHash;
import app.uprightwarden.server.people.Organisation;
import app.uprightwarden.server.problem.Texts;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.function.Function;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/** Lists and spaces as they were found in a file, checked as those of a bundle are. */
final class FoundGroups {
  private static final Pattern ID = Pattern.compile("[A-Za-z0-9][A-Za-z0-9._:-]{0,63}");
  private static final Pattern EMAIL = Pattern.compile("[^@\\s<>\"]{1,64}@[^@\\s<>\"]{1,189}");
  private static final int MAX_MEMBERS = 20_000;
  private static final int DEEPEST = 20;

  private FoundGroups() {}

  /**
   * A list as a file has it.
   *
   * @param members addresses
   */
  record Raw(
      String id, String name, List<String> members, @Nullable Integer line, List<String> remarks) {}

  /**
   * A group of a directory, which may hold others.
   *
   * @param key its own name in the directory: a DN, an id
   * @param members names of people and of groups
   */
  record Nested(String key, String name, List<String> members) {}

  /** Those that can be taken; the rest is refused with what is wrong. */
  static List<ImportDirectory.Read<Organisation.Gathering>> checked(
      List<Raw> raw, String part, ImportTally tally) {
    List<ImportDirectory.Read<Organisation.Gathering>> good = new ArrayList<>();
    Set<String> seen = new HashSet<>();
    for (Raw each : raw) {
      String why = why(each, seen);
      if (why == null) {
        good.add(
            new ImportDirectory.Read<>(
                new Organisation.Gathering(each.id(), each.name(), distinct(each.members())),
                new ImportTally.Place(each.name(), each.line(), each.remarks())));
      } else {
        tally.refuse(
            part, each.id(), new ImportTally.Place(each.name(), each.line(), List.of(why)));
      }
    }
    return good;
  }

  private static @Nullable String why(Raw raw, Set<String> seen) {
    if (!ID.matcher(raw.id()).matches()) {
      return "“"
          + shortened(raw.id())
          + "” is no id: letters, digits, “.”, “_”, “:” and “-”, 64 at most, a letter or digit first";
    }
    if (raw.name().isBlank() || raw.name().length() > 200) {
      return "a name has 1 to 200 characters";
    }
    if (raw.members().size() > MAX_MEMBERS) {
      return "it has " + raw.members().size() + " members; " + MAX_MEMBERS + " are the most";
    }
    for (String member : raw.members()) {
      if (!EMAIL.matcher(member).matches()) {
        return "the member “" + shortened(member) + "” is no mail address";
      }
    }
    return seen.add(raw.id()) ? null : "the same id came before";
  }

  private static List<String> distinct(List<String> members) {
    Map<String, String> each = new LinkedHashMap<>();
    members.forEach(member -> each.putIfAbsent(Directory.fold(member), member));
    return List.copyOf(each.values());
  }

  /**
   * Lists of a directory's groups. A group in a group stands for its members. Names that make the
   * same id are told apart by what the directory calls the groups, whatever their order.
   *
   * @param addressOf the address of a member who is no group; null where they are not known
   */
  static List<Raw> lists(
      List<Nested> groups,
      Function<String, String> keyOf,
      Function<String, @Nullable String> addressOf) {
    Map<String, Nested> byKey = new HashMap<>();
    groups.forEach(group -> byKey.put(group.key(), group));
    Map<String, Integer> ids = new HashMap<>();
    groups.forEach(group -> ids.merge(idOf(group.name()), 1, Integer::sum));
    List<Raw> lists = new ArrayList<>();
    for (Nested group : groups) {
      Set<String> members = new LinkedHashSet<>();
      Set<String> unknown = new LinkedHashSet<>();
      Set<String> met = new HashSet<>();
      new Object() {
        void gather(Nested from, int depth) {
          if (depth > DEEPEST || !met.add(from.key()) || members.size() > MAX_MEMBERS) {
            return;
          }
          for (String member : from.members()) {
            Nested inner = byKey.get(keyOf.apply(member));
            String address = inner == null ? addressOf.apply(member) : null;
            if (inner != null) {
              gather(inner, depth + 1);
            } else if (address != null) {
              members.add(address);
            } else {
              unknown.add(member);
            }
          }
        }
      }.gather(group, 0);
      String id = idOf(group.name());
      boolean isShared = ids.getOrDefault(id, 1) > 1;
      String own =
          isShared
              ? id.substring(0, Math.min(id.length(), 55))
                  + "-"
                  + AccessHash.sha256(group.key()).substring(0, 8)
              : id;
      List<String> remarks = new ArrayList<>();
      if (!unknown.isEmpty()) {
        remarks.add(
            unknown.size() == 1
                ? "one member is neither in the file nor known here: "
                    + shortened(unknown.iterator().next())
                : unknown.size() + " members are neither in the file nor known here");
      }
      if (isShared) {
        remarks.add("another group has the same name: this one is " + own);
      }
      lists.add(new Raw(own, group.name(), List.copyOf(members), null, remarks));
    }
    return lists;
  }

  /** An id from a name, of the letters that ids have. */
  static String idOf(String name) {
    String id =
        name.toLowerCase(Locale.ROOT).replaceAll("[^a-z0-9]+", "-").replaceAll("^-+|-+$", "");
    String known = id.isEmpty() ? "list" : id;
    return known.length() > 64 ? known.substring(0, 64) : known;
  }

  private static String shortened(String text) {
    return text.length() > 60 ? Texts.cut(text, 60) + "…" : text;
  }
}
