package app.uprightwarden.server.outbox;

import jakarta.mail.Address;
import jakarta.mail.MessagingException;
import jakarta.mail.SendFailedException;
import jakarta.mail.Session;
import jakarta.mail.Transport;
import jakarta.mail.internet.InternetAddress;
import jakarta.mail.internet.MimeMessage;
import java.io.ByteArrayInputStream;
import java.util.Properties;
import org.springframework.stereotype.Component;

/** Carries a message to an SMTP server (RFC 5321). */
@Component
class MailCarrier {
  private static final int PATIENCE_MILLIS = 15_000;

  private final MailProperties properties;
  private final Session session;

  MailCarrier(MailProperties properties) {
    this.properties = properties;
    Properties smtp = new Properties();
    smtp.put("mail.smtp.host", properties.host());
    smtp.put("mail.smtp.port", String.valueOf(properties.port()));
    smtp.put("mail.smtp.connectiontimeout", String.valueOf(PATIENCE_MILLIS));
    smtp.put("mail.smtp.timeout", String.valueOf(PATIENCE_MILLIS));
    smtp.put("mail.smtp.writetimeout", String.valueOf(PATIENCE_MILLIS));
    smtp.put("mail.smtp.starttls.enable", String.valueOf(properties.tls()));
    smtp.put("mail.smtp.starttls.required", String.valueOf(properties.tls()));
    smtp.put("mail.smtp.auth", String.valueOf(!properties.username().isEmpty()));
    session = Session.getInstance(smtp);
  }

  /** A message that was not taken. */
  static final class NotCarried extends Exception {
    private final boolean forGood;

    /**
     * @param forGood trying again would not help: the address is refused
     */
    NotCarried(String why, boolean forGood, Throwable cause) {
      super(why, cause);
      this.forGood = forGood;
    }

    boolean isForGood() {
      return forGood;
    }
  }

  void carry(byte[] raw, String to) throws NotCarried {
    try {
      MimeMessage message = new MimeMessage(session, new ByteArrayInputStream(raw));
      try (Transport transport = session.getTransport("smtp")) {
        if (properties.username().isEmpty()) {
          transport.connect();
        } else {
          transport.connect(properties.username(), properties.password());
        }
        transport.sendMessage(message, new Address[] {new InternetAddress(to)});
      }
    } catch (SendFailedException e) {
      boolean refused = e.getInvalidAddresses() != null && e.getInvalidAddresses().length > 0;
      throw new NotCarried(String.valueOf(e.getMessage()), refused, e);
    } catch (MessagingException e) {
      throw new NotCarried(String.valueOf(e.getMessage()), false, e);
    }
  }
}
