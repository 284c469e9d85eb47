package app.uprightwarden.core.audit;

import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** The waivers in force, by what they cover. The narrowest one that covers a finding is its own. */
public final class Waivers {
  public static final Waivers NONE = new Waivers(List.of());

  private record Key(Waiver.Scope scope, String of, String occurrence, String what) {}

  private final Map<Key, Waiver> byKey = new HashMap<>();

  /** Takes waivers that are in force. */
  public Waivers(Collection<Waiver> inForce) {
    for (Waiver waiver : inForce) {
      byKey.merge(key(waiver), waiver, (a, b) -> a.id() <= b.id() ? a : b);
    }
  }

  private static Key key(Waiver waiver) {
    String meeting = String.valueOf(waiver.meeting());
    return switch (waiver.scope()) {
      case FINDING -> finding(meeting, waiver.occurrence(), waiver.check(), waiver.subject());
      case MEETING -> meeting(meeting);
      case RULE -> rule(String.valueOf(waiver.unit()), waiver.subject());
    };
  }

  private static Key finding(String meeting, String occurrence, String check, String subject) {
    return new Key(Waiver.Scope.FINDING, meeting, occurrence, check + "|" + subject);
  }

  private static Key meeting(String meeting) {
    return new Key(Waiver.Scope.MEETING, meeting, "", "");
  }

  private static Key rule(String unit, String subject) {
    return new Key(Waiver.Scope.RULE, unit, "", subject);
  }

  /**
   * The waiver that covers a finding, or null.
   *
   * @param units the host's unit and those above it
   * @param occurrence empty for the series
   * @param subject control or guarantee, or empty
   */
  public @Nullable Waiver covering(
      String meeting, Collection<String> units, String occurrence, String check, String subject) {
    if (byKey.isEmpty()) {
      return null;
    }
    Waiver own = byKey.get(finding(meeting, occurrence, check, subject));
    if (own == null) {
      own = byKey.get(meeting(meeting));
    }
    if (own != null || subject.isEmpty()) {
      return own;
    }
    return units.stream()
        .map(unit -> byKey.get(rule(unit, subject)))
        .filter(waiver -> waiver != null)
        .findFirst()
        .orElse(null);
  }
}
