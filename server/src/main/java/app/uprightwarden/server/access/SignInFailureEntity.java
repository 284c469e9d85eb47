package app.uprightwarden.server.access;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import org.hibernate.annotations.JdbcTypeCode;
import org.hibernate.type.SqlTypes;

/** Failed sign-ins under one hashed key. */
@Entity
@Table(name = "sign_in_failure")
class SignInFailureEntity {
  @Id
  @JdbcTypeCode(SqlTypes.CHAR)
  String keyHash = "";

  int failures;

  Instant untilAt = Instant.EPOCH;

  Instant at = Instant.EPOCH;
}
