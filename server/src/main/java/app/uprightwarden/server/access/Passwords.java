package app.uprightwarden.server.access;

import app.uprightwarden.server.problem.Fault;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.problem.Texts;
import com.nulabinc.zxcvbn.Strength;
import com.nulabinc.zxcvbn.Zxcvbn;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.stereotype.Component;

/**
 * Passwords: what is good enough, and how they are kept (Argon2id). A new one has twelve characters
 * at least and would take more than ten thousand million guesses by zxcvbn's count, which knows the
 * passwords, words and names that leaks show to be common.
 */
@Component
class Passwords {
  static final int SHORTEST = 12;
  static final int LONGEST = 200;

  /** Guesses below which it is refused; zxcvbn calls what is above safely unguessable online. */
  private static final double FEWEST_GUESSES = 1e10;

  /** The same for its parts, each once: what is put between and behind them adds little. */
  private static final double FEWEST_OF_PARTS = 1e9;

  private static final Pattern RUN = Pattern.compile("\\p{L}+|\\d+");

  /**
   * What a check costs, as OWASP's cheat sheet on password storage recommends for Argon2id (46 MiB
   * and one pass, or 19 MiB and two, are its equal settings; this is the first with a pass more).
   */
  static final int MEMORY_KIB = 47_104;

  static final int PASSES = 2;

  /** Judging takes longer the longer the text; beyond this nothing gets easier to guess. */
  private static final int JUDGED = 60;

  /** Letters and digits that must be left when one's own name and address are taken out. */
  private static final int FEWEST_OF_ONES_OWN = 6;

  /** Each check takes 46 MB and a tenth of a second, on purpose. */
  private static final int AT_ONCE = 2;

  private static final long PATIENCE_SECONDS = 5;

  /** Of no password that anybody knows; a check against it costs what any other does. */
  static final String NOBODYS_HASH =
      "$argon2id$v=19$m=%d,t=%d,p=1$%s$%s"
          .formatted(MEMORY_KIB, PASSES, "A".repeat(22), "A".repeat(43));

  private final PasswordEncoder encoder;
  private final Zxcvbn zxcvbn = new Zxcvbn();
  private final Semaphore checks = new Semaphore(AT_ONCE);

  Passwords(PasswordEncoder encoder) {
    this.encoder = encoder;
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
    String judged = Texts.cut(password, JUDGED);
    List<String> words = new ArrayList<>();
    about.forEach(text -> words.addAll(List.of(lower(text).split("[^\\p{L}\\d]+"))));
    words.removeIf(word -> word.length() < 3);
    String rest = lower(judged).replaceAll("[^\\p{L}\\d]+", " ");
    for (String word : words) {
      rest = rest.replace(word, "");
    }
    if (rest.replace(" ", "").length() < FEWEST_OF_ONES_OWN) {
      throw refused("is little more than names that anybody here knows");
    }
    if (guesses(distinct(judged), words) < FEWEST_OF_PARTS) {
      throw refused(
          "is guessed too easily: a common word or name with digits or marks about it, or one word"
              + " again and again; four words that do not belong together make a good one");
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

  private double guesses(String text, List<String> words) {
    return text.isEmpty() ? 0 : zxcvbn.measure(text, words).getGuesses();
  }

  /** The different runs of letters and of digits, without what stands between them. */
  private static String distinct(String password) {
    Set<String> parts = new LinkedHashSet<>();
    Matcher run = RUN.matcher(lower(password));
    while (run.find()) {
      parts.add(run.group());
    }
    String joined = String.join("", parts);
    return joined.length() < FEWEST_OF_ONES_OWN ? lower(password) : joined;
  }

  private static String lower(String text) {
    return text.toLowerCase(Locale.ROOT);
  }

  private static ProblemException refused(String why) {
    return ProblemException.invalid(
        "The password " + why + ". Nothing was changed.", List.of(new Fault("/password", why)));
  }

  /** Whether a hash was made at another cost than today's. */
  boolean isOutdated(String hash) {
    return !hash.isEmpty() && encoder.upgradeEncoding(hash);
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
    boolean right = checked(() -> encoder.matches(password, hash.isEmpty() ? NOBODYS_HASH : hash));
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
