package app.uprightwarden.server.alerting;

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

/** An event on its way to the webhook. */
@Entity
@Table(name = "alert_delivery")
class AlertDeliveryEntity {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  long id;

  /** The event's id, the same however often it is sent. */
  String event = "";

  String subject = "";

  /** As it is sent; emptied once it was taken. */
  @Column(columnDefinition = "longtext")
  @JdbcTypeCode(SqlTypes.LONG32VARCHAR)
  String body = "";

  /** {@code waiting}, {@code sent} or {@code failed}. */
  String state = "waiting";

  int tries;

  @Nullable String why;

  Instant madeAt = Instant.EPOCH;

  @Nullable Instant sentAt;
}
