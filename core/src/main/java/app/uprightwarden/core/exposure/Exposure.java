package app.uprightwarden.core.exposure;

import app.uprightwarden.core.people.Persona;
import app.uprightwarden.core.people.Right;
import app.uprightwarden.core.rulebook.Level;

/**
 * The scores of a meeting, each 0 to 100, kept in tenths so that rounding is exact.
 *
 * @param scoreTenths exposure
 * @param intrusionTenths what uninvited people can do
 * @param disruptionTenths what invited people can disturb
 */
public record Exposure(int scoreTenths, int intrusionTenths, int disruptionTenths) {
  /** Rights that do not count towards disruption by invited people. */
  private static final int HARMLESS =
      Right.LISTEN.bit()
          | Right.SPEAK.bit()
          | Right.CAMERA.bit()
          | Right.CHAT.bit()
          | Right.REACT.bit();

  private static final int[] WEIGHTS = weightsOfMasks();
  private static final long INTRUSION_WHOLE = personaWeights(false) * WEIGHTS[0xFFFF];
  private static final long DISRUPTION_WHOLE = personaWeights(true) * WEIGHTS[0xFFFF & ~HARMLESS];

  /** The exposure that a matrix comes to. */
  public static Exposure of(Matrix matrix) {
    long intrusion = 0; // Σ w·d·f, f in tenths
    long disruption = 0;
    for (Persona persona : Persona.all()) {
      Level level = matrix.entry(persona);
      if (level == Level.NEVER) {
        continue;
      }
      int mask = matrix.rights(persona);
      if (persona.invited()) {
        disruption += (long) persona.weight() * WEIGHTS[mask & ~HARMLESS];
      } else {
        intrusion += (long) persona.weight() * WEIGHTS[mask] * level.tenths();
      }
    }
    // exposure = 0.7·100·I/(10·IW) + 0.3·100·D/DW, over the common denominator IW·DW
    long both = 7 * intrusion * DISRUPTION_WHOLE + 30 * disruption * INTRUSION_WHOLE;
    return new Exposure(
        tenths(both, INTRUSION_WHOLE * DISRUPTION_WHOLE),
        tenths(10 * intrusion, INTRUSION_WHOLE),
        tenths(100 * disruption, DISRUPTION_WHOLE));
  }

  /** 0 to 100, in steps of a tenth. */
  public double score() {
    return scoreTenths / 10.0;
  }

  /** 0 to 100, in steps of a tenth. */
  public double intrusion() {
    return intrusionTenths / 10.0;
  }

  /** 0 to 100, in steps of a tenth. */
  public double disruption() {
    return disruptionTenths / 10.0;
  }

  /** The score in a word. */
  public Band band() {
    return Band.ofTenths(scoreTenths);
  }

  /** numerator / denominator in tenths, rounded half up, without leaving whole numbers. */
  private static int tenths(long numerator, long denominator) {
    return (int) ((20 * numerator + denominator) / (2 * denominator));
  }

  private static long personaWeights(boolean invited) {
    return Persona.all().stream()
        .filter(p -> p.invited() == invited)
        .mapToLong(Persona::weight)
        .sum();
  }

  private static int[] weightsOfMasks() {
    int[] weights = new int[1 << Right.all().size()];
    for (int mask = 0; mask < weights.length; mask++) {
      for (Right right : Right.all()) {
        weights[mask] += (mask & right.bit()) == 0 ? 0 : right.weight();
      }
    }
    return weights;
  }
}
