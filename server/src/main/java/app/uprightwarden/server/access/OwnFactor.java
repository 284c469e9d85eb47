package app.uprightwarden.server.access;

import app.uprightwarden.server.problem.ProblemException;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Setting up one's own second factor, and doing without it again. */
@Service
class OwnFactor {
  private final Accounts accounts;
  private final AccessService access;
  private final SecondFactor factor;
  private final Sessions sessions;

  OwnFactor(Accounts accounts, AccessService access, SecondFactor factor, Sessions sessions) {
    this.sessions = sessions;
    this.accounts = accounts;
    this.access = access;
    this.factor = factor;
  }

  /**
   * A secret that counts once it is confirmed; one that counts already stays until it is dropped.
   */
  @Transactional
  SecondFactor.Offer begin(SignedIn who, String password) {
    AccountEntity account = accounts.confirmed(who, password);
    byte[] sealed = factor.make(account.email());
    if (account.hasSecondFactor() || !accounts.offerFactor(account, sealed)) {
      throw ProblemException.conflict(
          "has-one", "You have a second factor. Drop it first, then set up the new one.");
    }
    return factor.offer(account.email(), sealed);
  }

  @Transactional
  List<String> confirm(SignedIn who, String code) {
    AccountEntity account = accounts.get(who.email());
    byte[] sealed = account.secondFactor();
    if (account.hasSecondFactor() || sealed == null) {
      throw notBegun();
    }
    if (!factor.take(account, code)) {
      throw AccountController.wrongCode();
    }
    if (!accounts.confirmFactor(account, sealed)) {
      throw notBegun();
    }
    return factor.recoveryCodes(account.id());
  }

  private static ProblemException notBegun() {
    return ProblemException.conflict("not-begun", "Begin with the secret, then give its code.");
  }

  @Transactional
  List<String> newCodes(SignedIn who, String password) {
    AccountEntity account = accounts.confirmed(who, password);
    if (!account.hasSecondFactor()) {
      throw ProblemException.conflict("has-none", "Set up a second factor first.");
    }
    return factor.recoveryCodes(account.id());
  }

  /**
   * Does without it again.
   *
   * @param code of the factor itself, or a recovery code: a password alone does not take it away
   * @param session the one it is done in, which stays; all others end
   */
  @Transactional
  void drop(SignedIn who, String password, String code, String session) {
    AccountEntity account = accounts.confirmed(who, password);
    if (access.needsFactor(account.role())) {
      throw ProblemException.conflict(
          "is-needed",
          "Your role needs a second factor. A warden can drop it if you lost the device.");
    }
    if (!account.hasSecondFactor()) {
      throw ProblemException.conflict("has-none", "You have no second factor.");
    }
    if (!factor.take(account, code)) {
      throw AccountController.wrongCode();
    }
    accounts.dropFactor(account);
    sessions.endAll(account.email(), session);
  }

  /** One's own account as its page shows it. */
  record OwnAccount(
      String email,
      String name,
      String role,
      @Nullable String unit,
      boolean hasPassword,
      @Nullable Instant passwordSince,
      @Nullable Instant secondFactorSince,
      boolean secondFactorNeeded,
      int recoveryCodesLeft,
      List<Sessions.OpenSession> sessions) {}

  /**
   * One's own account.
   *
   * @param session the one it is asked in
   */
  OwnAccount account(SignedIn who, String session) {
    AccountEntity account = accounts.get(who.email());
    boolean has = account.hasSecondFactor();
    return new OwnAccount(
        account.email(),
        account.name(),
        account.role().id(),
        account.unit(),
        !account.passwordHash().isEmpty(),
        account.passwordSince(),
        has ? account.factorSince() : null,
        access.needsFactor(account.role()),
        has ? factor.recoveryCodesLeft(account.id()) : 0,
        sessions.of(account.email(), session));
  }
}
