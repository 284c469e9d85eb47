package app.uprightwarden.server.floor;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.IdClass;
import jakarta.persistence.Table;
import java.io.Serializable;
import org.hibernate.annotations.JdbcTypeCode;
import org.hibernate.type.SqlTypes;

/** An event of a session, as the service told it. */
@Entity
@Table(name = "floor_event")
@IdClass(FloorEventEntity.Key.class)
class FloorEventEntity {
  @Id String session = "";

  @Id long seq;

  @Column(columnDefinition = "longtext")
  @JdbcTypeCode(SqlTypes.LONG32VARCHAR)
  String body = "";

  /** What tells rows apart. */
  record Key(String session, long seq) implements Serializable {}
}
