package app.uprightwarden.server.people;

import app.uprightwarden.core.people.Directory;
import app.uprightwarden.core.people.Person;
import app.uprightwarden.core.people.Standing;
import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/** Somebody the directory knows. */
@Entity
@Table(name = "person")
class PersonEntity {
  @Id String email = "";

  String folded = "";

  String name = "";

  String standing = "";

  @Nullable String unit;

  boolean active;

  /** Set by itself: what changes a person leaves it. */
  @Nullable String zone;

  @Column(insertable = false, updatable = false)
  long position;

  protected PersonEntity() {}

  PersonEntity(Person person) {
    email = person.email();
    folded = Directory.fold(person.email());
    set(person);
  }

  final void set(Person person) {
    name = person.name();
    standing = person.standing().id();
    unit = person.unit();
    active = person.active();
  }

  Person person() {
    return new Person(
        email, name, Standing.valueOf(standing.toUpperCase(Locale.ROOT)), unit, active);
  }
}
