package app.uprightwarden.server.drafting;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.server.ServerTest;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.Map;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.TimeUnit;
import javax.sql.DataSource;
import org.springframework.beans.factory.annotation.Autowired;
import org.testng.annotations.Test;

/** Who has a draft open, while somebody takes it away. */
public class DraftPresenceTest extends ServerTest {
  @Autowired private DataSource database;

  private String draft(String name) {
    long id =
        post(WARDEN, "/api/rulebook/drafts", Map.of("name", name, "from", "in-force"))
            .is(201)
            .json()
            .at("/line/id")
            .longValue();
    return "/api/rulebook/drafts/" + id;
  }

  private Answer seen(String draft) {
    return send(WARDEN, "PUT", draft + "/presence?version=0", null);
  }

  @Test
  public void whoHasItOpenIsToldThatItIsGone() {
    String draft = draft("Opened");
    assertEquals(seen(draft).is(200).json().path("gone").booleanValue(), false);
    send(WARDEN, "DELETE", draft, null);
    assertEquals(seen(draft).is(200).json().path("gone").booleanValue(), true);
  }

  /** Between the look whether it is there and the write that somebody has it open. */
  @Test
  public void aDraftThatGoesInThatMomentIsGoneAndNoFault() throws Exception {
    String draft = draft("Taken away");
    String id = draft.substring(draft.lastIndexOf('/') + 1);
    try (Connection other = database.getConnection()) {
      other.setAutoCommit(false);
      other.createStatement().execute("delete from draft where id = " + id);
      CompletableFuture<Answer> answer = CompletableFuture.supplyAsync(() -> seen(draft));
      until("it waits for what the other does", this::isSomebodyWaiting);
      other.commit();
      other.setAutoCommit(true);
      Answer said = answer.get(60, TimeUnit.SECONDS).is(200);
      assertTrue(said.json().path("gone").booleanValue(), said.body());
    }
  }

  private boolean isSomebodyWaiting() {
    String sql =
        "select count(*) from information_schema.processlist where id <> connection_id()"
            + " and info like '%draft_presence%'";
    try (Connection connection = database.getConnection();
        ResultSet waits = connection.createStatement().executeQuery(sql)) {
      waits.next();
      return waits.getInt(1) > 0;
    } catch (SQLException e) {
      throw new IllegalStateException(e);
    }
  }
}
