package app.uprightwarden.server.bridge;

import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Which conference service holds a session. */
@Component
public class SessionHolders {
  private final ConferenceBridge own;
  private final LinkedSessions linked;

  SessionHolders(ConferenceBridge own, LinkedSessions linked) {
    this.own = own;
    this.linked = linked;
  }

  /** What linked services can of sessions. */
  public interface LinkedSessions {
    /**
     * Who speaks with a service of sessions.
     *
     * @return null where it is not linked any more
     */
    @Nullable SessionHolder of(long service);

    /**
     * Whether it holds sessions.
     *
     * @param practice whether they are played, which real ones cannot
     */
    boolean holds(long service, boolean practice);
  }

  /**
   * Who holds a session.
   *
   * @param service the linked service it is at; null for none
   * @return null where that is linked no more
   */
  public @Nullable SessionHolder of(@Nullable Long service) {
    return service == null ? own : linked.of(service);
  }

  /**
   * Whether a linked service holds sessions.
   *
   * @param practice whether they are played, which real ones cannot
   */
  public boolean holds(long service, boolean practice) {
    return linked.holds(service, practice);
  }
}
