package app.uprightwarden.server.access;

import app.uprightwarden.core.people.Directory;
import app.uprightwarden.server.problem.DateWords;
import app.uprightwarden.server.problem.Fault;
import app.uprightwarden.server.problem.ProblemException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Signing in, and who there is to sign in. */
@Service
public class AccessService {
  /** How long another's setting somebody's credentials casts doubt on who uses them. */
  static final Duration OTHERS_DOING = Duration.ofDays(7);

  private static final DateTimeFormatter DAY = DateWords.english("date-and-time");
  private static final String WRONG = "Address or password is wrong.";

  private final AccountRepository accounts;
  private final StillThere still;
  private final Passwords passwords;
  private final SecondFactor secondFactor;
  private final Throttle throttle;
  private final Clock clock;

  AccessService(
      AccountRepository accounts,
      StillThere still,
      Passwords passwords,
      SecondFactor secondFactor,
      Throttle throttle,
      Clock clock) {
    this.accounts = accounts;
    this.still = still;
    this.passwords = passwords;
    this.secondFactor = secondFactor;
    this.throttle = throttle;
    this.clock = clock;
  }

  /**
   * Who has come in by a password.
   *
   * @param password the stamp of that password, as it was when it was looked at
   */
  record ByPassword(SignedIn who, long password) {}

  /**
   * Checks a password, and a code where the account has a second factor.
   *
   * @param code empty where none was given
   * @param place where the request comes from
   * @throws ProblemException 401 where something is wrong, 428 where the password is right and a
   *     code is needed, 429 where they must wait
   */
  // no transaction: what is counted stays counted however this ends
  ByPassword signIn(String email, String password, String code, String place) {
    String address = Directory.fold(email);
    AccountEntity account = still.account(address).orElse(null);
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
    if (passwords.isOutdated(account.passwordHash())) {
      // it is known in this moment alone, so that it can be kept at today's cost
      accounts.rehash(account.id(), account.passwordHash(), passwords.hash(password));
    }
    return new ByPassword(entered(account, place), account.passwordStamp());
  }

  private boolean isKnown(AccountEntity account, String place) {
    return accounts.countPlaces(account.id(), place) > 0;
  }

  /** They are in: the place is known from now on. */
  SignedIn entered(AccountEntity account, String place) {
    KnownPlaceEntity known = new KnownPlaceEntity();
    known.account = account.id();
    known.place = place;
    known.at = clock.instant();
    accounts.save(known);
    accounts.seen(account.id(), known.at);
    return signedIn(account, false);
  }

  private SignedIn signedIn(AccountEntity account, boolean byProvider) {
    SignedIn who = account.signedIn(clock.instant());
    boolean limited = !byProvider && needsFactor(who.role()) && !account.hasSecondFactor();
    return new SignedIn(who.email(), who.name(), who.role(), who.unit(), limited);
  }

  /**
   * Whoever a session is for, as they are now; nobody where they are let go.
   *
   * @param byProvider whether the organisation's provider signed them in, which looks after a
   *     second factor itself
   * @param password the stamp that their password must still have; null does not ask
   */
  Optional<SignedIn> current(String email, boolean byProvider, @Nullable Long password) {
    return still
        .account(email)
        .filter(account -> password == null || password == account.passwordStamp())
        .map(account -> signedIn(account, byProvider));
  }

  /**
   * Refuses the second word of two where somebody else could have given it: for a week after
   * another has set what its account signs in with.
   *
   * @throws ProblemException 409 with who did so and when the word counts again
   */
  @Transactional(readOnly = true)
  public void checkCountsAsSecond(SignedIn who) {
    AccountEntity account =
        accounts
            .findByEmail(Directory.fold(who.email()))
            .orElseThrow(
                () ->
                    ProblemException.forbidden(
                        "no-account", "A consent comes from somebody with an account here."));
    Instant set = account.credentialsAt();
    if (set != null && clock.instant().isBefore(set.plus(OTHERS_DOING))) {
      throw ProblemException.conflict(
          "credentials-set-by-another",
          "%s set what this account signs in with on %s. Its consent counts from %s on."
              .formatted(account.credentialsBy(), day(set), day(set.plus(OTHERS_DOING))));
    }
  }

  private static String day(Instant at) {
    return DAY.format(at);
  }

  boolean needsFactor(Role role) {
    String wanted = factorFor();
    boolean isWarden = role == Role.WARDEN || role == Role.UNIT_WARDEN;
    return wanted.equals("everybody") || (wanted.equals("wardens") && isWarden);
  }

