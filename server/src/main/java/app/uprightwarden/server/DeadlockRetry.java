package app.uprightwarden.server;

import java.time.Duration;
import java.util.Optional;
import org.aopalliance.intercept.MethodInterceptor;
import org.aopalliance.intercept.MethodInvocation;
import org.jspecify.annotations.Nullable;
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
import org.springframework.core.retry.RetryException;
import org.springframework.core.retry.RetryPolicy;
import org.springframework.core.retry.RetryTemplate;
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
class DeadlockRetry {
  /** Waits longer from one try to the next, and never as long as the other that gave way. */
  private static final RetryTemplate RETRY =
      new RetryTemplate(
          RetryPolicy.builder()
              .includes(PessimisticLockingFailureException.class)
              .maxRetries(5)
              .delay(Duration.ofMillis(8))
              .jitter(Duration.ofMillis(6))
              .multiplier(2)
              .maxDelay(Duration.ofMillis(300))
              .build());

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
      return triedAgain(() -> again.invocableClone().proceed());
    }
  }

  private static final class Template extends TransactionTemplate {
    private static final long serialVersionUID = 1;

    Template(PlatformTransactionManager transactions) {
      super(transactions);
    }

    @Override
    @SuppressWarnings({"unchecked", "NullAway"}) // what the action gives is what comes back
    public <T extends @Nullable Object> T execute(TransactionCallback<T> action) {
      return TransactionSynchronizationManager.isActualTransactionActive()
          ? super.execute(action)
          : (T) unchecked(() -> super.execute(action));
    }

    private static @Nullable Object unchecked(Tried work) {
      try {
        return triedAgain(work);
      } catch (RuntimeException | Error e) {
        throw e;
      } catch (Throwable e) {
        throw new IllegalStateException("a step in a transaction throws nothing checked", e);
      }
    }
  }

  private interface Tried {
    @Nullable Object go() throws Throwable;
  }

  private static @Nullable Object triedAgain(Tried work) throws Throwable {
    try {
      return RETRY.execute(() -> Optional.ofNullable(work.go())).orElse(null);
    } catch (RetryException e) {
      throw e.getCause();
    }
  }
}
