package app.uprightwarden.server.register;

import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.server.access.AccessHash;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.json.JsonMapper;

/**
 * Sets of control values, each stored once and read once: rows never change, so that what has been
 * read may be kept. Only rows that were seen committed are remembered by their number.
 */
@Component
class ControlSets {
  private static final int MOST_REMEMBERED = 100_000;

  private final JdbcClient jdbc;
  private final JsonMapper json;
  private final Map<Long, ControlValues> byId = new ConcurrentHashMap<>();

  ControlSets(JdbcClient jdbc, JsonMapper json) {
    this.jdbc = jdbc;
    this.json = json;
  }

  @Transactional(propagation = Propagation.MANDATORY)
  public long idOf(ControlValues values) {
    String document = json.writeValueAsString(ControlsJson.plain(values));
    String digest = AccessHash.sha256(document);
    // looked for first: an insert that finds its row locks it, and many at once would lock each
    // other
    return find(digest)
        .orElseGet(
            () -> {
              jdbc.sql(
                      "insert into control_set (digest, document) values (?, ?) on duplicate key"
                          + " update id = id")
                  .params(digest, document)
                  .update();
              return find(digest).orElseThrow();
            });
  }

  private Optional<Long> find(String digest) {
    return jdbc.sql("select id from control_set where digest = ? lock in share mode")
        .param(digest)
        .query(Long.class)
        .optional();
  }

  ControlValues values(long id) {
    ControlValues known = byId.get(id);
    if (known != null) {
      return known;
    }
    String document =
        jdbc.sql("select document from control_set where id = ?")
            .param(id)
            .query(String.class)
            .single();
    ControlValues values = ControlsJson.read(json.readTree(document), "", new ArrayList<>());
    if (byId.size() > MOST_REMEMBERED) {
      byId.clear();
    }
    byId.put(id, values);
    return values;
  }

  /** The sets among these that some meetings have, read at once. */
  void warm(List<Long> ids) {
    List<Long> missing = ids.stream().distinct().filter(id -> !byId.containsKey(id)).toList();
    if (missing.isEmpty()) {
      return;
    }
    jdbc.sql("select id, document from control_set where id in (:ids)")
        .param("ids", missing)
        .query(
            (row, n) ->
                byId.put(
                    row.getLong(1),
                    ControlsJson.read(json.readTree(row.getString(2)), "", new ArrayList<>())))
        .list();
  }
}
