package app.uprightwarden.server.outbox;

import app.uprightwarden.server.problem.Texts;
import jakarta.activation.DataHandler;
import jakarta.mail.Message;
import jakarta.mail.MessagingException;
import jakarta.mail.Session;
import jakarta.mail.internet.InternetAddress;
import jakarta.mail.internet.MimeBodyPart;
import jakarta.mail.internet.MimeMessage;
import jakarta.mail.internet.MimeMultipart;
import jakarta.mail.util.ByteArrayDataSource;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.Date;
import java.util.Properties;

/** A message as mail programs read it: RFC 5322, with parts by RFC 2046, a calendar by RFC 6047. */
final class MailText {
  private static final Session SESSION = Session.getInstance(new Properties());

  private MailText() {}

  static byte[] write(OutboxService.Letter letter, String from, Instant now) {
    try {
      MimeMessage message = new MimeMessage(SESSION);
      message.setFrom(new InternetAddress(from));
      message.setRecipient(Message.RecipientType.TO, address(letter.to()));
      if (letter.replyTo() != null) {
        message.setReplyTo(new InternetAddress[] {address(letter.replyTo())});
      }
      message.setSubject(oneLine(letter.subject()), StandardCharsets.UTF_8.name());
      message.setSentDate(Date.from(now));
      if (letter.attachment() != null) {
        message.setContent(mixed(letter, letter.attachment()));
      } else if (letter.html() == null && letter.calendar() == null) {
        message.setText(lines(letter.body()), StandardCharsets.UTF_8.name());
      } else {
        message.setContent(parts(letter));
      }
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

  private static MimeMultipart mixed(OutboxService.Letter letter, OutboxService.Attachment file)
      throws MessagingException {
    MimeMultipart whole = new MimeMultipart("mixed");
    MimeBodyPart message = new MimeBodyPart();
    message.setContent(parts(letter));
    whole.addBodyPart(message);
    MimeBodyPart part = new MimeBodyPart();
    part.setDataHandler(new DataHandler(new ByteArrayDataSource(file.bytes(), file.type())));
    part.setFileName(file.name());
    whole.addBodyPart(part);
    return whole;
  }

  /** The plainest first, as RFC 2046 section 5.1.4 asks. */
  private static MimeMultipart parts(OutboxService.Letter letter) throws MessagingException {
    MimeMultipart parts = new MimeMultipart("alternative");
    MimeBodyPart text = new MimeBodyPart();
    text.setText(lines(letter.body()), StandardCharsets.UTF_8.name());
    parts.addBodyPart(text);
    if (letter.html() != null) {
      MimeBodyPart html = new MimeBodyPart();
      html.setText(lines(letter.html()), StandardCharsets.UTF_8.name(), "html");
      parts.addBodyPart(html);
    }
    OutboxService.CalendarPart calendar = letter.calendar();
    if (calendar != null) {
      MimeBodyPart part = new MimeBodyPart();
      part.setText(lines(calendar.text()), StandardCharsets.UTF_8.name(), "calendar");
      part.setHeader("Content-Type", "text/calendar; charset=UTF-8; method=" + calendar.method());
      parts.addBodyPart(part);
    }
    return parts;
  }

  /**
   * An address as it was taken in. Whether it is one is for its mail server to say: a doubtful one
   * must not keep the mail of all others back.
   */
  static InternetAddress address(String email) {
    InternetAddress address = new InternetAddress();
    address.setAddress(oneLine(email));
    return address;
  }

  /** Lines end with CR and LF in mail (RFC 5322 section 2.3), in parts of 7bit too (RFC 2045). */
  private static String lines(String text) {
    return text.replace("\r\n", "\n").replace('\r', '\n').replace("\n", "\r\n");
  }

  /** Without line breaks and controls, which would begin another header. */
  static String oneLine(String text) {
    String line = text.replaceAll("\\p{Cntrl}+", " ").strip();
    return Texts.cut(line, 500);
  }
}
