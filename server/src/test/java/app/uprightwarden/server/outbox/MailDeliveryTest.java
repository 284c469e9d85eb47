package app.uprightwarden.server.outbox;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.server.ServerTest;
import com.icegreen.greenmail.util.GreenMail;
import com.icegreen.greenmail.util.ServerSetup;
import jakarta.mail.internet.MimeMessage;
import java.util.List;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.test.annotation.DirtiesContext;
import org.springframework.test.context.DynamicPropertyRegistry;
import org.springframework.test.context.DynamicPropertySource;
import org.springframework.test.context.TestPropertySource;
import org.springframework.transaction.support.TransactionTemplate;
import org.testng.annotations.AfterClass;
import org.testng.annotations.Test;

/** The queue of mail, with a mail server on loopback (GreenMail). */
@DirtiesContext
@TestPropertySource(properties = "test.schema=warden_mail_round")
public class MailDeliveryTest extends ServerTest {
  private static final GreenMail MAIL =
      new GreenMail(new ServerSetup(0, "127.0.0.1", ServerSetup.PROTOCOL_SMTP));

  @Autowired private OutboxService outbox;
  @Autowired private JdbcClient jdbc;
  @Autowired private TransactionTemplate transaction;

  @DynamicPropertySource
  static void mail(DynamicPropertyRegistry registry) {
    MAIL.start();
    registry.add("warden.mail.host", () -> "127.0.0.1");
    registry.add("warden.mail.port", () -> MAIL.getSmtp().getPort());
  }

  @AfterClass(alwaysRun = true)
  public void stop() {
    MAIL.stop();
  }

  @Test
  public void oneThatCannotBeOpenedHoldsUpNoneBehindItAndEachGoesOnce() throws Exception {
    jdbc.sql("delete from outbox_message").update();
    MAIL.purgeEmailFromAllMailboxes();
    // in one, or the server could take the first before it is broken
    transaction.executeWithoutResult(
        status -> {
          outbox.write(
              List.of(
                  new OutboxService.Letter("first@x.example", "First", "test", "x").secret(true),
                  new OutboxService.Letter("second@x.example", "Second", "test", "x")),
              "test");
          jdbc.sql(
                  "update outbox_message set raw = x'0102030405' where recipient ="
                      + " 'first@x.example'")
              .update();
        });
    until(
        "each was tried",
        () -> {
          return jdbc.sql(
                      "select count(*) from outbox_message where recipient in ('first@x.example',"
                          + " 'second@x.example') and (state = 'sent' or trouble is not null)")
                  .query(Integer.class)
                  .single()
              == 2;
        });
    assertTrue(MAIL.waitForIncomingEmail(10_000, 1));
    // the demo's own letters may be on their way meanwhile
    int ours = 0;
    for (MimeMessage message : MAIL.getReceivedMessages()) {
      ours += List.of("First", "Second").contains(message.getSubject()) ? 1 : 0;
    }
    assertEquals(ours, 1);
    assertEquals(
        jdbc.sql("select state from outbox_message where recipient = 'second@x.example'")
            .query(String.class)
            .single(),
        "sent");
    String trouble =
        jdbc.sql("select trouble from outbox_message where recipient = 'first@x.example'")
            .query(String.class)
            .single();
    assertTrue(trouble.contains("sealed with another key"), trouble);
  }
}
