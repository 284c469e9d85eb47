package app.uprightwarden.server.register;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;

/** A number that a host uses again and again. */
@Entity
@Table(name = "host_number")
class HostNumberEntity {
  @Id String number = "";

  String host = "";
}
