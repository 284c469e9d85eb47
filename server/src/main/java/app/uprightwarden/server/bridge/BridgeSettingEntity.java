package app.uprightwarden.server.bridge;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.IdClass;
import jakarta.persistence.Table;
import java.io.Serializable;
import org.hibernate.annotations.JdbcTypeCode;
import org.hibernate.type.SqlTypes;

/** A control of a meeting as the stand-in holds it. */
@Entity
@Table(name = "bridge_setting")
@IdClass(BridgeSettingEntity.Key.class)
class BridgeSettingEntity {
  @Id String meeting = "";

  @Id String occurrence = "";

  @Id String control = "";

  @Column(columnDefinition = "longtext")
  @JdbcTypeCode(SqlTypes.LONG32VARCHAR)
  String value = "";

  /** What tells rows apart. */
  record Key(String meeting, String occurrence, String control) implements Serializable {}
}
