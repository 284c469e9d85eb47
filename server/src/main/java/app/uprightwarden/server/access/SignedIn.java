package app.uprightwarden.server.access;

import java.io.Serializable;
import java.security.Principal;

/** Who is behind a request: by session, or by the access token that acts for them. */
public record SignedIn(String email, String name, Role role) implements Principal, Serializable {
  @Override
  public String getName() {
    return email;
  }

  public boolean isHost() {
    return role == Role.HOST;
  }
}
