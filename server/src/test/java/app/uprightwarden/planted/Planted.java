package app.uprightwarden.planted;

import jakarta.persistence.Entity;
import org.springframework.jdbc.core.simple.JdbcClient;

/** What the rules of the house are there to find; outside of the packages that the server reads. */
@Entity
public class Planted {
  JdbcClient past;
}
