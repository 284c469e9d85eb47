package app.uprightwarden.server.persistence;

import java.lang.reflect.InvocationHandler;
import java.lang.reflect.InvocationTargetException;
import java.lang.reflect.Method;
import java.lang.reflect.Proxy;
import java.util.List;
import java.util.Set;
import org.hibernate.SessionFactory;
import org.hibernate.SharedSessionContract;
import org.hibernate.StatelessSession;
import org.hibernate.engine.spi.SharedSessionContractImplementor;
import org.hibernate.resource.jdbc.spi.JdbcSessionOwner;
import org.jspecify.annotations.Nullable;
import org.springframework.orm.jpa.hibernate.SpringSessionContext;

/**
 * The stateless session of whatever transaction is under way, behind one object. It shares the
 * connection of the transaction's own session, and would go by that one's size of batches, so that
 * a list went out row by row; for a list that size is set to the list's.
 */
final class TransactionSession implements InvocationHandler {
  private static final Set<String> OF_LISTS =
      Set.of("insertMultiple", "updateMultiple", "upsertMultiple", "deleteMultiple");

  /** A batch is sent whenever it holds so many rows: a packet to the database has its limit. */
  private static final int MAX_AT_ONCE = 1000;

  private final SessionFactory factory;

  private TransactionSession(SessionFactory factory) {
    this.factory = factory;
  }

  static StatelessSession of(SessionFactory factory) {
    return (StatelessSession)
        Proxy.newProxyInstance(
            TransactionSession.class.getClassLoader(),
            new Class<?>[] {StatelessSession.class},
            new TransactionSession(factory));
  }

  @Override
  public @Nullable Object invoke(Object proxy, Method method, @Nullable Object @Nullable [] given)
      throws Throwable {
    if (method.getDeclaringClass() == Object.class) {
      return switch (method.getName()) {
        case "equals" -> given != null && proxy == given[0];
        case "hashCode" -> System.identityHashCode(proxy);
        default -> "the stateless session of the transaction under way";
      };
    }
    StatelessSession session = SpringSessionContext.currentStatelessSession(factory);
    List<?> list =
        OF_LISTS.contains(method.getName()) && given != null && given[0] instanceof List<?> some
            ? some
            : null;
    JdbcSessionOwner owner =
        ((SharedSessionContractImplementor) session).getJdbcCoordinator().getJdbcSessionOwner();
    if (list == null || owner == session || !(owner instanceof SharedSessionContract sharing)) {
      return call(session, method, given);
    }
    Integer before = sharing.getJdbcBatchSize();
    sharing.setJdbcBatchSize(Math.max(1, Math.min(list.size(), MAX_AT_ONCE)));
    try {
      return call(session, method, given);
    } finally {
      sharing.setJdbcBatchSize(before);
    }
  }

  private static @Nullable Object call(
      StatelessSession session, Method method, @Nullable Object @Nullable [] given)
      throws Throwable {
    try {
      return method.invoke(session, given);
    } catch (InvocationTargetException e) {
      throw e.getCause();
    }
  }
}
