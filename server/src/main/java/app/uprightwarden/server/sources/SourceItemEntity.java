package app.uprightwarden.server.sources;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.IdClass;
import jakarta.persistence.Table;
import java.io.Serializable;
import org.jspecify.annotations.Nullable;

/** What a calendar held when it was read last, by its name there and the mark of its state. */
@Entity
@Table(name = "source_item")
@IdClass(SourceItemEntity.Key.class)
class SourceItemEntity {
  @Id long source;

  @Id String name = "";

  String mark = "";

  String title = "";

  /** Why it, or some of it, is no meeting. */
  @Nullable String refused;

  /** What tells rows apart. */
  record Key(long source, String name) implements Serializable {}
}
