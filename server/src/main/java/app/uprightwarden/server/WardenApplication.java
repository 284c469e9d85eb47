package app.uprightwarden.server;

import java.time.Clock;
import org.springframework.boot.SpringApplication;
import org.springframework.boot.autoconfigure.SpringBootApplication;
import org.springframework.boot.context.properties.ConfigurationPropertiesScan;
import org.springframework.context.annotation.Bean;

/** The application. */
@SpringBootApplication
@ConfigurationPropertiesScan
public class WardenApplication {
  public static void main(String[] args) {
    SpringApplication.run(WardenApplication.class, args);
  }

  @Bean
  Clock clock() {
    return Clock.systemUTC();
  }
}
