package app.uprightwarden.server.faults;

import java.lang.reflect.InvocationHandler;
import java.lang.reflect.InvocationTargetException;
import java.lang.reflect.Method;
import java.lang.reflect.Proxy;
import java.sql.CallableStatement;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.sql.SQLNonTransientConnectionException;
import java.sql.Statement;
import java.util.concurrent.Executor;
import java.util.function.Predicate;
import javax.sql.DataSource;
import org.springframework.beans.factory.config.BeanPostProcessor;
import org.springframework.jdbc.datasource.DelegatingDataSource;
import org.springframework.stereotype.Component;

/**
 * Breaks the connection to the database at a chosen step of somebody's work: before a statement or
 * a commit, or after a commit whose answer is then lost. To whoever works, that is the database
 * killed at that step; what was not committed is gone.
 */
@Component
public class Breaks implements BeanPostProcessor {
  private static final Executor AT_ONCE = Runnable::run;

  /** Where it breaks. */
  public enum How {
    BEFORE,
    AFTER_COMMIT,
    /** A statement that writes is refused, as by a disk that is full; the connection stays. */
    DISK_FULL
  }

  private static volatile Predicate<Thread> whose = thread -> false;
  private static volatile How how = How.BEFORE;
  private static volatile int left;
  private static volatile boolean broke;

  /** Arms it: the n-th step (from 1) of work on these threads breaks. */
  public static synchronized void arm(Predicate<Thread> threads, int step, How kind) {
    left = step;
    how = kind;
    broke = false;
    whose = threads;
  }

  /** Disarms it, and says whether it broke. */
  public static synchronized boolean disarm() {
    whose = thread -> false;
    return broke;
  }

  static synchronized boolean hasBroken() {
    return broke;
  }

  private static synchronized boolean isNow(boolean isCommit) {
    if (broke
        || !whose.test(Thread.currentThread())
        || (how == How.AFTER_COMMIT && !isCommit)
        || (how == How.DISK_FULL && isCommit)) {
      return false;
    }
    left--;
    broke = left == 0;
    return broke;
  }

  @Override
  public Object postProcessAfterInitialization(Object bean, String name) {
    return bean instanceof DataSource source && !(bean instanceof Breaking)
        ? new Breaking(source)
        : bean;
  }

  private static final class Breaking extends DelegatingDataSource {
    Breaking(DataSource source) {
      super(source);
    }

    @Override
    public Connection getConnection() throws SQLException {
      Connection real = super.getConnection();
      return (Connection)
          proxy(
              Connection.class,
              real,
              (proxy, method, arguments) -> {
                switch (method.getName()) {
                  case "commit" -> {
                    return commit(real, method, arguments);
                  }
                  case "prepareStatement" -> {
                    return watched(PreparedStatement.class, real, method, arguments);
                  }
                  case "createStatement" -> {
                    return watched(Statement.class, real, method, arguments);
                  }
                  case "prepareCall" -> {
                    return watched(CallableStatement.class, real, method, arguments);
                  }
                  default -> {
                    return call(real, method, arguments);
                  }
                }
              });
    }

    private static Object commit(Connection real, Method method, Object[] arguments)
        throws Throwable {
      boolean now = isNow(true);
      if (now && how == How.BEFORE) {
        throw broken(real);
      }
      Object result = call(real, method, arguments);
      if (now && how == How.AFTER_COMMIT) {
        throw broken(real);
      }
      return result;
    }

    private static Object watched(
        Class<? extends Statement> type, Connection real, Method method, Object[] arguments)
        throws Throwable {
      Object statement = call(real, method, arguments);
      return proxy(
          type,
          statement,
          (proxy, of, given) -> {
            boolean isStep =
                of.getName().startsWith("execute")
                    && (how != How.DISK_FULL || of.getName().matches("execute(Update|Batch)"));
            if (isStep && isNow(false)) {
              throw how == How.DISK_FULL
                  ? new SQLException("The table 'x' is full", "HY000", 1114)
                  : broken(real);
            }
            return call(statement, of, given);
          });
    }

    private static SQLException broken(Connection real) throws SQLException {
      real.abort(AT_ONCE);
      return new SQLNonTransientConnectionException("broken by a test", "08S01");
    }
  }

  private static Object proxy(Class<?> type, Object target, InvocationHandler handler) {
    return Proxy.newProxyInstance(
        Breaks.class.getClassLoader(),
        new Class<?>[] {type},
        (proxy, method, arguments) ->
            method.getDeclaringClass() == Object.class
                ? call(target, method, arguments)
                : handler.invoke(proxy, method, arguments));
  }

  private static Object call(Object target, Method method, Object[] arguments) throws Throwable {
    try {
      return method.invoke(target, arguments);
    } catch (InvocationTargetException e) {
      throw e.getCause();
    }
  }
}
