package app.uprightwarden.server.people;

import app.uprightwarden.core.people.Person;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Finds people as somebody types, among tens of thousands. */
@Component
class PeopleSearch {
  private final OrganisationService organisation;
  private volatile @Nullable Index index;

  PeopleSearch(OrganisationService organisation) {
    this.organisation = organisation;
  }

  /**
   * Somebody with what is looked at.
   *
   * @param text name and address in small letters
   */
  private record Entry(Person person, String text) {
    /** Whether the name, a word of it or the address begins with what is looked for. */
    boolean begins(String wanted) {
      return text.startsWith(wanted) || text.contains(" " + wanted);
    }
  }

  /** Everybody by name, made of one reading of the directory. */
  private record Index(List<Person> of, List<Entry> byName) {}

  /**
   * Who was found.
   *
   * @param total how many there are in all
   */
  record Found(List<Person> people, int total) {}

  private List<Entry> byName() {
    List<Person> people = organisation.people();
    Index kept = index;
    if (kept != null && kept.of() == people) {
      return kept.byName();
    }
    List<Entry> byName =
        people.stream()
            .map(
                each ->
                    new Entry(each, (each.name() + " " + each.email()).toLowerCase(Locale.ROOT)))
            .sorted(Comparator.comparing(Entry::text))
            .toList();
    index = new Index(people, byName);
    return byName;
  }

  /**
   * A page of those who are looked for, by name.
   *
   * @param text part of a name or address
   * @param isBestFirst those whose name, a word of it or address begins with the text come first
   * @param isKept what else has to hold of them
   */
  Found find(String text, boolean isBestFirst, Predicate<Person> isKept, int page, int size) {
    String wanted = text.strip().toLowerCase(Locale.ROOT);
    List<Person> first = new ArrayList<>();
    List<Person> others = new ArrayList<>();
    for (Entry each : byName()) {
      if (each.text().contains(wanted) && isKept.test(each.person())) {
        (isBestFirst && !each.begins(wanted) ? others : first).add(each.person());
      }
    }
    first.addAll(others);
    int from = (int) Math.min((long) page * size, first.size());
    return new Found(
        List.copyOf(first.subList(from, Math.min(from + size, first.size()))), first.size());
  }
}
