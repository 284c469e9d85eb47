package app.uprightwarden.server.access;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;

/** The one row that says who needs a second factor. */
@Entity
@Table(name = "access_setting")
class AccessSettingEntity {
  @Id int id;

  String factorFor = "";
}
