package app.uprightwarden.server.outbox;

import app.uprightwarden.server.problem.ProblemException;
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
  private final SealedMail sealed;

  OutboxService(JdbcClient jdbc, MailProperties properties, SealedMail sealed, Clock clock) {
    this.properties = properties;
    this.sealed = sealed;
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
   * @param secret whether a passcode stands in it: then it is sealed where it is kept
   */
  public record Letter(
      String to,
      String subject,
      String about,
      String body,
      @Nullable String html,
      @Nullable CalendarPart calendar,
      @Nullable String replyTo,
      @Nullable Attachment attachment,
      boolean secret) {
    public Letter(String to, String subject, String about, String body) {
      this(to, subject, about, body, null, null, null, null, false);
    }

    public Letter(
        String to,
        String subject,
        String about,
        String body,
        @Nullable String html,
        @Nullable CalendarPart calendar,
        @Nullable String replyTo) {
      this(to, subject, about, body, html, calendar, replyTo, null, false);
    }

    /** The same, known to hold a passcode or not. */
    public Letter secret(boolean holdsOne) {
      return new Letter(to, subject, about, body, html, calendar, replyTo, attachment, holdsOne);
    }

    /** The same with a file. */
    public Letter with(Attachment file) {
      return new Letter(to, subject, about, body, html, calendar, replyTo, file, secret);
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
      boolean secret,
      String writtenBy,
      Instant at) {}

  /**
   * Writes messages; they are kept in the same transaction as what they tell of.
   *
   * @param letters made one after the other, so that very many need not be held at once
   * @return how many there were
   */
  @Transactional
  public int write(Iterable<Letter> letters, String by) {
    int written = 0;
    Instant now = clock.instant();
    LocalDateTime at = LocalDateTime.ofInstant(now, ZoneOffset.UTC);
    for (Letter letter : letters) {
      written++;
      byte[] raw = MailText.write(letter, properties.from(), now);
      SealedMail.Text text = new SealedMail.Text(letter.body(), letter.html(), calendar(letter));
      jdbc.sql(
              "insert into outbox_message (recipient, subject, about, body, html, calendar, raw,"
                  + " sealed, state, next_try, attachment, written_by, written_at) values (?, ?, ?,"
                  + " ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)")
          .params(
              Arrays.asList(
                  letter.to(),
                  MailText.oneLine(letter.subject()),
                  letter.about(),
                  letter.secret() ? "" : letter.body(),
                  letter.secret() ? null : letter.html(),
                  letter.secret() ? null : calendar(letter),
                  letter.secret() ? sealed.sealRaw(letter.to(), raw) : raw,
                  letter.secret() ? sealed.seal(letter.to(), text) : null,
                  properties.isReal() ? "waiting" : "kept",
                  properties.isReal() ? at : null,
                  letter.attachment() == null ? null : letter.attachment().name(),
                  by,
                  at))
          .update();
    }
    return written;
  }

  private static @Nullable String calendar(Letter letter) {
    return letter.calendar() == null ? null : letter.calendar().text();
  }

  /**
   * The newest messages first.
   *
   * @param secretsToo whether messages that hold a passcode are opened
   */
  @Transactional(readOnly = true)
  public List<Kept> newest(String about, int most, boolean secretsToo) {
    return jdbc.sql(
            "select id, recipient, subject, about, body, html, calendar, state, trouble,"
                + " attachment, written_by, written_at, sealed from"
                + " outbox_message where :about = '' or about = :about order by id desc limit :most")
        .param("about", about)
        .param("most", most)
        .query(
            (r, n) -> {
              SealedMail.Text text =
                  sealed.text(
                      r.getString(2),
                      new SealedMail.Text(r.getString(5), r.getString(6), r.getString(7)),
                      r.getBytes(13),
                      secretsToo);
              return new Kept(
                  r.getLong(1),
                  r.getString(2),
                  r.getString(3),
                  r.getString(4),
                  text.body(),
                  text.html(),
                  text.calendar(),
                  r.getString(8),
                  r.getString(9),
                  r.getString(10),
                  r.getBytes(13) != null,
                  r.getString(11),
                  r.getObject(12, LocalDateTime.class).toInstant(ZoneOffset.UTC));
            })
        .list();
  }

  /**
   * A message as mail programs read it.
   *
   * @param secretsToo whether one that holds a passcode is opened
   * @throws ProblemException 403 where it holds one and is not to be opened
   */
  @Transactional(readOnly = true)
  public Optional<byte[]> raw(long id, boolean secretsToo) {
    return jdbc.sql("select recipient, raw, sealed is not null from outbox_message where id = ?")
        .param(id)
        .query(
            (r, n) -> {
              if (!r.getBoolean(3)) {
                return r.getBytes(2);
              }
              if (!secretsToo) {
                throw ProblemException.forbidden("holds-a-secret", SealedMail.NOT_SHOWN.strip());
              }
              return sealed.openRaw(r.getString(1), r.getBytes(2));
            })
        .optional();
  }
}