  /** Who must have a second factor: {@code nobody}, {@code wardens} or {@code everybody}. */
  String factorFor() {
    return accounts.factorFor();
  }

  @Transactional
  public void createAccount(String email, String name, Role role, String password) {
    createAccount(email, name, role, null, password);
  }

  @Transactional
  public void createAccount(
      String email, String name, Role role, @Nullable String unit, String password) {
    insert(email, name, role, unit, password.isEmpty() ? "" : passwords.hash(password));
  }

  private void insert(String email, String name, Role role, @Nullable String unit, String hash) {
    accounts.insert(
        new AccountEntity(Directory.fold(email), name, role, unit, hash, clock.instant()));
  }

  /** Somebody for whom the demo has an account. */
  public record DemoAccount(String email, String name, Role role, @Nullable String unit) {}

  /**
   * Makes the demo's accounts. All have one password that everybody may know, so one hash does for
   * all: making it takes a second of a start.
   */
  @Transactional
  public void createDemoAccounts(List<DemoAccount> all, String password) {
    String hash = passwords.hash(password);
    all.forEach(each -> insert(each.email(), each.name(), each.role(), each.unit(), hash));
  }

  /**
   * Somebody who stands in for a unit's warden.
   *
   * @param by who named them
   */
  public record Deputy(
      String email, String name, String unit, Instant from, Instant until, String by) {}

  /** Those whose time is not over, the first to end first. */
  @Transactional(readOnly = true)
  public List<Deputy> deputies() {
    Instant now = clock.instant();
    return accounts.deputies(now).stream()
        .map(account -> account.deputy(now))
        .filter(Objects::nonNull)
        .toList();
  }

  /**
   * Lets a host stand in for a unit's warden for a time, in place of what was said of them before.
   *
   * @throws ProblemException 404 where there is no account; 409 where it is no host's
   */
  @Transactional
  public Deputy setDeputy(String email, String unit, Instant from, Instant until, String by) {
    AccountEntity account = hosts(email);
    accounts.setDeputy(account.id(), unit, from, until, by);
    return new Deputy(account.email(), account.name(), unit, from, until, by);
  }

  /** Ends it at once; they are a host again with their next request. */
  @Transactional
  public Optional<Deputy> endDeputy(String email) {
    AccountEntity account = accounts.findByEmail(Directory.fold(email)).orElse(null);
    Deputy was = account == null ? null : account.deputy(clock.instant());
    if (account != null && was != null) {
      accounts.setDeputy(account.id(), null, null, null, null);
    }
    return Optional.ofNullable(was);
  }

  private AccountEntity hosts(String email) {
    AccountEntity account =
        still
            .account(email)
            .orElseThrow(
                () ->
                    ProblemException.invalid(
                        "Nobody can sign in as " + email + ".",
                        List.of(new Fault("/email", "has no account that is in use"))));
    if (account.role() != Role.HOST) {
      throw ProblemException.conflict(
          "no-host", account.name() + " has another role already. Only a host can stand in.");
    }
    return account;
  }

  /** What an account is by itself, whether it stands in for somebody now or not. */
  @Transactional(readOnly = true)
  public Optional<Role> ownRole(String email) {
    return still.account(email).map(AccountEntity::role);
  }

  /** Until when somebody stands in for a unit's warden; empty where they do not now. */
  @Transactional(readOnly = true)
  public Optional<Instant> standsInUntil(String email) {
    return still.account(email).map(account -> account.standsInUntil(clock.instant()));
  }

  /** The language that somebody chose, or null. */
  @Transactional(readOnly = true)
  public @Nullable String language(String email) {
    return accounts.language(Directory.fold(email));
  }

  /** The addresses of all administrators who can sign in. */
  @Transactional(readOnly = true)
  public List<String> wardens() {
    return accounts.inUse(Role.WARDEN.id()).stream().map(AccountEntity::email).toList();
  }

  @Transactional(readOnly = true)
  public boolean hasAccounts() {
    return accounts.count() > 0;
  }

  /** The account that a provider's subject signs in to, if there is one and it is in use. */
  Optional<AccountEntity> bySubject(String subject) {
    return accounts.findByProviderSubject(subject).flatMap(a -> still.account(a.email()));
  }

  Optional<AccountEntity> byAddress(String email) {
    return still.account(email);
  }
}
