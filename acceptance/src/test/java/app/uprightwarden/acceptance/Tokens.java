package app.uprightwarden.acceptance;

import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.util.HexFormat;

/** Access tokens whose text is known, written where a server keeps their sums. */
final class Tokens {
  private Tokens() {}

  /** A token of a warden of the demo. */
  static void issue(Connection connection, String token) throws SQLException {
    issue(connection, token, "warden", "m.sachs@saltmarsh.example");
  }

  static void issue(Connection connection, String token, String role, String as)
      throws SQLException {
    try (PreparedStatement insert =
        connection.prepareStatement(
            "insert into access_token (token_hash, purpose, role, acts_as, issued_by, issued_at,"
                + " expires_at) values (?, 'test', ?, ?, 'local', utc_timestamp(), utc_timestamp() +"
                + " interval 1 day)")) {
      insert.setString(1, sum(token));
      insert.setString(2, role);
      insert.setString(3, as);
      insert.executeUpdate();
    }
  }

  private static String sum(String token) {
    try {
      return HexFormat.of()
          .formatHex(
              MessageDigest.getInstance("SHA-256").digest(token.getBytes(StandardCharsets.UTF_8)));
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException("every Java has SHA-256", e);
    }
  }
}
