package app.uprightwarden.server.people;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.IdClass;
import jakarta.persistence.Table;
import java.io.Serializable;
import org.hibernate.annotations.JdbcTypeCode;
import org.hibernate.type.SqlTypes;

/** A distribution list or a space. */
@Entity
@Table(name = "gathering")
@IdClass(GatheringEntity.Key.class)
class GatheringEntity {
  @Id String id = "";

  @Id String sort = "";

  String name = "";

  @Column(columnDefinition = "longtext")
  @JdbcTypeCode(SqlTypes.LONG32VARCHAR)
  String members = "";

  @Column(insertable = false, updatable = false)
  long position;

  /** What tells rows apart. */
  record Key(String sort, String id) implements Serializable {}
}
