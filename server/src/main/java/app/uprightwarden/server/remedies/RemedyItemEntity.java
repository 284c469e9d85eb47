package app.uprightwarden.server.remedies;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import org.hibernate.annotations.JdbcTypeCode;
import org.hibernate.type.SqlTypes;
import org.jspecify.annotations.Nullable;

/** What a remedy does to one meeting. */
@Entity
@Table(name = "remedy_item")
class RemedyItemEntity {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  long id;

  long job;

  String meeting = "";

  String title = "";

  String occurrence = "";

  @Column(columnDefinition = "longtext")
  @JdbcTypeCode(SqlTypes.LONG32VARCHAR)
  String changes = "";

  boolean newPasscode;

  boolean newNumber;

  @Nullable Long backTo;

  String state = "";

  int attempts;

  @Nullable Instant nextTry;

  @Nullable String trouble;

  @Nullable Long wasVersion;

  @Nullable Long nowVersion;

  int sent;

  @Nullable Instant doneAt;
}
