package app.uprightwarden.server.register;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import org.hibernate.annotations.JdbcTypeCode;
import org.hibernate.type.SqlTypes;

/** A set of control values, stored once and never changed. */
@Entity
@Table(name = "control_set")
class ControlSetEntity {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  long id;

  @JdbcTypeCode(SqlTypes.CHAR)
  String digest = "";

  @Column(columnDefinition = "longtext")
  @JdbcTypeCode(SqlTypes.LONG32VARCHAR)
  String document = "";
}
