package app.uprightwarden.server.outbox;

import app.uprightwarden.core.people.Directory;
import app.uprightwarden.server.access.AccountLanguages;
import app.uprightwarden.server.jobs.Jobs;
import app.uprightwarden.server.persistence.AsRead;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.problem.Sentences;
import app.uprightwarden.server.problem.Worded;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/**
 * Writes messages to people as RFC 5322 mail and keeps them. Unless a real mail service is
 * configured, what it was given can be read here and goes no further.
 */
@Service
public class OutboxService {
  private final OutboxRepository messages;
  private final Clock clock;
  private final MailProperties properties;
  private final SealedMail sealed;
  private final Jobs jobs;
  private final AccountLanguages languages;

  OutboxService(
      OutboxRepository messages,
      MailProperties properties,
      SealedMail sealed,
      Jobs jobs,
      Clock clock,
      AccountLanguages languages) {
    this.jobs = jobs;
    this.properties = properties;
    this.sealed = sealed;
    this.messages = messages;
    this.clock = clock;
    this.languages = languages;
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

    /** The same in its reader's language; an invitation is written in it from the beginning. */
    Letter in(Locale language) {
      return calendar != null || language.equals(Locale.ENGLISH)
          ? this
          : new Letter(
              to,
              Sentences.said(subject, language),
              about,
              Sentences.said(body, language),
              html,
              null,
              replyTo,
              attachment,
              secret);
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
      @Worded @Nullable String trouble,
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
    List<String> toSend = new ArrayList<>();
    Instant now = clock.instant();
    Map<String, Locale> others = languages.others();
    for (Letter made : letters) {
      written++;
      Letter letter = made.in(others.getOrDefault(Directory.fold(made.to()), Locale.ENGLISH));
      byte[] raw = MailText.write(letter, properties.from(), now);
      SealedMail.Text text = new SealedMail.Text(letter.body(), letter.html(), calendar(letter));
      OutboxMessageEntity row = new OutboxMessageEntity();
      row.recipient = letter.to();
      row.subject = MailText.oneLine(letter.subject());
      row.about = letter.about();
      row.body = letter.secret() ? "" : letter.body();
      row.html = letter.secret() ? null : letter.html();
      row.calendar = letter.secret() ? null : calendar(letter);
      row.raw = letter.secret() ? sealed.sealRaw(letter.to(), raw) : raw;
      row.sealed = letter.secret() ? sealed.seal(letter.to(), text) : null;
      row.state = properties.isReal() ? "waiting" : "kept";
      row.attachment = letter.attachment() == null ? null : letter.attachment().name();
      row.writtenBy = by;
      row.writtenAt = now;
      messages.insert(row);
      if (properties.isReal()) {
        toSend.add(Long.toString(row.id));
      }
    }
    jobs.give(MailDelivery.JOB, toSend);
    return written;
  }

  private static @Nullable String calendar(Letter letter) {
    return letter.calendar() == null ? null : letter.calendar().text();
  }

  /** Which messages are asked for; what is empty or null takes all. */
  record Wanted(
      String about, String text, String state, @Nullable Instant from, @Nullable Instant to) {}

  private static final Instant LATER_THAN_ANY = Instant.parse("9999-01-01T00:00:00Z");

  /**
   * The newest messages first.
   *
   * @param secretsToo whether messages that hold a passcode are opened
   */
  @Transactional(readOnly = true)
  List<Kept> newest(Wanted wanted, int most, boolean secretsToo) {
    String like = wanted.text().isBlank() ? "" : AsRead.having(wanted.text());
    return messages
        .newest(
            wanted.about(),
            like,
            wanted.state(),
            Objects.requireNonNullElse(wanted.from(), Instant.EPOCH),
            Objects.requireNonNullElse(wanted.to(), LATER_THAN_ANY),
            most)
        .stream()
        .map(row -> kept(row, secretsToo))
        .toList();
  }

  private Kept kept(OutboxMessageEntity row, boolean secretsToo) {
    SealedMail.Text text =
        sealed.text(
            row.recipient,
            new SealedMail.Text(row.body, row.html, row.calendar),
            row.sealed,
            secretsToo);
    return new Kept(
        row.id,
        row.recipient,
        row.subject,
        row.about,
        text.body(),
        text.html(),
        text.calendar(),
        row.state,
        row.trouble,
        row.attachment,
        row.sealed != null,
        row.writtenBy,
        row.writtenAt);
  }

  /**
   * A message as mail programs read it.
   *
   * @param secretsToo whether one that holds a passcode is opened
   * @throws ProblemException 403 where it holds one and is not to be opened
   */
  @Transactional(readOnly = true)
  public Optional<byte[]> raw(long id, boolean secretsToo) {
    return messages.find(id).map(row -> raw(row, secretsToo));
  }

  private byte[] raw(OutboxMessageEntity row, boolean secretsToo) {
    if (row.sealed == null) {
      return row.raw;
    }
    if (!secretsToo) {
      throw ProblemException.forbidden("holds-a-secret", SealedMail.NOT_SHOWN.strip());
    }
    return sealed.openRaw(row.recipient, row.raw);
  }
}
