package app.uprightwarden.server.audit;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Keeps since when a finding is known, and tells what came and went and why. */
@Component
class FindingHistory {
  private final FindingStore store;
  private static final Duration UNDONE_LATELY = Duration.ofMinutes(10);

  private final Clock clock;

  FindingHistory(FindingStore store, Clock clock) {
    this.store = store;
    this.clock = clock;
  }

  /** Why something came or went, and in which meeting. */
  record Because(String cause, @Nullable String by, String title, @Nullable String unit) {}

  static Map<String, FindingStore.Old> byIdentity(Collection<FindingStore.Old> some) {
    Map<String, FindingStore.Old> byIdentity = new HashMap<>();
    some.forEach(finding -> byIdentity.put(finding.identity(), finding));
    return byIdentity;
  }

  /** New rows, known since when the old ones were. */
  List<FindingStore.FindingRow> dated(
      List<FindingStore.FindingRow> fresh, Map<String, FindingStore.Old> old) {
    Instant now = clock.instant();
    Set<String> met = new HashSet<>();
    fresh.stream()
        .filter(row -> !old.containsKey(row.identity()))
        .forEach(row -> met.add(row.meeting()));
    // what is back because a remedy was undone was there before
    Map<String, Instant> back = store.seenBeforeUndo(met, now.minus(UNDONE_LATELY));
    return fresh.stream()
        .map(
            row -> {
              FindingStore.Old before = old.get(row.identity());
              return row.seenSince(
                  before == null || before.seen() == null
                      ? back.getOrDefault(row.identity(), now)
                      : before.seen());
            })
        .toList();
  }

  /** Notes what is in one and not in the other. */
  void note(
      Map<String, FindingStore.Old> old,
      List<FindingStore.FindingRow> fresh,
      Function<String, Because> because) {
    Set<String> now = new HashSet<>();
    List<FindingStore.Event> events = new ArrayList<>();
    for (FindingStore.FindingRow row : fresh) {
      now.add(row.identity());
      if (!old.containsKey(row.identity())) {
        events.add(
            event(
                "came",
                because.apply(row.meeting()),
                new FindingStore.Old(
                    row.meeting(),
                    row.occurrence(),
                    row.check(),
                    row.subject(),
                    row.family(),
                    row.severity(),
                    null)));
      }
    }
    old.values().stream()
        .filter(finding -> !now.contains(finding.identity()))
        .forEach(finding -> events.add(event("gone", because.apply(finding.meeting()), finding)));
    store.note(clock.instant(), events);
  }

  static FindingStore.Event event(String what, Because because, FindingStore.Old finding) {
    return new FindingStore.Event(
        what, because.cause(), because.by(), because.title(), because.unit(), finding);
  }
}
