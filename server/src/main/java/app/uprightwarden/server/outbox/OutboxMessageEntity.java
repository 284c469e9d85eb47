package app.uprightwarden.server.outbox;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/** A message as it went out, or will. */
@Entity
@Table(name = "outbox_message")
class OutboxMessageEntity {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  long id;

  String recipient = "";

  String subject = "";

  String about = "";

  @Column(columnDefinition = "mediumtext")
  String body = "";

  @Column(columnDefinition = "mediumblob")
  byte[] raw = new byte[0];

  String writtenBy = "";

  Instant writtenAt = Instant.EPOCH;

  @Column(columnDefinition = "mediumtext")
  @Nullable String html;

  @Column(columnDefinition = "mediumtext")
  @Nullable String calendar;

  String state = "";

  @Nullable String trouble;

  @Nullable String attachment;

  @Column(columnDefinition = "mediumblob")
  byte @Nullable [] sealed;
}
