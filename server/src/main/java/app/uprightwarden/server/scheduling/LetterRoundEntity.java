package app.uprightwarden.server.scheduling;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import org.hibernate.annotations.JdbcTypeCode;
import org.hibernate.type.SqlTypes;
import org.jspecify.annotations.Nullable;

/** Letters to many, written some at a time. */
@Entity
@Table(name = "letter_round")
class LetterRoundEntity {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  long id;

  String meeting = "";

  String sort = "";

  @Nullable String word;

  @Column(columnDefinition = "longtext")
  @JdbcTypeCode(SqlTypes.LONG32VARCHAR)
  String document = "";

  @Column(columnDefinition = "longtext")
  @JdbcTypeCode(SqlTypes.LONG32VARCHAR)
  String recipients = "";

  int nextOne;

  int sequence;

  boolean asksAnew;

  String writtenBy = "";

  @Column(columnDefinition = "text")
  @Nullable String changes;
}
