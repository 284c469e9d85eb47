package app.uprightwarden.server.persistence;

import jakarta.data.exceptions.DataException;
import jakarta.data.repository.Repository;
import jakarta.persistence.EntityManagerFactory;
import org.hibernate.SessionFactory;
import org.hibernate.StatelessSession;
import org.jspecify.annotations.Nullable;
import org.springframework.beans.factory.config.BeanDefinition;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.context.annotation.Role;
import org.springframework.dao.DataAccessException;
import org.springframework.dao.annotation.PersistenceExceptionTranslationPostProcessor;
import org.springframework.dao.support.PersistenceExceptionTranslator;
import org.springframework.orm.jpa.vendor.HibernateJpaDialect;
import org.springframework.transaction.TransactionExecution;

/**
 * What repositories need. They are Jakarta Data interfaces, which Hibernate's processor implements
 * over a stateless session: a statement goes to the database when it is called, and nothing is held
 * in memory behind it. The session is the transaction's; outside of one there is none.
 */
@Configuration(proxyBeanMethods = false)
public class PersistenceConfig {
  @Bean
  StatelessSession statelessSession(EntityManagerFactory factory) {
    return TransactionSession.of(factory.unwrap(SessionFactory.class));
  }

  /** What goes wrong in a repository is told as Spring's exceptions are: retries know those. */
  @Bean
  @Role(BeanDefinition.ROLE_INFRASTRUCTURE)
  static PersistenceExceptionTranslationPostProcessor repositoriesTranslated() {
    PersistenceExceptionTranslationPostProcessor processor =
        new PersistenceExceptionTranslationPostProcessor();
    processor.setRepositoryAnnotationType(Repository.class);
    processor.setProxyTargetClass(true);
    return processor;
  }

  /**
   * Whether a transaction is of one call of a repository, begun because nobody had one: what notes
   * a time or looks something up on the way is no act by itself.
   */
  public static boolean isOneCall(TransactionExecution transaction) {
    return transaction.getTransactionName().contains("Repository_.");
  }

  /** Jakarta Data wraps what Hibernate threw. */
  @Bean
  @Role(BeanDefinition.ROLE_INFRASTRUCTURE)
  static PersistenceExceptionTranslator wrappedTranslated() {
    HibernateJpaDialect dialect = new HibernateJpaDialect();
    return new PersistenceExceptionTranslator() {
      @Override
      public @Nullable DataAccessException translateExceptionIfPossible(RuntimeException thrown) {
        return thrown instanceof DataException && thrown.getCause() instanceof RuntimeException why
            ? dialect.translateExceptionIfPossible(why)
            : null;
      }
    };
  }
}
