package app.uprightwarden.server.register;

import app.uprightwarden.core.service.Means;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** Knows the conference services that hold meetings. */
public interface ServiceMeans {
  /**
   * A service by what it is called.
   *
   * @param level {@code read}: nothing is sent; {@code suggest}: what somebody releases; {@code
   *     write}: all that is decided
   * @param contactAt up to when everything it has said is known
   * @param unread the time now, where that is longer ago than is allowed; else null
   */
  record Named(
      long id,
      String name,
      Means means,
      String level,
      boolean unlinked,
      @Nullable Instant contactAt,
      @Nullable Instant unread) {}

  /** The service with this number, or null where there is none. */
  @Nullable Named service(long id);

  /**
   * The services in which a new meeting can be made.
   *
   * @param linked all that are linked, for whatever
   * @param usual the one that is taken where nobody chooses; null where there is none
   * @param isAny whether any service is linked, or was: a house without one has the built-in
   *     stand-in's addresses
   */
  record Choices(List<Named> services, List<Named> linked, @Nullable Named usual, boolean isAny) {}

  /** Where somebody of this unit can have a meeting made. */
  Choices choices(@Nullable String unit);
}
