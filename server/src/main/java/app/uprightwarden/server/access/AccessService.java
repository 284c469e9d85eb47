package app.uprightwarden.server.access;

import app.uprightwarden.core.people.Directory;
import app.uprightwarden.server.problem.ProblemException;
import java.time.Clock;
import java.time.Duration;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Signing in, and who there is to sign in. */
@Service
public class AccessService {
  private static final String WRONG = "Address or password is wrong.";

  private final AccountRepository accounts;
  private final Passwords passwords;
  private final SecondFactor secondFactor;
  private final Throttle throttle;
  private final JdbcClient jdbc;
  private final Clock clock;

  AccessService(
      AccountRepository accounts,
      Passwords passwords,
      SecondFactor secondFactor,
      Throttle throttle,
      JdbcClient jdbc,
      Clock clock) {
    this.accounts = accounts;
    this.passwords = passwords;
    this.secondFactor = secondFactor;
    this.throttle = throttle;
    this.jdbc = jdbc;
    this.clock = clock;
  }

  /**
   * Checks a password, and a code where the account has a second factor.
   *
   * @param code empty where none was given
   * @param place where the request comes from
   * @throws ProblemException 401 where something is wrong, 428 where the password is right and a
   *     code is needed, 429 where they must wait
   */
  // no transaction: what is counted stays counted however this ends
  SignedIn signIn(String email, String password, String code, String place) {
    String address = Directory.fold(email);
    AccountEntity account =
        accounts.findByEmail(address).filter(AccountEntity::active).orElse(null);
    boolean known = account != null && isKnown(account, place);
    Duration wait = throttle.take(address, place, known);
    if (!wait.isZero()) {
      throw ProblemException.tooMany(
          "Too many wrong passwords. Wait " + (wait.toSeconds() + 1) + " seconds and try again.");
    }
    // an unknown address costs the same time as a wrong password
    boolean right = passwords.matches(password, account == null ? "" : account.passwordHash());
    if (!right || account == null) {
      throw ProblemException.unauthorised(WRONG);
    }
    if (account.hasSecondFactor()) {
      if (code.isBlank()) {
        throttle.succeeded(address, place, known);
        throw new ProblemException(
            HttpStatus.PRECONDITION_REQUIRED,
            "second-factor-needed",
            "Give the code that your authenticator shows, or a recovery code.");
      }
      if (!secondFactor.take(account, code)) {
        throw ProblemException.unauthorised(
            "wrong-code", "The code is wrong, or was used before. Wait for the next one.");
      }
    }
    throttle.succeeded(address, place, known);
    return entered(account, place);
  }

  private boolean isKnown(AccountEntity account, String place) {
    return jdbc.sql("select count(*) from known_place where account = ? and place = ?")
            .params(account.id(), place)
            .query(Integer.class)
            .single()
        > 0;
  }

  /** They are in: the place is known from now on. */
  SignedIn entered(AccountEntity account, String place) {
    LocalDateTime now = LocalDateTime.ofInstant(clock.instant(), ZoneOffset.UTC);
    jdbc.sql("insert into known_place values (?, ?, ?) on duplicate key update at = values(at)")
        .params(account.id(), place, now)
        .update();
    jdbc.sql("update account set last_seen = ? where id = ?").params(now, account.id()).update();
    SignedIn who = account.signedIn();
    boolean limited = needsFactor(account.role()) && !account.hasSecondFactor();
    return new SignedIn(who.email(), who.name(), who.role(), who.unit(), limited);
  }

  boolean needsFactor(Role role) {
    String wanted = factorFor();
    boolean isWarden = role == Role.WARDEN || role == Role.UNIT_WARDEN;
    return wanted.equals("everybody") || (wanted.equals("wardens") && isWarden);
  }

  /** Who must have a second factor: {@code nobody}, {@code wardens} or {@code everybody}. */
  String factorFor() {
    return jdbc.sql("select factor_for from access_setting where id = 1")
        .query(String.class)
        .single();
  }

  @Transactional
  public void createAccount(String email, String name, Role role, String password) {
    createAccount(email, name, role, null, password);
  }

  @Transactional
  public void createAccount(
      String email, String name, Role role, @Nullable String unit, String password) {
    accounts.save(
        new AccountEntity(
            Directory.fold(email),
            name,
            role,
            unit,
            password.isEmpty() ? "" : passwords.hash(password),
            clock.instant()));
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

  /** The account that a provider's subject signs in to, if there is one and it is in use. */
  Optional<AccountEntity> bySubject(String subject) {
    return accounts.findByProviderSubject(subject).filter(AccountEntity::active);
  }

  Optional<AccountEntity> byAddress(String email) {
    return accounts.findByEmail(Directory.fold(email)).filter(AccountEntity::active);
  }
}
