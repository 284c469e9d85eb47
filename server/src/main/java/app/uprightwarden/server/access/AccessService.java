package app.uprightwarden.server.access;

import app.uprightwarden.core.people.Directory;
import app.uprightwarden.server.problem.ProblemException;
import java.security.SecureRandom;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Base64;
import java.util.List;
import java.util.Optional;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Accounts and access tokens. */
@Service
public class AccessService {
  private static final Duration LONGEST_TOKEN = Duration.ofDays(366);

  private final AccountRepository accounts;
  private final AccessTokenRepository tokens;
  private final PasswordEncoder encoder;
  private final Throttle throttle;
  private final Clock clock;
  private final SecureRandom random = new SecureRandom();
  private final String nobodysHash;

  AccessService(
      AccountRepository accounts,
      AccessTokenRepository tokens,
      PasswordEncoder encoder,
      Throttle throttle,
      Clock clock) {
    this.accounts = accounts;
    this.tokens = tokens;
    this.encoder = encoder;
    this.throttle = throttle;
    this.clock = clock;
    this.nobodysHash = String.valueOf(encoder.encode("nobody has this password"));
  }

  /**
   * Checks a password.
   *
   * @param place where the request comes from
   * @throws ProblemException 401 where it is wrong, 429 where they must wait
   */
  @Transactional(readOnly = true)
  public SignedIn signIn(String email, String password, String place) {
    String address = Directory.fold(email);
    Duration wait = throttle.waitFor(address, place);
    if (!wait.isZero()) {
      throw ProblemException.tooMany(
          "Too many wrong passwords. Wait " + (wait.toSeconds() + 1) + " seconds and try again.");
    }
    Optional<AccountEntity> account = accounts.findByEmail(address);
    // an unknown address costs the same time as a wrong password
    boolean right =
        encoder.matches(password, account.map(AccountEntity::passwordHash).orElse(nobodysHash));
    if (!right || account.isEmpty() || !account.get().active()) {
      throttle.failed(address, place);
      throw ProblemException.unauthorised("Address or password is wrong.");
    }
    throttle.succeeded(address, place);
    return account.get().signedIn();
  }

  @Transactional
  public void createAccount(String email, String name, Role role, String password) {
    String hash = String.valueOf(encoder.encode(password));
    accounts.save(new AccountEntity(Directory.fold(email), name, role, hash, clock.instant()));
  }

  /** The addresses of all administrators who can sign in. */
  @Transactional(readOnly = true)
  public List<String> wardens() {
    return accounts.findByRoleAndActiveTrueOrderByEmail(Role.WARDEN.id()).stream()
        .map(AccountEntity::email)
        .toList();
  }

  @Transactional(readOnly = true)
  public boolean hasAccounts() {
    return accounts.count() > 0;
  }

  /** A new token and its end; the token itself is given out this once and never kept. */
  public record Issued(String token, Instant expiresAt) {}

  @Transactional
  public Issued issue(String purpose, Role role, String actsAs, Duration lasting, SignedIn by) {
    if (lasting.compareTo(LONGEST_TOKEN) > 0 || lasting.isNegative() || lasting.isZero()) {
      throw ProblemException.invalid(
          "A token lasts from a minute to " + LONGEST_TOKEN.toDays() + " days.", List.of());
    }
    // long and random: a plain SHA-256 of a token gives nothing away
    byte[] bytes = new byte[32];
    random.nextBytes(bytes);
    String token = Base64.getUrlEncoder().withoutPadding().encodeToString(bytes);
    Instant now = clock.instant();
    tokens.save(
        new AccessTokenEntity(
            AccessHash.sha256(token), purpose, role, actsAs, by.email(), now, now.plus(lasting)));
    return new Issued(token, now.plus(lasting));
  }

  @Transactional(readOnly = true)
  public Optional<SignedIn> byToken(String token) {
    return tokens
        .findByTokenHash(AccessHash.sha256(token))
        .filter(t -> t.validAt(clock.instant()))
        .map(AccessTokenEntity::signedIn);
  }
}
