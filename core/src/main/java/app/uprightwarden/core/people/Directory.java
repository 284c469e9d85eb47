package app.uprightwarden.core.people;

import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** Who is who: people by address, partner domains, units, and the members of lists and spaces. */
public final class Directory {
  private final Map<String, Person> people = new HashMap<>();
  private final Set<String> partnerDomains = new HashSet<>();
  private final Map<String, @Nullable String> unitParents;
  private final Map<String, List<String>> groups;

  /**
   * @param unitParents unit id → parent unit id or null
   * @param groups id of a list or space, prefixed {@code list:} or {@code space:} → addresses
   */
  public Directory(
      Collection<Person> people,
      Collection<String> partnerDomains,
      Map<String, @Nullable String> unitParents,
      Map<String, List<String>> groups) {
    people.forEach(person -> this.people.put(fold(person.email()), person));
    partnerDomains.forEach(domain -> this.partnerDomains.add(fold(domain)));
    this.unitParents = new HashMap<>(unitParents);
    this.groups = Map.copyOf(groups);
  }

  /** Addresses are compared without case. */
  public static String fold(String address) {
    return address.strip().toLowerCase(Locale.ROOT);
  }

  /** The person of an address, however it is written, or null. */
  public @Nullable Person find(String email) {
    return people.get(fold(email));
  }

  /** The directory decides member and guest, a partner's domain partner; the rest are outsiders. */
  public Standing standingOf(String email) {
    Person person = find(email);
    if (person != null) {
      return person.standing();
    }
    String address = fold(email);
    String domain = address.substring(address.lastIndexOf('@') + 1);
    return partnerDomains.contains(domain) ? Standing.PARTNER : Standing.OUTSIDER;
  }

  /** Unit ids from the root to this unit; empty for null or an unknown unit. */
  public List<String> unitPath(@Nullable String unit) {
    List<String> path = new ArrayList<>();
    String at = unit;
    while (at != null && unitParents.containsKey(at) && !path.contains(at)) {
      path.add(0, at);
      at = unitParents.get(at);
    }
    return List.copyOf(path);
  }

  /** The addresses a list reaches; empty for an unknown list. */
  public List<String> membersOfList(String id) {
    return groups.getOrDefault("list:" + id, List.of());
  }

  /** The addresses a space reaches; empty for an unknown space. */
  public List<String> membersOfSpace(String id) {
    return groups.getOrDefault("space:" + id, List.of());
  }
}
