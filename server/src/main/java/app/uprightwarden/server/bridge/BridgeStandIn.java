package app.uprightwarden.server.bridge;

import app.uprightwarden.server.bridge.ConferenceBridge.Answer;
import app.uprightwarden.server.bridge.ConferenceBridge.Command;
import java.time.Clock;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.util.Arrays;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
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
  private final JdbcClient jdbc;
  private final JsonMapper json;
  private final Clock clock;

  BridgeStandIn(JdbcClient jdbc, JsonMapper json, Clock clock) {
    this.jdbc = jdbc;
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
    return jdbc.sql("select away_until, refuses, slow_ms, repeats, shuffles from bridge_state")
        .query(
            (r, n) -> {
              LocalDateTime until = r.getObject(1, LocalDateTime.class);
              return new Mood(
                  until == null ? null : until.toInstant(ZoneOffset.UTC),
                  r.getString(2),
                  r.getInt(3),
                  r.getBoolean(4),
                  r.getBoolean(5));
            })
        .single();
  }

  @Transactional
  public Mood set(Mood mood) {
    Instant until = mood.awayUntil();
    jdbc.sql(
            "update bridge_state set away_until = ?, refuses = ?, slow_ms = ?, repeats = ?,"
                + " shuffles = ?")
        .params(
            Arrays.asList(
                until == null ? null : utc(until),
                mood.refuses(),
                mood.slowMillis(),
                mood.repeats(),
                mood.shuffles()))
        .update();
    return mood();
  }

  /**
   * Carries a change of settings out, once for each id.
   *
   * @throws ConferenceBridge.Away while it is to be away
   */
  @Transactional(propagation = Propagation.REQUIRES_NEW)
  public Answer change(Command command) throws ConferenceBridge.Away {
    Mood mood = mood();
    if (mood.awayUntil() != null && mood.awayUntil().isAfter(clock.instant())) {
      throw new ConferenceBridge.Away("the conference service does not answer");
    }
    Optional<Answer> before =
        jdbc.sql("select outcome, reason from bridge_command where id = ? for update")
            .param(command.id())
            .query((r, n) -> new Answer(r.getString(1).equals("done"), orEmpty(r.getString(2))))
            .optional();
    return before.orElseGet(() -> first(command, mood));
  }

  private Answer first(Command command, Mood mood) {
    String refused =
        mood.refuses().isBlank()
            ? null
            : command.controls().keySet().stream()
                .filter(c -> c.contains(mood.refuses().toLowerCase(Locale.ROOT)))
                .findFirst()
                .orElse(null);
    Answer answer =
        refused == null
            ? new Answer(true, "")
            : new Answer(false, "the conference service does not let " + refused + " be changed");
    jdbc.sql("insert into bridge_command (id, meeting, at, outcome, reason) values (?, ?, ?, ?, ?)")
        .params(
            command.id(),
            command.meeting(),
            utc(clock.instant()),
            answer.done() ? "done" : "refused",
            answer.reason())
        .update();
    if (answer.done()) {
      command.controls().forEach((control, value) -> keep(command, control, value));
    }
    return answer;
  }

  private void keep(Command command, String control, @Nullable Object value) {
    if (value == null) {
      jdbc.sql("delete from bridge_setting where meeting = ? and occurrence = ? and control = ?")
          .params(command.meeting(), command.occurrence(), control)
          .update();
    } else {
      jdbc.sql(
              "replace into bridge_setting (meeting, occurrence, control, value) values (?, ?, ?, ?)")
          .params(command.meeting(), command.occurrence(), control, json.writeValueAsString(value))
          .update();
    }
  }

  /** What it was told of a meeting's series, control by control. */
  @Transactional(readOnly = true)
  public Map<String, Object> settings(String meeting) {
    Map<String, Object> settings = new java.util.TreeMap<>();
    jdbc.sql("select control, value from bridge_setting where meeting = ? and occurrence = ''")
        .param(meeting)
        .query(
            (org.springframework.jdbc.core.RowCallbackHandler)
                r -> settings.put(r.getString(1), json.readValue(r.getString(2), Object.class)));
    return settings;
  }

  private static String orEmpty(@Nullable String text) {
    return text == null ? "" : text;
  }

  private static LocalDateTime utc(Instant instant) {
    return LocalDateTime.ofInstant(instant, ZoneOffset.UTC);
  }
}
