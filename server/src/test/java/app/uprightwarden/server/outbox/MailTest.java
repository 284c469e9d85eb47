package app.uprightwarden.server.outbox;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertTrue;
import static org.testng.Assert.expectThrows;

import com.icegreen.greenmail.util.GreenMail;
import com.icegreen.greenmail.util.ServerSetup;
import jakarta.mail.internet.MimeMessage;
import jakarta.mail.internet.MimeMultipart;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import org.testng.annotations.AfterClass;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;

/** Mail as it goes over the wire, to an SMTP server on loopback (GreenMail). */
public class MailTest {
  private final GreenMail server =
      new GreenMail(new ServerSetup(0, "127.0.0.1", ServerSetup.PROTOCOL_SMTP));

  @BeforeClass
  public void start() {
    server.start();
  }

  @AfterClass(alwaysRun = true)
  public void stop() {
    server.stop();
  }

  private MailCarrier carrier(int port) {
    return new MailCarrier(new MailProperties("127.0.0.1", port, "", "", false, "w@x.example"));
  }

  private static byte[] letter(String subject) {
    return MailText.write(
        new OutboxService.Letter(
            "a@x.example",
            subject,
            "meeting:1",
            "Plain – text",
            "<p>Rich – text</p>",
            new OutboxService.CalendarPart(
                "REQUEST", "BEGIN:VCALENDAR\r\nMETHOD:REQUEST\r\nEND:VCALENDAR\r\n"),
            "host@x.example"),
        "warden@x.example",
        Instant.parse("2027-01-11T09:00:00Z"));
  }

  @Test
  public void aMessageArrivesInItsParts() throws Exception {
    carrier(server.getSmtp().getPort()).carry(letter("Tide – talk"), "a@x.example");
    assertTrue(server.waitForIncomingEmail(10_000, 1));
    MimeMessage got = server.getReceivedMessages()[0];
    assertEquals(got.getSubject(), "Tide – talk");
    assertEquals(got.getReplyTo()[0].toString(), "host@x.example");
    MimeMultipart parts = (MimeMultipart) got.getContent();
    assertEquals(parts.getCount(), 3);
    assertEquals(parts.getBodyPart(0).getContent(), "Plain – text");
    assertTrue(parts.getBodyPart(1).isMimeType("text/html"));
    String type = parts.getBodyPart(2).getContentType();
    assertTrue(type.contains("text/calendar") && type.contains("method=REQUEST"), type);
  }

  @Test
  public void aSubjectCannotBeginAnotherHeader() {
    String raw = new String(letter("Tide\r\nBcc: spy@x.example"), StandardCharsets.UTF_8);
    assertFalse(raw.contains("\r\nBcc:"), raw);
    assertTrue(raw.contains("Subject: Tide Bcc: spy@x.example"), raw);
  }

  @Test
  public void aServiceThatIsAwayIsTriedAgain() throws Exception {
    int nobody;
    try (java.net.ServerSocket socket = new java.net.ServerSocket(0)) {
      nobody = socket.getLocalPort();
    }
    MailCarrier.NotCarried told =
        expectThrows(
            MailCarrier.NotCarried.class, () -> carrier(nobody).carry(letter("x"), "a@x.example"));
    assertFalse(told.isForGood());
    assertEquals(MailDelivery.RETRIES.after(1), Duration.ofSeconds(15));
    assertEquals(MailDelivery.RETRIES.after(4), Duration.ofMinutes(2));
    assertEquals(MailDelivery.RETRIES.after(61), Duration.ofHours(2));
  }
}
