package app.uprightwarden.server.people;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;

/** A kind of meeting. */
@Entity
@Table(name = "kind")
class KindEntity {
  @Id String id = "";

  String name = "";

  boolean confidential;

  @Column(insertable = false, updatable = false)
  long position;
}
