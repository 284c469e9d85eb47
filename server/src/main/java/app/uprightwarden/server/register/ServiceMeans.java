package app.uprightwarden.server.register;

import app.uprightwarden.core.service.Means;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/** Knows the conference services that hold meetings. */
public interface ServiceMeans {
  /**
   * A service by what it is called.
   *
   * @param level {@code read}: nothing is sent; {@code suggest}: what somebody releases; {@code
   *     write}: all that is decided
   * @param contactAt up to when everything it has said is known
   */
  record Named(
      long id,
      String name,
      Means means,
      String level,
      boolean unlinked,
      @Nullable Instant contactAt) {}

  /** The service with this number, or null where there is none. */
  @Nullable Named service(long id);
}
