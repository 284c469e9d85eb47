package app.uprightwarden.server.people;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import org.jspecify.annotations.Nullable;

/** A unit of the organisation. */
@Entity
@Table(name = "unit")
class UnitEntity {
  @Id String id = "";

  String name = "";

  @Nullable String parent;

  @Column(insertable = false, updatable = false)
  long position;
}
