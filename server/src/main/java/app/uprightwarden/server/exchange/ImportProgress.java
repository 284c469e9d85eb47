package app.uprightwarden.server.exchange;

import java.util.LinkedHashMap;
import java.util.Map;
import java.util.function.IntConsumer;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** How far imports are that are only tried, by the name their page gave them. */
@Component
class ImportProgress {
  private static final int MAX_KEPT = 200;

  private final Map<String, ImportState> states = new LinkedHashMap<>();

  /** Rows done, of how many; both 0 while the file is read. */
  record ImportState(int done, int total) {}

  synchronized @Nullable ImportState of(String name) {
    return states.get(name);
  }

  private synchronized void put(String name, ImportState state) {
    states.put(name, state);
    if (states.size() > MAX_KEPT) {
      states.remove(states.keySet().iterator().next());
    }
  }

  ImportJob.Progress listener(String name) {
    put(name, new ImportState(0, 0));
    return new ImportJob.Progress() {
      private int total;

      @Override
      public void of(int total) {
        this.total = total;
        put(name, new ImportState(0, total));
      }

      @Override
      public IntConsumer done() {
        return done -> put(name, new ImportState(done, total));
      }
    };
  }

  synchronized void over(String name) {
    states.remove(name);
  }
}
