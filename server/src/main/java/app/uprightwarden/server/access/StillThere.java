package app.uprightwarden.server.access;

import app.uprightwarden.core.people.Directory;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/**
 * Whether people are still who they were when something was given to them: asked each time that a
 * session, an access token or a feed is used, so that no way in outlives the account behind it.
 */
@Component
public class StillThere {
  /** Who issues what the machine's own commands make; whoever can run them has everything. */
  static final String MACHINE = "local";

  private final AccountRepository accounts;
  private final KnownPeople people;

  StillThere(AccountRepository accounts, KnownPeople people) {
    this.accounts = accounts;
    this.people = people;
  }

  /**
   * The account that signs somebody in, if it is in use. Somebody whom the directory has let go is
   * let go here too, save a warden: an import gone wrong must not shut out those who mend it.
   */
  Optional<AccountEntity> account(String email) {
    return accounts
        .findByEmail(Directory.fold(email))
        .filter(AccountEntity::active)
        .filter(a -> a.role() == Role.WARDEN || !isGone(a.email()));
  }

  private boolean isGone(String email) {
    return people.presence(email) == KnownPeople.Presence.GONE;
  }

  /** Whether somebody is here, by their account or by the directory, and gone by neither. */
  public boolean isHere(String email) {
    Optional<AccountEntity> known = accounts.findByEmail(Directory.fold(email));
    if (known.isPresent()) {
      return account(email).isPresent();
    }
    return people.presence(email) == KnownPeople.Presence.HERE;
  }

  /** The same, of an owner of something that holds more than their own: their role as it is now. */
  public Optional<Role> role(String email) {
    return account(email).map(AccountEntity::role);
  }

  /** Whether a token's issuer may still issue it, and whoever it acts as is still that. */
  boolean isGood(AccessTokenEntity token) {
    if (token.issuedBy().equals(MACHINE)) {
      return true;
    }
    boolean isIssued = role(token.issuedBy()).filter(r -> r == Role.WARDEN).isPresent();
    SignedIn who = token.signedIn();
    return isIssued
        // a directory is nobody: it goes on as long as whoever let it in is a warden
        && (who.role() == Role.DIRECTORY
            || (who.isHost() ? isHere(who.email()) : hasRole(who.email(), who.role(), who.unit())));
  }

  private boolean hasRole(String email, Role role, @Nullable String unit) {
    return account(email)
        .filter(a -> a.role() == role && java.util.Objects.equals(a.unit(), unit))
        .isPresent();
  }
}
