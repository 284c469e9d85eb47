package app.uprightwarden.server.bridge;

import app.uprightwarden.core.session.Wire;
import app.uprightwarden.server.bridge.ConferenceBridge.Command;
import java.time.Clock;
import java.time.Instant;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.json.JsonMapper;

/**
 * Stands in for a conference service: remembers commands and settings in tables of its own, in
 * transactions of its own, and can be told to be away or to refuse.
 */
@Service
public class BridgeStandIn {
  private final BridgeRepository memory;
  private final JsonMapper json;
  private final Clock clock;

  BridgeStandIn(BridgeRepository memory, JsonMapper json, Clock clock) {
    this.memory = memory;
    this.json = json;
    this.clock = clock;
  }

  /**
   * How it behaves.
   *
   * @param awayUntil until when it cannot be reached, or null
   * @param refuses it refuses changes of controls whose names hold this; empty refuses none
   * @param slowMillis how long it takes to answer
   * @param repeats tells some events twice
   * @param shuffles tells events out of order
   */
  public record Mood(
      @Nullable Instant awayUntil,
      String refuses,
      int slowMillis,
      boolean repeats,
      boolean shuffles) {}

  @Transactional(readOnly = true)
  public Mood mood() {
    BridgeStateEntity row = memory.state();
    return new Mood(row.awayUntil, row.refuses, row.slowMs, row.repeats, row.shuffles);
  }

  @Transactional
  public Mood set(Mood mood) {
    BridgeStateEntity row = memory.state();
    row.awayUntil = mood.awayUntil();
    row.refuses = mood.refuses();
    row.slowMs = mood.slowMillis();
    row.repeats = mood.repeats();
    row.shuffles = mood.shuffles();
    memory.update(row);
    return mood();
  }

  /**
   * Carries a change of settings out, once for each id.
   *
   * @throws SessionHolder.Away while it is to be away
   */
  @Transactional(propagation = Propagation.REQUIRES_NEW)
  public Wire.Answered change(Command command) throws SessionHolder.Away {
    Mood mood = mood();
    if (mood.awayUntil() != null && mood.awayUntil().isAfter(clock.instant())) {
      throw new SessionHolder.Away("the conference service does not answer");
    }
    Optional<Wire.Answered> before =
        memory
            .lockedCommand(command.id())
            .map(row -> new Wire.Answered(row.outcome.equals("done"), orEmpty(row.reason)));
    return before.orElseGet(() -> first(command, mood));
  }

  private Wire.Answered first(Command command, Mood mood) {
    String refused =
        mood.refuses().isBlank()
            ? null
            : command.controls().keySet().stream()
                .filter(c -> c.contains(mood.refuses().toLowerCase(Locale.ROOT)))
                .findFirst()
                .orElse(null);
    Wire.Answered answer =
        refused == null
            ? new Wire.Answered(true, "")
            : new Wire.Answered(
                false, "the conference service does not let " + refused + " be changed");
    BridgeCommandEntity row = new BridgeCommandEntity();
    row.id = command.id();
    row.meeting = command.meeting();
    row.at = clock.instant();
    row.outcome = answer.done() ? "done" : "refused";
    row.reason = answer.reason();
    memory.insert(row);
    if (answer.done()) {
      command.controls().forEach((control, value) -> keep(command, control, value));
    }
    return answer;
  }

  private void keep(Command command, String control, @Nullable Object value) {
    if (value == null) {
      memory.delete(command.meeting(), command.occurrence(), control);
      return;
    }
    BridgeSettingEntity row = new BridgeSettingEntity();
    row.meeting = command.meeting();
    row.occurrence = command.occurrence();
    row.control = control;
    row.value = json.writeValueAsString(value);
    memory.save(row);
  }

  /** What it was told of a meeting's series, control by control. */
  @Transactional(readOnly = true)
  public Map<String, Object> settings(String meeting) {
    Map<String, Object> settings = new java.util.TreeMap<>();
    memory
        .settings(meeting)
        .forEach(row -> settings.put(row.control, json.readValue(row.value, Object.class)));
    return settings;
  }

  private static String orEmpty(@Nullable String text) {
    return text == null ? "" : text;
  }
}
