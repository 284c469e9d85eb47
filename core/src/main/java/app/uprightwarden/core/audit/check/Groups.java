package app.uprightwarden.core.audit.check;

import app.uprightwarden.core.audit.MeetingFacts;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/** Numbers meetings by something they share. */
final class Groups {
  private Groups() {}

  /** The group of each meeting, negative where the key is null. */
  static int[] of(List<MeetingFacts> meetings, Function<MeetingFacts, @Nullable String> key) {
    Map<String, Integer> numbers = new HashMap<>();
    int[] groups = new int[meetings.size()];
    for (int i = 0; i < groups.length; i++) {
      String name = key.apply(meetings.get(i));
      groups[i] = name == null ? -1 : numbers.computeIfAbsent(name, n -> numbers.size());
    }
    return groups;
  }
}
