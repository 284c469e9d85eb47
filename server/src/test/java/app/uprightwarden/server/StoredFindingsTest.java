package app.uprightwarden.server;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertTrue;

import java.util.List;
import java.util.TreeSet;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;

/** Findings are stored without words, and worded when they are read. */
public class StoredFindingsTest extends ServerTest {
  @Autowired private JdbcClient jdbc;

  private static String told(JsonNode finding) {
    return finding.toString();
  }

  /** The words of every check, control and step that the demo has. */
  @Test
  public void whatIsReadFromTheRowIsWhatAJudgementSaysNow() {
    until(
        "everything was looked at",
        () ->
            jdbc.sql("select count(*) from audit_run where renewed_at is not null")
                    .query(Integer.class)
                    .single()
                == 1);
    int compared = 0;
    int tried = 0;
    for (String meeting :
        jdbc.sql("select distinct meeting from finding order by meeting limit 120")
            .query(String.class)
            .list()) {
      JsonNode now = get(WARDEN, "/api/meetings/" + meeting).json();
      if (!now.has("assessment")) {
        continue; // it is in old audits only
      }
      tried++;
      TreeSet<String> live = new TreeSet<>();
      now.get("assessment").get("findings").forEach(f -> live.add(told(f)));
      List<String> stored =
          get(WARDEN, "/api/audits/0/findings?size=1000&meeting=" + meeting)
              .is(200)
              .json()
              .get("items")
              .valueStream()
              .map(f -> told(f.get("finding")))
              .toList();
      for (String each : live) {
        assertTrue(stored.contains(each), meeting + ": " + each + " is not in " + stored);
        compared++;
      }
    }
    assertTrue(tried > 60 && compared > 100, tried + " meetings, " + compared + " findings");
  }

  @Test
  public void aRowHoldsNoWordsOfOurs() {
    List<String> rows = jdbc.sql("select detail from finding").query(String.class).list();
    assertTrue(rows.size() > 500, rows.size() + " rows");
    for (String row : rows) {
      JsonNode kept = json.readTree(row);
      assertEquals(kept.get("v").intValue(), 2);
      assertFalse(kept.has("text"), row);
      assertFalse(row.contains("The organisation ") || row.contains("words"), row);
    }
  }

  /** As a version of before wrote it. */
  @Test
  public void aRowOfBeforeIsReadAsItIs() {
    String before =
        "{\"check\":\"no-effect\",\"control\":\"chat\",\"family\":\"chat\",\"severity\":2,\"value\":\"off\","
            + "\"layer\":\"organisation\",\"reason\":\"\",\"defeatedBy\":[\"chat\"],\"text\":\"As it was put"
            + " then.\",\"trace\":[\"The organisation fixes Off.\"]}";
    jdbc.sql(
            "insert into finding (id, audit, meeting, occurrence, check_id, subject, family,"
                + " severity, invited, detail) select 900000000, min(id), 'm-0001', '2026-01-01',"
                + " 'no-effect', 'chat', 'chat', 2, 3, ? from audit_run where state = 'done'")
        .param(before)
        .update();
    long audit =
        jdbc.sql("select audit from finding where id = 900000000").query(Long.class).single();
    JsonNode read =
        get(WARDEN, "/api/audits/" + audit + "/findings?size=1000&meeting=m-0001")
            .is(200)
            .json()
            .get("items")
            .valueStream()
            .map(f -> f.get("finding"))
            .filter(f -> f.get("text").stringValue().equals("As it was put then."))
            .findFirst()
            .orElseThrow();
    assertEquals(read, json.readTree(before));
    jdbc.sql("delete from finding where id = 900000000").update();
  }
}
