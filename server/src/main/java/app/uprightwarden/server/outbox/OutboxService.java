package app.uprightwarden.server.outbox;

import java.time.Clock;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/**
 * Writes messages to people as RFC 5322 mail and keeps them. Unless a real mail service is
 * configured, what it was given can be read here and goes no further.
 */
@Service
public class OutboxService {
  private final JdbcClient jdbc;
  private final Clock clock;
  private final MailProperties properties;

  OutboxService(JdbcClient jdbc, MailProperties properties, Clock clock) {
    this.properties = properties;
    this.jdbc = jdbc;
    this.clock = clock;
  }

  /**
   * A message to write.
   *
   * @param about what it is about, for finding it again: {@code edition:4}
   * @param body plain text
   * @param html the same for programs that show it, or null
   * @param calendar what calendars do with it (RFC 5546), or null
   * @param replyTo whom an answer goes to, or null
   * @param attachment a file that goes with it, or null
   */
  public record Letter(
      String to,
      String subject,
      String about,
      String body,
      @Nullable String html,
      @Nullable CalendarPart calendar,
      @Nullable String replyTo,
      @Nullable Attachment attachment) {
    public Letter(String to, String subject, String about, String body) {
      this(to, subject, about, body, null, null, null, null);
    }

    public Letter(
        String to,
        String subject,
        String about,
        String body,
        @Nullable String html,
        @Nullable CalendarPart calendar,
        @Nullable String replyTo) {
      this(to, subject, about, body, html, calendar, replyTo, null);
    }

    /** The same with a file. */
    public Letter with(Attachment file) {
      return new Letter(to, subject, about, body, html, calendar, replyTo, file);
    }
  }

  /** A file in a message. */
  @SuppressWarnings("ArrayRecordComponent") // written once and never compared
  public record Attachment(String name, String type, byte[] bytes) {}

  /**
   * A calendar in a message.
   *
   * @param method {@code REQUEST} or {@code CANCEL}
   */
  public record CalendarPart(String method, String text) {}

  /** A message as it was kept. */
  public record Kept(
      long id,
      String to,
      String subject,
      String about,
      String body,
      @Nullable String html,
      @Nullable String calendar,
      String state,
      @Nullable String trouble,
      @Nullable String attachment,
      String writtenBy,
      Instant at) {}

  /** Writes messages; they are kept in the same transaction as what they tell of. */
  @Transactional
  public int write(List<Letter> letters, String by) {
    Instant now = clock.instant();
    LocalDateTime at = LocalDateTime.ofInstant(now, ZoneOffset.UTC);
    for (Letter letter : letters) {
      jdbc.sql(
              "insert into outbox_message (recipient, subject, about, body, html, calendar, raw,"
                  + " state, next_try, attachment, written_by, written_at) values (?, ?, ?, ?, ?,"
                  + " ?, ?, ?, ?, ?, ?, ?)")
          .params(
              Arrays.asList(
                  letter.to(),
                  MailText.oneLine(letter.subject()),
                  letter.about(),
                  letter.body(),
                  letter.html(),
                  letter.calendar() == null ? null : letter.calendar().text(),
                  MailText.write(letter, properties.from(), now),
                  properties.isReal() ? "waiting" : "kept",
                  properties.isReal() ? at : null,
                  letter.attachment() == null ? null : letter.attachment().name(),
                  by,
                  at))
          .update();
    }
    return letters.size();
  }

  /** The newest messages first. */
  @Transactional(readOnly = true)
  public List<Kept> newest(String about, int most) {
    return jdbc.sql(
            "select id, recipient, subject, about, body, html, calendar, state, trouble,"
                + " attachment, written_by, written_at from"
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
                    r.getString(7),
                    r.getString(8),
                    r.getString(9),
                    r.getString(10),
                    r.getString(11),
                    r.getObject(12, LocalDateTime.class).toInstant(ZoneOffset.UTC)))
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
