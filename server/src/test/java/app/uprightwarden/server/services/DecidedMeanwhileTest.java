package app.uprightwarden.server.services;

import static org.testng.Assert.assertEquals;

import app.uprightwarden.standins.Make;
import java.util.Map;
import java.util.Objects;
import java.util.concurrent.CompletableFuture;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.transaction.support.TransactionTemplate;
import org.testng.annotations.Test;

/** What somebody decides while their service is being read. */
public class DecidedMeanwhileTest extends ServicesCase {
  @Autowired private JdbcClient jdbc;
  @Autowired private TransactionTemplate transaction;

  @Test
  public void whoDecidesWhileAReadingConfirmsIsNotRefused() {
    String id = made(Make.REDSHANK, "Decided meanwhile", Map.of("waiting-room", "off"));
    CompletableFuture<Void> decided =
        transaction.execute(
            status -> {
              // what a reading does with the row: nothing that anybody decided
              jdbc.sql("update meeting_held set version = version + 1 where meeting = ?")
                  .param(id)
                  .update();
              CompletableFuture<Void> answer =
                  CompletableFuture.runAsync(() -> decide(id, "waiting-room", "on"));
              until(
                  "they wait for it",
                  () ->
                      jdbc.sql(
                                  "select count(*) from information_schema.processlist where"
                                      + " id <> connection_id() and time_ms > 300"
                                      + " and info like '%meeting_held%'")
                              .query(Long.class)
                              .single()
                          > 0);
              return answer;
            });
    Objects.requireNonNull(decided).join();
    untilWriting(id, "confirmed");
    assertEquals(there(Make.REDSHANK, id, "waiting-room"), "on");
  }
}
