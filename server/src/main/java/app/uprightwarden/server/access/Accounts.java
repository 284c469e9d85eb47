package app.uprightwarden.server.access;

import app.uprightwarden.core.people.Directory;
import app.uprightwarden.server.problem.Fault;
import app.uprightwarden.server.problem.ProblemException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Looking after accounts: who is invited, what they may do, when they are let go. */
@Service
class Accounts {
  /** How long a link to set a password is good. */
  static final Duration LINK = Duration.ofDays(3);

  private final AccountRepository accounts;
  private final AccessTokens tokens;
  private final Sessions sessions;
  private final SecondFactor secondFactor;
  private final Passwords passwords;
  private final Throttle throttle;
  private final KnownPeople people;
  private final ApplicationEventPublisher events;
  private final Clock clock;

  Accounts(
      AccountRepository accounts,
      AccessTokens tokens,
      Sessions sessions,
      SecondFactor secondFactor,
      Passwords passwords,
      Throttle throttle,
      KnownPeople people,
      ApplicationEventPublisher events,
      Clock clock) {
    this.accounts = accounts;
    this.tokens = tokens;
    this.sessions = sessions;
    this.secondFactor = secondFactor;
    this.passwords = passwords;
    this.throttle = throttle;
    this.people = people;
    this.events = events;
    this.clock = clock;
  }

  /**
   * An account as it is listed.
   *
   * @param linkUntil until when a link to set a password is open; null where none is
   * @param hasPassword whether one was set; one who signs in elsewhere needs none
   */
  record AccountLine(
      String email,
      String name,
      String role,
      @Nullable String unit,
      boolean active,
      boolean hasPassword,
      boolean secondFactor,
      boolean signsInElsewhere,
      Instant createdAt,
      @Nullable Instant lastSeen,
      @Nullable Instant linkUntil) {}

  /** A link that sets a password once; it is shown this once and kept as a hash. */
  record PasswordLink(String token, Instant until) {
    @Override
    public String toString() {
      return "a link until " + until;
    }
  }

  @Transactional(readOnly = true)
  List<AccountLine> all() {
    Map<Long, Instant> links = new HashMap<>();
    accounts.openLinks(clock.instant()).forEach(link -> links.put(link.account(), link.until()));
    return accounts.all().stream().map(a -> view(a, links.get(a.id()))).toList();
  }

  private AccountLine view(AccountEntity a, @Nullable Instant linkUntil) {
    return new AccountLine(
        a.email(),
        a.name(),
        a.role().id(),
        a.unit(),
        a.active(),
        !a.passwordHash().isEmpty(),
        a.hasSecondFactor(),
        a.providerSubject() != null,
        a.createdAt(),
        a.lastSeen(),
        linkUntil);
  }

  AccountEntity get(String email) {
    return accounts
        .findByEmail(Directory.fold(email))
        .orElseThrow(() -> ProblemException.notFound("There is no account " + email + "."));
  }

  /** A new account with nothing but a link to set its password. */
  @Transactional
  PasswordLink invite(String email, String name, Role role, @Nullable String unit, SignedIn by) {
    String address = Directory.fold(email);
    checkUnit(role, unit);
    if (accounts.findByEmail(address).isPresent()) {
      throw ProblemException.conflict(
          "is-there",
          "There is an account " + address + " already. Nothing was changed.",
          List.of(new Fault("/email", "has an account already")));
    }
    AccountEntity made = new AccountEntity(address, name.strip(), role, unit, "", clock.instant());
    accounts.insert(made);
    return link(made, by);
  }

  private void checkUnit(Role role, @Nullable String unit) {
    if ((role == Role.UNIT_WARDEN) != (unit != null)) {
      String why =
          unit == null ? "is needed for a unit's warden" : "goes with a unit's warden only";
      throw ProblemException.invalid(
          "The unit " + why + ". Nothing was changed.", List.of(new Fault("/unit", why)));
    }
    if (unit != null && !people.hasUnit(unit)) {
      throw ProblemException.invalid(
          "There is no unit " + unit + ". Nothing was changed.",
          List.of(new Fault("/unit", "is not among the organisation's units")));
    }
  }

  /** A link to set a new password; one that was open before is good no more. */
  @Transactional
  PasswordLink newLink(String email, SignedIn by) {
    return link(get(email), by);
  }

  private PasswordLink link(AccountEntity account, SignedIn by) {
    accounts.deleteLinks(account.id());
    String token = tokens.random();
    AccountLinkEntity row = new AccountLinkEntity();
    row.tokenHash = AccessHash.sha256(token);
    row.account = account.id();
    row.madeBy = by.email();
    row.madeAt = clock.instant();
    row.endsAt = row.madeAt.plus(LINK);
    accounts.insert(row);
    return new PasswordLink(token, row.endsAt);
  }

  /** Whose password a link sets. */
  record Welcome(String email, String name) {}

  @Transactional(readOnly = true)
  Welcome whose(String token) {
    AccountEntity account = behind(token);
    return new Welcome(account.email(), account.name());
  }

  /** Uses a link up; whether it was still there: of several at once, one has it. */
  private boolean use(String token) {
    return accounts.useLink(AccessHash.sha256(token), clock.instant()) == 1;
  }

  private AccountEntity behind(String token) {
    return accounts
        .link(AccessHash.sha256(token), clock.instant())
        .flatMap(link -> accounts.findById(link.account))
        .filter(AccountEntity::active)
        .orElseThrow(Accounts::noLink);
  }

