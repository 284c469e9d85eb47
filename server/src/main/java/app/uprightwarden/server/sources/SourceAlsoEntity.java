package app.uprightwarden.server.sources;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.IdClass;
import jakarta.persistence.Table;
import java.io.Serializable;

/**
 * A meeting that a calendar holds as well, and another has brought: it takes it over from there.
 */
@Entity
@Table(name = "source_also")
@IdClass(SourceAlsoEntity.Key.class)
class SourceAlsoEntity {
  @Id long source;

  @Id String name = "";

  @Id String meeting = "";

  /** What tells rows apart. */
  record Key(long source, String name, String meeting) implements Serializable {}
}
