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
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Access tokens: for programs, with a purpose, a role and an end. */
@Service
public class AccessTokens {
  private static final int MAX = 500;
  private static final Duration LONGEST = Duration.ofDays(366);

  /** Its last use is noted no more often than this. */
  private static final Duration NOTED = Duration.ofMinutes(1);

  private final AccessTokenRepository tokens;
  private final StillThere still;
  private final Clock clock;
  private final SecureRandom random = new SecureRandom();

  AccessTokens(AccessTokenRepository tokens, StillThere still, Clock clock) {
    this.tokens = tokens;
    this.still = still;
    this.clock = clock;
  }

  /** A new token and its end; the token itself is given out this once and never kept. */
  public record Issued(String token, Instant expiresAt) {
    @Override
    public String toString() {
      return "a token until " + expiresAt;
    }
  }

  /** A token as it is listed; itself it is not known any more. */
  record TokenLine(
      long id,
      String purpose,
      String role,
      @Nullable String unit,
      String actsAs,
      String issuedBy,
      Instant issuedAt,
      Instant expiresAt,
      @Nullable Instant lastUsed,
      @Nullable Instant endedAt,
      @Nullable String endedBy) {}

  @Transactional
  public Issued issue(String purpose, Role role, String actsAs, Duration lasting, SignedIn by) {
    return issue(purpose, role, null, actsAs, lasting, by);
  }

  /**
   * Issues a token.
   *
   * @param unit the unit of a unit warden's token; null for other roles
   */
  @Transactional
  public Issued issue(
      String purpose,
      Role role,
      @Nullable String unit,
      String actsAs,
      Duration lasting,
      SignedIn by) {
    if (lasting.compareTo(LONGEST) > 0 || lasting.isNegative() || lasting.isZero()) {
      throw ProblemException.invalid(
          "A token lasts from a minute to " + LONGEST.toDays() + " days.", List.of());
    }
    String token = random();
    Instant now = clock.instant();
    tokens.insert(
        new AccessTokenEntity(
            AccessHash.sha256(token),
            purpose,
            role,
            unit,
            actsAs,
            by.email(),
            now,
            now.plus(lasting)));
    return new Issued(token, now.plus(lasting));
  }

  /** Long and random: a plain SHA-256 of it gives nothing away. */
  String random() {
    byte[] bytes = new byte[32];
    random.nextBytes(bytes);
    return Base64.getUrlEncoder().withoutPadding().encodeToString(bytes);
  }

  @Transactional(readOnly = true)
  List<TokenLine> newest() {
    return tokens.newest(MAX).stream().map(AccessTokenEntity::view).toList();
  }

  @Transactional
  TokenLine end(long id, SignedIn by) {
    AccessTokenEntity token =
        tokens
            .findById(id)
            .orElseThrow(() -> ProblemException.notFound("There is no such access token."));
    if (token.validAt(clock.instant())) {
      token.end(clock.instant(), by.email());
      tokens.update(token);
    }
    return token.view();
  }

  /** Ends all tokens that act as somebody whose role or account has changed. */
  @Transactional
  void endAllOf(String email, String by) {
    for (AccessTokenEntity token : tokens.notEnded(Directory.fold(email))) {
      token.end(clock.instant(), by);
      tokens.update(token);
    }
  }

  Optional<SignedIn> byToken(String token) {
    Instant now = clock.instant();
    Optional<AccessTokenEntity> known =
        tokens
            .findByTokenHash(AccessHash.sha256(token))
            .filter(t -> t.validAt(now) && still.isGood(t));
    known.ifPresent(t -> used(t, now));
    return known.map(AccessTokenEntity::signedIn);
  }

  private void used(AccessTokenEntity token, Instant now) {
    Instant last = token.lastUsed();
    if (last == null || last.isBefore(now.minus(NOTED))) {
      tokens.used(token.id(), now);
    }
  }
}
