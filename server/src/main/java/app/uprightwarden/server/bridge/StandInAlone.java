package app.uprightwarden.server.bridge;

import app.uprightwarden.server.bridge.standin.StandInServer;
import app.uprightwarden.server.persistence.PersistenceConfig;
import java.io.IOException;
import java.time.Clock;
import org.springframework.aot.AotDetector;
import org.springframework.boot.WebApplicationType;
import org.springframework.boot.autoconfigure.ImportAutoConfiguration;
import org.springframework.boot.builder.SpringApplicationBuilder;
import org.springframework.boot.context.properties.EnableConfigurationProperties;
import org.springframework.boot.hibernate.autoconfigure.HibernateJpaAutoConfiguration;
import org.springframework.boot.jackson.autoconfigure.JacksonAutoConfiguration;
import org.springframework.boot.jdbc.autoconfigure.DataSourceAutoConfiguration;
import org.springframework.boot.persistence.autoconfigure.EntityScan;
import org.springframework.boot.transaction.autoconfigure.TransactionAutoConfiguration;
import org.springframework.context.ConfigurableApplicationContext;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Import;
import org.springframework.core.SpringProperties;

/**
 * The stand-in as a process of its own, for several servers that share it. It needs a port, a
 * secret and whom to tell ({@code warden.bridge.*}), and the servers' database. It is no
 * configuration of the application, whose scan must not find it.
 */
@ImportAutoConfiguration({
  DataSourceAutoConfiguration.class,
  HibernateJpaAutoConfiguration.class,
  TransactionAutoConfiguration.class,
  JacksonAutoConfiguration.class
})
@EnableConfigurationProperties
@EntityScan(basePackageClasses = BridgeStandIn.class)
@Import({
  PersistenceConfig.class,
  BridgeRepository_.class,
  BridgeAccess.class,
  BridgeStandIn.class,
  StandInServer.class
})
public class StandInAlone {
  @Bean
  Clock clock() {
    return Clock.systemUTC();
  }

  /** Runs until it is stopped. */
  public static void run(String... arguments) throws IOException {
    // the application was wired while it was packed, this was not: by the same options it would
    // look for what nobody wrote
    SpringProperties.setProperty(AotDetector.AOT_ENABLED, "false");
    ConfigurableApplicationContext context =
        new SpringApplicationBuilder(StandInAlone.class)
            .web(WebApplicationType.NONE)
            .properties("spring.flyway.enabled=false", "spring.main.keep-alive=true")
            .run(arguments);
    context.getBean(StandInServer.class).start("");
  }
}