  private static ProblemException noLink() {
    return ProblemException.notFound(
        "This link is used up or too old. Ask a warden for a new one.");
  }

  /** Sets the password of the account behind a link, which is used up by it. */
  @Transactional
  void welcome(String token, String password) {
    AccountEntity account = behind(token);
    String by =
        accounts
            .link(AccessHash.sha256(token), clock.instant())
            .orElseThrow(Accounts::noLink)
            .madeBy;
    checkPassword(account, password);
    if (!use(token)) {
      throw noLink();
    }
    setPassword(account, password);
    helped(account, by, "The password of this account was set by a link that was made by " + by);
    sessions.endAll(account.email(), null);
  }

  private void helped(AccountEntity account, String by, String how) {
    if (!Directory.fold(by).equals(account.email())) {
      accounts.setCredentialsBy(account.id(), by, clock.instant());
    }
    events.publishEvent(new CredentialsSet(account.email(), account.name(), by, how));
  }

  private void checkPassword(AccountEntity account, String password) {
    List<String> about = new ArrayList<>(people.houseWords());
    about.addAll(List.of(account.email(), account.name(), "upright warden"));
    passwords.check(password, about);
  }

  private void setPassword(AccountEntity account, String password) {
    // this takes as long as it is meant to: the account may have been let go meanwhile
    String hash = passwords.hash(password);
    if (accounts.setPassword(account.id(), account.passwordHash(), hash, clock.instant()) == 0) {
      throw changedMeanwhile();
    }
  }

  static ProblemException changedMeanwhile() {
    return ProblemException.conflict(
        "changed-meanwhile",
        "Somebody has changed this account since you opened it. Look at what it is now, and change"
            + " it again. Nothing was saved.");
  }

  /**
   * Sets one's own password.
   *
   * @param session the one it is done in, which stays; all others end
   */
  @Transactional
  void changePassword(SignedIn who, String old, String password, String session) {
    AccountEntity account = confirmed(who, old);
    checkPassword(account, password);
    setPassword(account, password);
    sessions.endAll(account.email(), session);
  }

  /** From now on pages are for them in this language; null is as at first. */
  @Transactional
  void speak(SignedIn who, @Nullable String language) {
    accounts.speak(Directory.fold(who.email()), language);
  }

  /** The account of somebody who gives their password once more. */
  AccountEntity confirmed(SignedIn who, String password) {
    AccountEntity account = get(who.email());
    String at = "own account of " + account.email();
    Duration wait = throttle.take(account.email(), at, true);
    if (!wait.isZero()) {
      throw ProblemException.tooMany(
          "Too many wrong passwords. Wait " + (wait.toSeconds() + 1) + " seconds and try again.");
    }
    if (!passwords.matches(password, account.passwordHash())) {
      throw ProblemException.invalid(
          "That is not your password now. Nothing was changed.",
          List.of(new Fault("/current", "is not your password")));
    }
    throttle.succeeded(account.email(), at, true);
    return account;
  }

  /** What an account may do, and whether it is in use. */
  record Access(Role role, @Nullable String unit, boolean active) {}

  /**
   * Changes what an account may do, or lets it go; its sessions and tokens end by that.
   *
   * @param seen what it was when it was looked at; null does not ask
   */
  @Transactional
  AccountLine change(String email, Access wanted, @Nullable Access seen, SignedIn by) {
    List<AccountEntity> wardens = accounts.lockedWardens();
    AccountEntity account = get(email);
    checkUnit(wanted.role(), wanted.unit());
    if (account.email().equals(Directory.fold(by.email()))) {
      throw ProblemException.conflict(
          "is-yourself", "Another warden has to change your own account.");
    }
    if (seen != null
        && !seen.equals(new Access(account.role(), account.unit(), account.active()))) {
      throw changedMeanwhile();
    }
    boolean staysWarden = wanted.role() == Role.WARDEN && wanted.active();
    boolean isLast = wardens.size() == 1 && wardens.get(0).id() == account.id();
    if (isLast && !staysWarden) {
      throw ProblemException.conflict(
          "is-the-last", "This is the last warden. Make another one first.");
    }
    accounts.allow(account.id(), wanted.role().id(), wanted.unit(), wanted.active());
    sessions.endAll(account.email(), null);
    tokens.endAllOf(account.email(), by.email());
    return view(get(email), null);
  }

  /** Takes the second factor away from somebody who has lost it; their sessions end. */
  @Transactional
  void dropFactor(String email, SignedIn by) {
    AccountEntity account = get(email);
    dropFactor(account);
    helped(
        account, by.email(), "The second factor of this account was taken away by " + by.email());
    sessions.endAll(account.email(), null);
  }

  /** Keeps a secret that counts once it is confirmed; whether none counted yet. */
  boolean offerFactor(AccountEntity account, byte[] sealed) {
    return accounts.offerFactor(account.id(), sealed) == 1;
  }

  /** From now on the offered secret counts; whether it was still the one that was read. */
  boolean confirmFactor(AccountEntity account, byte[] sealed) {
    return accounts.confirmFactor(account.id(), sealed, clock.instant()) == 1;
  }

  /** Takes the second factor away, and its recovery codes. */
  void dropFactor(AccountEntity account) {
    accounts.dropFactor(account.id());
    secondFactor.forget(account.id());
  }

  void endSessions(String email) {
    sessions.endAll(get(email).email(), null);
  }

  @Transactional
  void setFactorFor(String whom) {
    accounts.setFactorFor(whom);
  }
}
