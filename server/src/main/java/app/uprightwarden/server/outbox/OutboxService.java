package app.uprightwarden.server.outbox;

import jakarta.mail.Message;
import jakarta.mail.MessagingException;
import jakarta.mail.Session;
import jakarta.mail.internet.InternetAddress;
import jakarta.mail.internet.MimeMessage;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.util.Date;
import java.util.List;
import java.util.Optional;
import java.util.Properties;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/**
 * Writes messages to people as RFC 5322 mail and keeps them. The mail service is a stand-in: what
 * it was given can be read here, and goes no further.
 */
@Service
public class OutboxService {
  private static final String SENDER = "warden@localhost";

  private final JdbcClient jdbc;
  private final Clock clock;
  private final Session session = Session.getInstance(new Properties());

  OutboxService(JdbcClient jdbc, Clock clock) {
    this.jdbc = jdbc;
    this.clock = clock;
  }

  /**
   * A message to write.
   *
   * @param about what it is about, for finding it again: {@code edition:4}
   * @param body plain text
   */
  public record Letter(String to, String subject, String about, String body) {}

  /** A message as it was kept. */
  public record Kept(
      long id,
      String to,
      String subject,
      String about,
      String body,
      String writtenBy,
      Instant at) {}

  /** Writes messages; they are kept in the same transaction as what they tell of. */
  @Transactional
  public int write(List<Letter> letters, String by) {
    Instant now = clock.instant();
    for (Letter letter : letters) {
      jdbc.sql(
              "insert into outbox_message (recipient, subject, about, body, raw, written_by,"
                  + " written_at) values (?, ?, ?, ?, ?, ?, ?)")
          .params(
              letter.to(),
              letter.subject(),
              letter.about(),
              letter.body(),
              raw(letter, now),
              by,
              LocalDateTime.ofInstant(now, ZoneOffset.UTC))
          .update();
    }
    return letters.size();
  }

  private byte[] raw(Letter letter, Instant now) {
    try {
      MimeMessage message = new MimeMessage(session);
      message.setFrom(new InternetAddress(SENDER));
      message.setRecipient(Message.RecipientType.TO, new InternetAddress(letter.to()));
      message.setSubject(letter.subject(), StandardCharsets.UTF_8.name());
      message.setText(letter.body(), StandardCharsets.UTF_8.name());
      message.setSentDate(Date.from(now));
      ByteArrayOutputStream out = new ByteArrayOutputStream();
      message.writeTo(out);
      return out.toByteArray();
    } catch (MessagingException e) {
      throw new IllegalArgumentException(
          "no mail can be written to " + letter.to() + ": " + e.getMessage(), e);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  /** The newest messages first. */
  @Transactional(readOnly = true)
  public List<Kept> newest(String about, int most) {
    return jdbc.sql(
            "select id, recipient, subject, about, body, written_by, written_at from"
                + " outbox_message where :about = '' or about = :about order by id desc limit :most")
        .param("about", about)
        .param("most", most)
        .query(
            (r, n) ->
                new Kept(
                    r.getLong(1),
                    r.getString(2),
                    r.getString(3),
                    r.getString(4),
                    r.getString(5),
                    r.getString(6),
                    r.getObject(7, LocalDateTime.class).toInstant(ZoneOffset.UTC)))
        .list();
  }

  /** A message as mail programs read it. */
  @Transactional(readOnly = true)
  public Optional<byte[]> raw(long id) {
    return jdbc.sql("select raw from outbox_message where id = ?")
        .param(id)
        .query((r, n) -> r.getBytes(1))
        .optional();
  }
}
