package app.uprightwarden.server;

import java.util.concurrent.ThreadLocalRandom;
import java.util.concurrent.locks.LockSupport;
import java.util.function.Supplier;
import org.aopalliance.intercept.MethodInterceptor;
import org.aopalliance.intercept.MethodInvocation;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.aop.Advisor;
import org.springframework.aop.ProxyMethodInvocation;
import org.springframework.aop.support.DefaultPointcutAdvisor;
import org.springframework.aop.support.annotation.AnnotationMatchingPointcut;
import org.springframework.beans.factory.config.BeanDefinition;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.context.annotation.Primary;
import org.springframework.context.annotation.Role;
import org.springframework.core.Ordered;
import org.springframework.dao.PessimisticLockingFailureException;
import org.springframework.transaction.PlatformTransactionManager;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionCallback;
import org.springframework.transaction.support.TransactionSynchronizationManager;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Two transactions that want each other's locks cannot both go on: the database takes one back as a
 * whole and expects it to be tried again (a cluster says the same of a commit that failed its
 * certification). So the outermost transaction is done again here, and nobody is told. What it
 * changed in memory has to bear that; what follows a commit has not happened yet.
 */
@Configuration
@Role(BeanDefinition.ROLE_INFRASTRUCTURE)
class GivingWay {
  private static final Logger LOG = LoggerFactory.getLogger(GivingWay.class);
  private static final int MOST_TRIES = 6;
  private static final long FIRST_PAUSE_NANOS = 5_000_000;

  /** Around transactions that annotations ask for. */
  @Bean
  @Role(BeanDefinition.ROLE_INFRASTRUCTURE)
  static Advisor transactionsTriedAgain() {
    DefaultPointcutAdvisor advisor =
        new DefaultPointcutAdvisor(
            AnnotationMatchingPointcut.forMethodAnnotation(Transactional.class), new Around());
    // outside the transaction, whose advisor is the last of all
    advisor.setOrder(Ordered.LOWEST_PRECEDENCE - 1);
    return advisor;
  }

  /** Around transactions that code asks for. */
  @Bean
  @Primary
  static TransactionTemplate transactionTriedAgain(PlatformTransactionManager transactions) {
    return new Template(transactions);
  }

  private static final class Around implements MethodInterceptor {
    @Override
    public @Nullable Object invoke(MethodInvocation invocation) throws Throwable {
      if (TransactionSynchronizationManager.isActualTransactionActive()
          || !(invocation instanceof ProxyMethodInvocation again)) {
        return invocation.proceed();
      }
      // an invocation is used up by proceeding; each try needs one of its own
      for (int tried = 1; ; tried++) {
        try {
          return again.invocableClone().proceed();
        } catch (PessimisticLockingFailureException e) {
          pauseOrGiveUp(tried, e, invocation.getMethod().getName());
        }
      }
    }
  }

  private static final class Template extends TransactionTemplate {
    private static final long serialVersionUID = 1;

    Template(PlatformTransactionManager transactions) {
      super(transactions);
    }

    @Override
    public <T extends @Nullable Object> T execute(TransactionCallback<T> action) {
      return TransactionSynchronizationManager.isActualTransactionActive()
          ? super.execute(action)
          : triedAgain("a step", () -> super.execute(action));
    }
  }

  private static <T extends @Nullable Object> T triedAgain(String what, Supplier<T> work) {
    for (int tried = 1; ; tried++) {
      try {
        return work.get();
      } catch (PessimisticLockingFailureException e) {
        pauseOrGiveUp(tried, e, what);
      }
    }
  }

  /** Waits longer from one try to the next, and never as long as the other that gave way. */
  private static void pauseOrGiveUp(int tried, PessimisticLockingFailureException e, String what) {
    if (tried >= MOST_TRIES) {
      throw e;
    }
    LOG.info("{} gave way to another change ({} of {} tries)", what, tried, MOST_TRIES);
    long most = FIRST_PAUSE_NANOS << tried;
    LockSupport.parkNanos(ThreadLocalRandom.current().nextLong(most / 2, most));
  }
}
