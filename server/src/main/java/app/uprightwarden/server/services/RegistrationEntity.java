package app.uprightwarden.server.services;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/** Somebody who asked to take part in a meeting, by the form of the service that holds it. */
@Entity
@Table(name = "meeting_registration")
class RegistrationEntity {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  long id;

  String meeting = "";

  long service;

  /** The meeting's id in the service. */
  String there = "";

  /** Folded. */
  String address = "";

  String name = "";

  @Nullable Instant askedAt;

  /** As the service last said: asked, approved or declined. */
  String state = "";

  /** What was decided and is still to be told to the service; null where nothing is. */
  @Nullable String wanted;

  @Column(name = "command")
  @Nullable String command;

  @Nullable String decidedBy;

  @Nullable Instant decidedAt;

  /** Why the service has not taken it. */
  @Nullable String why;
}
