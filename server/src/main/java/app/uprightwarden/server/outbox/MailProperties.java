package app.uprightwarden.server.outbox;

import org.springframework.boot.context.properties.ConfigurationProperties;
import org.springframework.boot.context.properties.bind.DefaultValue;

/**
 * A real mail service, where one is configured.
 *
 * @param host of an SMTP server (RFC 5321); empty for the stand-in that keeps messages
 * @param username empty where the server asks for none
 * @param tls whether the connection must be made safe by STARTTLS
 * @param from the sender of all messages
 */
@ConfigurationProperties("warden.mail")
record MailProperties(
    @DefaultValue("") String host,
    @DefaultValue("25") int port,
    @DefaultValue("") String username,
    @DefaultValue("") String password,
    @DefaultValue("false") boolean tls,
    @DefaultValue("warden@localhost") String from) {
  boolean isReal() {
    return !host.isBlank();
  }

  @Override
  public String toString() {
    return "MailProperties[" + host + ":" + port + "]"; // never the password
  }
}
