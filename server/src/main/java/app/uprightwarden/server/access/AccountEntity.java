package app.uprightwarden.server.access;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

@Entity
@Table(name = "account")
class AccountEntity {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  private @Nullable Long id;

  @Column(nullable = false)
  private String email = "";

  @Column(nullable = false)
  private String name = "";

  @Column(nullable = false)
  private String role = "";

  @Column(nullable = false)
  private String passwordHash = "";

  private boolean active = true;

  @Column(nullable = false)
  private Instant createdAt = Instant.EPOCH;

  protected AccountEntity() {}

  AccountEntity(String email, String name, Role role, String passwordHash, Instant createdAt) {
    this.email = email;
    this.name = name;
    this.role = role.id();
    this.passwordHash = passwordHash;
    this.createdAt = createdAt;
  }

  String email() {
    return email;
  }

  String passwordHash() {
    return passwordHash;
  }

  boolean active() {
    return active;
  }

  SignedIn signedIn() {
    return new SignedIn(email, name, Role.byId(role));
  }
}
