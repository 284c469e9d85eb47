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
import org.springframework.data.domain.Persistable;

@Entity
@Table(name = "person")
class PersonEntity implements Persistable<String> {
  @Id private String email = "";

  @Column(nullable = false)
  private String folded = "";

  @Column(nullable = false)
  private String name = "";

  @Column(nullable = false)
  private String standing = "";

  private @Nullable String unit;

  private boolean active;

  private transient boolean fresh;

  protected PersonEntity() {}

  PersonEntity(Person person) {
    this.email = person.email();
    this.folded = Directory.fold(person.email());
    this.fresh = true;
    set(person);
  }

  void set(Person person) {
    name = person.name();
    standing = person.standing().id();
    unit = person.unit();
    active = person.active();
  }

  Person person() {
    return new Person(
        email, name, Standing.valueOf(standing.toUpperCase(Locale.ROOT)), unit, active);
  }

  @Override
  public String getId() {
    return email;
  }

  @Override
  public boolean isNew() {
    return fresh;
  }
}
