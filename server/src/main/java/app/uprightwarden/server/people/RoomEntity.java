package app.uprightwarden.server.people;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;

/** A room that can be booked. */
@Entity
@Table(name = "room")
class RoomEntity {
  @Id String id = "";

  String name = "";

  String email = "";

  int seats;

  @Column(insertable = false, updatable = false)
  long position;
}
