package app.uprightwarden.core.passcode;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.HashMap;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;

/**
 * The list of common passcodes, most common first. It is the frequency list of leaked passwords
 * that the library zxcvbn ships (MIT licence), first ten thousand; NIST SP 800-63B section 5.1.1.2
 * asks for such a list. Loaded once from this module's own resources.
 */
final class CommonPasscodes {
  private static final Map<String, Integer> RANKS = load();
  private static final Map<String, Integer> FOLDED = fold(RANKS);

  private CommonPasscodes() {}

  static boolean contains(String passcode) {
    return rank(passcode) > 0;
  }

  /** Its place in the list from 1, or 0 where it is not in it; look-alikes are undone as well. */
  static int rank(String passcode) {
    Integer rank = RANKS.get(passcode.toLowerCase(Locale.ROOT));
    if (rank == null && passcode.chars().anyMatch(Character::isLetter)) {
      rank = FOLDED.get(PasscodeJudge.fold(passcode));
    }
    return rank == null ? 0 : rank;
  }

  private static Map<String, Integer> fold(Map<String, Integer> ranks) {
    Map<String, Integer> folded = new HashMap<>();
    ranks.forEach((word, rank) -> folded.merge(PasscodeJudge.fold(word), rank, Math::min));
    return Map.copyOf(folded);
  }

  private static Map<String, Integer> load() {
    Map<String, Integer> ranks = new HashMap<>();
    try (InputStream in =
            Objects.requireNonNull(
                CommonPasscodes.class.getResourceAsStream("common-passcodes.txt"));
        BufferedReader lines =
            new BufferedReader(new InputStreamReader(in, StandardCharsets.UTF_8))) {
      lines.lines().filter(l -> !l.startsWith("#")).forEach(l -> ranks.put(l, ranks.size() + 1));
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
    return Map.copyOf(ranks);
  }
}
