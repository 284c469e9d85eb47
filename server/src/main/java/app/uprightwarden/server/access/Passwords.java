package app.uprightwarden.server.access;

import app.uprightwarden.server.problem.Fault;
import app.uprightwarden.server.problem.ProblemException;
import com.nulabinc.zxcvbn.Strength;
import com.nulabinc.zxcvbn.Zxcvbn;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.stereotype.Component;

/**
 * Passwords: what is good enough, and how they are kept (Argon2id). A new one has twelve characters
 * at least and would take more than a hundred million guesses by zxcvbn's count, which knows the
 * passwords, words and names that leaks show to be common.
 */
@Component
class Passwords {
  static final int SHORTEST = 12;
  static final int LONGEST = 200;

  /** Guesses below which it is refused; zxcvbn calls what is above safely unguessable online. */
  private static final double FEWEST_GUESSES = 1e8;

  /** Judging takes longer the longer the text; beyond this nothing gets easier to guess. */
  private static final int JUDGED = 60;

  /** Letters and digits that must be left when one's own name and address are taken out. */
  private static final int FEWEST_OF_ONES_OWN = 6;

  /** Each check takes 16 MB and tens of milliseconds, on purpose. */
  private static final int AT_ONCE = 4;

  private static final long PATIENCE_SECONDS = 5;

  private final PasswordEncoder encoder;
  private final Zxcvbn zxcvbn = new Zxcvbn();
  private final Semaphore checks = new Semaphore(AT_ONCE);
  private final String nobodysHash;

  Passwords(PasswordEncoder encoder) {
    this.encoder = encoder;
    this.nobodysHash = String.valueOf(encoder.encode("nobody has this password"));
  }

  /**
   * Refuses a password that is easily guessed.
   *
   * @param about words that an attacker would try first: name, address, organisation
   * @throws ProblemException 422 with what is wrong with it
   */
  void check(String password, List<String> about) {
    if (password.length() < SHORTEST || password.length() > LONGEST) {
      throw refused("must have " + SHORTEST + " to " + LONGEST + " characters");
    }
    String judged = password.length() > JUDGED ? password.substring(0, JUDGED) : password;
    List<String> words = new ArrayList<>();
    about.forEach(
        text -> words.addAll(List.of(text.toLowerCase(Locale.ROOT).split("[^\\p{L}\\d]+"))));
    String rest = judged.toLowerCase(Locale.ROOT).replaceAll("[^\\p{L}\\d]+", " ");
    for (String word : words) {
      rest = word.length() < 3 ? rest : rest.replace(word, "");
    }
    if (rest.replace(" ", "").length() < FEWEST_OF_ONES_OWN) {
      throw refused("is little more than your name or address");
    }
    Strength strength = zxcvbn.measure(judged, words);
    if (strength.getGuesses() < FEWEST_GUESSES) {
      String warning = strength.getFeedback().getWarning();
      throw refused(
          "is guessed too easily"
              + (warning == null || warning.isBlank()
                  ? ""
                  : ": " + warning.toLowerCase(Locale.ROOT))
              + "; four words that do not belong together make a good one");
    }
  }

  private static ProblemException refused(String why) {
    return ProblemException.invalid(
        "The password " + why + ". Nothing was changed.", List.of(new Fault("/password", why)));
  }

  String hash(String password) {
    return checked(() -> String.valueOf(encoder.encode(password)));
  }

  /**
   * Whether it is the one of this hash. It takes the same time where there is none.
   *
   * @param hash empty where there is no account, or it has no password
   */
  boolean matches(String password, String hash) {
    boolean right = checked(() -> encoder.matches(password, hash.isEmpty() ? nobodysHash : hash));
    return right && !hash.isEmpty();
  }

  private <T> T checked(java.util.function.Supplier<T> work) {
    try {
      if (!checks.tryAcquire(PATIENCE_SECONDS, TimeUnit.SECONDS)) {
        throw ProblemException.busy("Too many people sign in at this moment. Try again.");
      }
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw ProblemException.busy("The server is stopping. Try again in a minute.");
    }
    try {
      return work.get();
    } finally {
      checks.release();
    }
  }
}
