package app.uprightwarden.server;

import app.uprightwarden.server.bridge.StandInAlone;
import app.uprightwarden.server.services.AdapterCheck;
import app.uprightwarden.standins.Main;
import java.io.IOException;
import org.springframework.boot.SpringApplication;
import org.springframework.boot.autoconfigure.SpringBootApplication;
import org.springframework.boot.context.properties.ConfigurationPropertiesScan;
import org.springframework.scheduling.annotation.EnableScheduling;

/** The application. */
@SpringBootApplication
@ConfigurationPropertiesScan
@EnableScheduling
public class WardenApplication {
  public static void main(String[] args) throws IOException, InterruptedException {
    String only = String.valueOf(System.getenv("WARDEN_ONLY"));
    if (Main.knows(only)) {
      Main.run(only, System.getenv()); // a conference service to try things with
      return;
    }
    if (only.equals("adapter-check")) {
      System.exit(AdapterCheck.print(args[0], String.valueOf(System.getenv("WARDEN_ADAPTER_KEY"))));
    }
    if ("bridge".equals(System.getenv("WARDEN_ONLY"))) {
      StandInAlone.run(args); // the conference service's stand-in, for servers that share it
      return;
    }
    Thread.setDefaultUncaughtExceptionHandler(new Uncaught());
    SpringApplication.run(WardenApplication.class, args);
  }
}
