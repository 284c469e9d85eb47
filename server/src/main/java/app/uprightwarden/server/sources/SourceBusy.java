package app.uprightwarden.server.sources;

import java.time.Instant;
import java.util.Collection;
import java.util.List;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** When people have no time, as their calendars say. */
@Service
public class SourceBusy {
  private final SourceRepository rows;

  SourceBusy(SourceRepository rows) {
    this.rows = rows;
  }

  /**
   * A stretch of time.
   *
   * @param person folded address
   */
  public record BusyTime(String person, Instant start, Instant end) {}

  /**
   * What takes up people's time.
   *
   * @param people folded addresses
   */
  @Transactional(readOnly = true)
  public List<BusyTime> between(Collection<String> people, Instant from, Instant to) {
    return people.isEmpty()
        ? List.of()
        : rows.busy(people, from, to).stream()
            .map(row -> new BusyTime(row.person, row.start, row.until))
            .toList();
  }
}
