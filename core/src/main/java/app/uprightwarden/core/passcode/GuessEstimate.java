package app.uprightwarden.core.passcode;

/**
 * An estimate of how many tries guessing a passcode takes on average. It is an estimate: it takes
 * the better of the common list, runs and repeats, and trying every string of the same makeup.
 *
 * @param tries on average
 */
public record GuessEstimate(double tries) {
  /** Tries a minute that a meeting service lets a caller make; a stated assumption, no standard. */
  public static final int TRIES_A_MINUTE = 20;

  /** The estimate for a passcode in clear. */
  public static GuessEstimate of(String passcode) {
    int rank = CommonPasscodes.rank(passcode);
    if (rank > 0) {
      return new GuessEstimate(rank);
    }
    return switch (PasscodeJudge.weakness(passcode, "", "")) {
      case RUN, REPEAT -> new GuessEstimate(60.0 * passcode.length());
      default -> new GuessEstimate(Math.pow(alphabet(passcode), distinctness(passcode)) / 2);
    };
  }

  /** How long that takes at {@link #TRIES_A_MINUTE}, in minutes. */
  public double minutes() {
    return tries / TRIES_A_MINUTE;
  }

  private static int alphabet(String passcode) {
    int size = 0;
    size += passcode.chars().anyMatch(Character::isDigit) ? 10 : 0;
    size += passcode.chars().anyMatch(Character::isLowerCase) ? 26 : 0;
    size += passcode.chars().anyMatch(Character::isUpperCase) ? 26 : 0;
    size += passcode.chars().anyMatch(c -> !Character.isLetterOrDigit(c)) ? 33 : 0;
    return Math.max(size, 1);
  }

  /** The length, with a character that repeats the one before or goes on from it counted a half. */
  private static double distinctness(String passcode) {
    double length = passcode.isEmpty() ? 0 : 1;
    for (int i = 1; i < passcode.length(); i++) {
      int step = Math.abs(passcode.charAt(i) - passcode.charAt(i - 1));
      length += step <= 1 ? 0.5 : 1;
    }
    return length;
  }
}
