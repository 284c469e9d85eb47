package app.uprightwarden.server;

import org.springframework.boot.SpringApplication;
import org.springframework.boot.autoconfigure.SpringBootApplication;
import org.springframework.boot.context.properties.ConfigurationPropertiesScan;
import org.springframework.scheduling.annotation.EnableScheduling;

/** The application. */
@SpringBootApplication
@ConfigurationPropertiesScan
@EnableScheduling
public class WardenApplication {
  public static void main(String[] args) {
    SpringApplication.run(WardenApplication.class, args);
  }
}
