package app.uprightwarden.server.vault;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;

/** The one row that counts up when fingerprints are others. */
@Entity
@Table(name = "vault_revision")
class VaultRevisionEntity {
  @Id int id;

  long revision;
}
