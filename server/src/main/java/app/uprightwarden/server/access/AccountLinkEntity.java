package app.uprightwarden.server.access;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import org.hibernate.annotations.JdbcTypeCode;
import org.hibernate.type.SqlTypes;

/** A link that sets a password, once. */
@Entity
@Table(name = "account_link")
class AccountLinkEntity {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  long id;

  @JdbcTypeCode(SqlTypes.CHAR)
  String tokenHash = "";

  long account;

  String madeBy = "";

  Instant madeAt = Instant.EPOCH;

  Instant endsAt = Instant.EPOCH;
}
