package app.uprightwarden.server.access;

import java.io.Serializable;
import java.security.Principal;
import org.jspecify.annotations.Nullable;

/**
 * Who is behind a request: by session, or by the access token that acts for them.
 *
 * @param unit the unit that a unit's warden looks after; null for every other role
 * @param limited whether they must set up a second factor before anything else
 */
public record SignedIn(String email, String name, Role role, @Nullable String unit, boolean limited)
    implements Principal, Serializable {
  private static final long serialVersionUID = 8;

  public SignedIn(String email, String name, Role role) {
    this(email, name, role, null, false);
  }

  @Override
  public String getName() {
    return email;
  }

  /** For where a unit's warden acts as any host does, for meetings of their own. */
  public static final String AS_HOST = "asHost()";

  /** A unit's warden as the host that they are as well; everybody else as they are. */
  public SignedIn asHost() {
    return role == Role.UNIT_WARDEN ? new SignedIn(email, name, Role.HOST, null, limited) : this;
  }

  public boolean isHost() {
    return role == Role.HOST;
  }
}
