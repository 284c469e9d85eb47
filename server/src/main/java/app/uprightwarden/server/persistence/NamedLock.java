package app.uprightwarden.server.persistence;

import jakarta.persistence.EntityManagerFactory;
import java.time.Duration;
import org.hibernate.SessionFactory;
import org.hibernate.StatelessSession;
import org.hibernate.Transaction;
import org.springframework.stereotype.Component;

/** A lock by name among all servers on one schema; whoever dies lets go of it. */
@Component
public class NamedLock {
  private final SessionFactory sessions;

  NamedLock(EntityManagerFactory factory) {
    this.sessions = factory.unwrap(SessionFactory.class);
  }

  /**
   * Does something while no other server does anything under the same name.
   *
   * @param patience how long to wait for another that does
   * @throws IllegalStateException where it does so for longer: nothing is done then
   */
  public void holding(String name, Duration patience, Runnable work) {
    try (StatelessSession session = sessions.openStatelessSession()) {
      Transaction transaction = session.beginTransaction(); // keeps the connection, and so the lock
      try {
        Integer isHeld =
            session
                .createNativeQuery(
                    "select get_lock(concat(database(), ':', :name), :seconds)", Integer.class)
                .setParameter("name", name)
                .setParameter("seconds", patience.toSeconds())
                .getSingleResultOrNull();
        if (isHeld == null || isHeld != 1) {
          throw new IllegalStateException(
              "another server has been at " + name + " for over " + patience.toSeconds() + " s");
        }
        work.run();
      } finally {
        session
            .createNativeQuery("select release_lock(concat(database(), ':', :name))", Integer.class)
            .setParameter("name", name)
            .getSingleResultOrNull();
        transaction.rollback();
      }
    }
  }
}
