package app.uprightwarden.server.outbox;

import app.uprightwarden.server.vault.SealedRows;
import app.uprightwarden.server.vault.Vault;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.json.JsonMapper;

/** Messages that hold a passcode: nobody reads it in the database, nor in a list of messages. */
@Component
class SealedMail implements SealedRows {
  static final String NOT_SHOWN = "This message holds a passcode, which your role does not see.\n";

  private final OutboxRepository messages;
  private final Vault vault;
  private final JsonMapper json;

  SealedMail(OutboxRepository messages, Vault vault, JsonMapper json) {
    this.messages = messages;
    this.vault = vault;
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
    return messages.countBehind(vault.current());
  }

  @Override
  @Transactional
  public int sealAnew(int most) {
    List<OutboxMessageEntity> rows =
        messages.lockedBehind(messages.behind(vault.current(), most), vault.current());
    for (OutboxMessageEntity row : rows) {
      byte[] raw = row.sealed == null ? row.raw : openRaw(row.recipient, row.raw);
      Text text = text(row.recipient, new Text(row.body, row.html, row.calendar), row.sealed, true);
      row.body = "";
      row.html = null;
      row.calendar = null;
      row.raw = sealRaw(row.recipient, raw);
      row.sealed = seal(row.recipient, text);
      messages.update(row);
    }
    return rows.size();
  }
}
