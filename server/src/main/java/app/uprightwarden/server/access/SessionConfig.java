package app.uprightwarden.server.access;

import javax.sql.DataSource;
import org.jspecify.annotations.Nullable;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.boot.session.autoconfigure.DefaultCookieSerializerCustomizer;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.core.convert.support.GenericConversionService;
import org.springframework.core.serializer.support.SerializingConverter;
import org.springframework.jdbc.support.JdbcTransactionManager;
import org.springframework.transaction.TransactionDefinition;
import org.springframework.transaction.support.TransactionCallback;
import org.springframework.transaction.support.TransactionOperations;
import org.springframework.transaction.support.TransactionSynchronizationManager;
import org.springframework.transaction.support.TransactionTemplate;

/** Sessions in the database, so that any server of several can answer. */
@Configuration
class SessionConfig {
  /**
   * Sessions are saved in transactions of their own, which nobody listens to: an answer that is
   * being refused saves its session too, and must not be written down as an act.
   */
  @Bean
  static TransactionOperations springSessionTransactionOperations(DataSource source) {
    TransactionTemplate own = new TransactionTemplate(new JdbcTransactionManager(source));
    own.setPropagationBehavior(TransactionDefinition.PROPAGATION_REQUIRES_NEW);
    return new TransactionOperations() {
      @Override
      public <T extends @Nullable Object> T execute(TransactionCallback<T> action) {
        // an answer that streams out of a reading transaction saves its session from within it
        Object bound = TransactionSynchronizationManager.unbindResourceIfPossible(source);
        try {
          return own.execute(action);
        } finally {
          if (bound != null) {
            TransactionSynchronizationManager.bindResource(source, bound);
          }
        }
      }
    };
  }

  /**
   * What a session holds is read through a list of classes: whoever writes into its table makes us
   * build nothing else.
   */
  @Bean("springSessionConversionService")
  GenericConversionService sessionConversion() {
    GenericConversionService conversion = new GenericConversionService();
    conversion.addConverter(Object.class, byte[].class, new SerializingConverter());
    conversion.addConverter(new SessionAttributes());
    return conversion;
  }

  /** Coming back from a provider's page is coming from elsewhere: "strict" would lose the way. */
  @Bean
  DefaultCookieSerializerCustomizer sessionCookie(@Value("${warden.oidc.issuer:}") String issuer) {
    return cookie -> cookie.setSameSite(issuer.isBlank() ? "Strict" : "Lax");
  }
}
