package app.uprightwarden.server.register;

import app.uprightwarden.server.vault.SealedRows;
import app.uprightwarden.server.vault.Vault;
import java.util.List;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.transaction.support.TransactionTemplate;

/** Passcodes of meetings and of their earlier versions, when the key that seals them changes. */
@Configuration
class SealedPasscodes {
  private record Row(long id, String meeting, byte[] sealed) {}

  @Bean
  SealedRows sealedMeetings(JdbcClient jdbc, Vault vault, TransactionTemplate transaction) {
    return new Table("meeting", "public_id", true, jdbc, vault, transaction);
  }

  @Bean
  SealedRows sealedVersions(JdbcClient jdbc, Vault vault, TransactionTemplate transaction) {
    return new Table("meeting_version", "meeting", false, jdbc, vault, transaction);
  }

  /**
   * @param owner the column of the meeting's public id
   * @param isPrinted whether the rows have a fingerprint beside it
   */
  private record Table(
      String table,
      String owner,
      boolean isPrinted,
      JdbcClient jdbc,
      Vault vault,
      TransactionTemplate transaction)
      implements SealedRows {
    private static final String BEHIND =
        " where passcode_cipher is not null and substr(passcode_cipher, 1, 1) <> char(:key)";

    @Override
    public long behind() {
      return jdbc.sql("select count(*) from " + table + BEHIND)
          .param("key", vault.current())
          .query(Long.class)
          .single();
    }

    @Override
    public int sealAnew(int most) {
      Integer done = transaction.execute(status -> some(most));
      return done == null ? 0 : done;
    }

    private int some(int most) {
      List<Row> rows =
          jdbc.sql(
                  "select id, %s, passcode_cipher from %s".formatted(owner, table)
                      + SealedRows.firstOf(table, BEHIND))
              .param("key", vault.current())
              .param("most", most)
              .query((r, n) -> new Row(r.getLong(1), r.getString(2), r.getBytes(3)))
              .list();
      for (Row row : rows) {
        String passcode = vault.open(row.meeting(), row.sealed());
        byte[] anew = vault.seal(row.meeting(), passcode);
        if (isPrinted) {
          jdbc.sql("update meeting set passcode_cipher = ?, passcode_fingerprint = ? where id = ?")
              .params(anew, vault.fingerprint(passcode), row.id())
              .update();
        } else {
          jdbc.sql("update meeting_version set passcode_cipher = ? where id = ?")
              .params(anew, row.id())
              .update();
        }
      }
      return rows.size();
    }
  }
}
