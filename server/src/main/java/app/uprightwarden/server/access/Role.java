package app.uprightwarden.server.access;

import java.util.Locale;

/** What an account may do: a warden everything, an auditor read all, a host their own meetings. */
public enum Role {
  WARDEN,
  AUDITOR,
  HOST;

  public String id() {
    return name().toLowerCase(Locale.ROOT);
  }

  static Role byId(String id) {
    return valueOf(id.toUpperCase(Locale.ROOT));
  }
}
