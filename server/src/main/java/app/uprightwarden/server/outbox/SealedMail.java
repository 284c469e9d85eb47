package app.uprightwarden.server.outbox;

import app.uprightwarden.server.vault.SealedRows;
import app.uprightwarden.server.vault.Vault;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;
import tools.jackson.databind.json.JsonMapper;

/** Messages that hold a passcode: nobody reads it in the database, nor in a list of messages. */
@Component
class SealedMail implements SealedRows {
  static final String NOT_SHOWN = "This message holds a passcode, which your role does not see.\n";

  // before messages were sealed they were kept in clear; what shows a passcode is sealed as found
  private static final String BEHIND =
      " where ((sealed is not null and substr(sealed, 1, 1) <> char(:key)) or (sealed is null and"
          + " about like 'meeting:%' and (body like '%?passcode=%' or (body like '%Passcode:  %'"
          + " and body not like '%Passcode:  is not in%'))))";

  private final JdbcClient jdbc;
  private final Vault vault;
  private final TransactionTemplate transaction;
  private final JsonMapper json;

  SealedMail(JdbcClient jdbc, Vault vault, TransactionTemplate transaction, JsonMapper json) {
    this.jdbc = jdbc;
    this.vault = vault;
    this.transaction = transaction;
    this.json = json;
  }

  /** What people read of a message. */
  record Text(String body, @Nullable String html, @Nullable String calendar) {}

  private static String owner(String recipient) {
    return "message to " + recipient;
  }

  byte[] seal(String recipient, Text text) {
    return vault.seal(owner(recipient), json.writeValueAsString(text));
  }

  byte[] sealRaw(String recipient, byte[] raw) {
    return vault.sealBytes(owner(recipient), raw);
  }

  byte[] openRaw(String recipient, byte[] sealed) {
    return vault.openBytes(owner(recipient), sealed);
  }

  /** The text as this reader may see it. */
  Text text(String recipient, Text inClear, byte @Nullable [] sealed, boolean secretsToo) {
    if (sealed == null) {
      return inClear;
    }
    return secretsToo
        ? json.readValue(vault.open(owner(recipient), sealed), Text.class)
        : new Text(NOT_SHOWN, null, null);
  }

  @Override
  public String table() {
    return "outbox_message";
  }

  @Override
  public long behind() {
    return jdbc.sql("select count(*) from outbox_message" + BEHIND)
        .param("key", vault.current())
        .query(Long.class)
        .single();
  }

  private record Row(long id, String to, Text text, byte[] raw, byte @Nullable [] sealed) {}

  @Override
  public int sealAnew(int most) {
    Integer done = transaction.execute(status -> some(most));
    return done == null ? 0 : done;
  }

  private int some(int most) {
    List<Row> rows =
        jdbc.sql(
                "select id, recipient, body, html, calendar, raw, sealed from outbox_message"
                    + SealedRows.firstOf(table(), BEHIND))
            .param("key", vault.current())
            .param("most", most)
            .query(
                (r, n) ->
                    new Row(
                        r.getLong(1),
                        r.getString(2),
                        new Text(r.getString(3), r.getString(4), r.getString(5)),
                        r.getBytes(6),
                        r.getBytes(7)))
            .list();
    for (Row row : rows) {
      byte[] raw = row.sealed() == null ? row.raw() : openRaw(row.to(), row.raw());
      Text text = text(row.to(), row.text(), row.sealed(), true);
      jdbc.sql(
              "update outbox_message set body = '', html = null, calendar = null, raw = ?, sealed ="
                  + " ? where id = ?")
          .params(sealRaw(row.to(), raw), seal(row.to(), text), row.id())
          .update();
    }
    return rows.size();
  }
}
