package app.uprightwarden.acceptance;

import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.concurrent.TimeUnit;
import org.testng.annotations.Test;

/**
 * A full audit of a large register stored in MariaDB by a server with 512 MB of heap, against bare
 * batched JDBC that reads the same rows and writes the same findings; then the wall's first page,
 * and how soon a changed meeting's findings are current. Run by {@code ./bench/run audit [N]}.
 */
@Test(groups = "bench")
public class StoredAuditBench {
  private static final int SERIES = Integer.getInteger("warden.bench.series", 100_000);
  private static final int PAGE = 500;
  private static final String SCHEMA = "warden_stored";
  private static final String TOKEN = "a token that only this bench knows";

  private final HttpClient http = HttpClient.newHttpClient();
  private final BigRegister register = new BigRegister(SCHEMA);

  @Test
  public void measure() throws Exception {
    try (RunningWarden small = RunningWarden.startScaled(SCHEMA, BigRegister.MIXTURE)) {
      until("the first audit", "select count(*) from audit_run where state = 'done'", 9);
      System.out.printf("the mixture was loaded at %s%n", small.address());
    }
    register.grow(SERIES);
    register.issue(TOKEN, "warden", "m.sachs@saltmarsh.example");
    try (RunningWarden warden = RunningWarden.startScaled(SCHEMA, 0)) {
      long begin = System.nanoTime();
      until(
          "the standing audit",
          "select count(*) from audit_run where state = 'standing' and renewed_at is not null",
          1);
      System.out.printf(
          "%,d series: the standing audit went through everything in %.1f s%n",
          number("select count(*) from meeting"), (System.nanoTime() - begin) / 1e9);
      again();
      for (int round = 1; round <= (SERIES > 300_000 ? 1 : 2); round++) {
        long id = audit(warden);
        double peer = peer(id);
        double ours =
            number(
                    "select timestampdiff(microsecond, started_at, finished_at) from audit_run where"
                        + " id = "
                        + id)
                / 1e6;
        System.out.printf(
            "audit: %.1f s for %,d findings; bare JDBC %.1f s; %.2f times%n",
            ours, number("select count(*) from finding where audit = " + id), peer, ours / peer);
      }
      wall(warden);
      change(warden);
      System.out.printf("heap in use afterwards: %s%n", heap(warden));
    }
  }

  /** Everything once more, as after a day: nearly all is found as it was. */
  private void again() throws Exception {
    try (Connection connection = register.connect()) {
      connection
          .createStatement()
          .execute(
              "update audit_run set renewed_at = null, cursor_row = 0 where state = 'standing'");
    }
    long begin = System.nanoTime();
    until(
        "everything again",
        "select count(*) from audit_run where state = 'standing' and renewed_at is not null",
        1);
    System.out.printf(
        "the standing audit went through everything again in %.1f s%n",
        (System.nanoTime() - begin) / 1e9);
  }

  private long audit(RunningWarden warden) throws Exception {
    String body = send(warden, "POST", "/api/audits", "{}");
    long id = Long.parseLong(body.replaceFirst("(?s).*?\"id\":(\\d+).*", "$1"));
    until("the audit", "select count(*) from audit_run where state = 'done' and id = " + id, 1);
    return id;
  }

  /** The same rows read and the same findings written, as plainly as JDBC does it. */
  private double peer(long audit) throws SQLException {
    long nanos = 0;
    try (Connection connection = register.connect()) {
      connection.setAutoCommit(false);
      connection.createStatement().execute("create table bench_meeting like audited_meeting");
      connection.createStatement().execute("create table bench_finding like finding");
      long begin = System.nanoTime();
      long after = 0;
      long seen = 0;
      while (true) {
        List<Long> ids = new ArrayList<>();
        seen +=
            read(
                connection,
                "select * from meeting where id > " + after + " order by id limit " + PAGE,
                ids);
        if (ids.isEmpty()) {
          break;
        }
        after = ids.get(ids.size() - 1);
        String in = ids.toString().replace('[', '(').replace(']', ')');
        seen += read(connection, "select * from meeting_person where meeting in " + in, null);
        seen += read(connection, "select * from meeting_change where meeting in " + in, null);
        connection.commit();
      }
      nanos += System.nanoTime() - begin;
      if (seen < SERIES / 2) {
        throw new IllegalStateException("too little was read: " + seen);
      }
      nanos += copy(connection, "audited_meeting", "bench_meeting", "meeting", audit);
      nanos += copy(connection, "finding", "bench_finding", "id", audit);
      connection.createStatement().execute("drop table bench_meeting");
      connection.createStatement().execute("drop table bench_finding");
      connection.commit();
    }
    return nanos / 1e9;
  }

  private static long read(Connection connection, String sql, List<Long> ids) throws SQLException {
    long cells = 0;
    try (ResultSet rows = connection.createStatement().executeQuery(sql)) {
      int columns = rows.getMetaData().getColumnCount();
      while (rows.next()) {
        if (ids != null) {
          ids.add(rows.getLong(1));
        }
        for (int i = 1; i <= columns; i++) {
          cells += rows.getString(i) == null ? 0 : 1;
        }
      }
    }
    return cells;
  }

  /** Writes a table's rows of an audit into another; only the writing is timed. */
  private long copy(Connection connection, String from, String to, String key, long audit)
      throws SQLException {
    long nanos = 0;
    String columns = String.join(", ", BigRegister.columns(connection, from));
    String last = "";
    while (true) {
      List<Object[]> rows = new ArrayList<>();
      int width;
      try (PreparedStatement select =
          connection.prepareStatement(
              "select "
                  + columns
                  + " from "
                  + from
                  + " where audit = ? and "
                  + key
                  + " > ? order by "
                  + key
                  + " limit 1500")) {
        select.setLong(1, audit);
        select.setString(2, last.isEmpty() ? (key.equals("id") ? "0" : "") : last);
        try (ResultSet r = select.executeQuery()) {
          width = r.getMetaData().getColumnCount();
          while (r.next()) {
            Object[] row = new Object[width];
            for (int i = 0; i < width; i++) {
              row[i] = r.getObject(i + 1);
            }
            rows.add(row);
            last = r.getString(key);
          }
        }
      }
      if (rows.isEmpty()) {
        return nanos;
      }
      String marks = "?" + ", ?".repeat(width - 1);
      long begin = System.nanoTime();
      try (PreparedStatement insert =
          connection.prepareStatement(
              "insert into " + to + " (" + columns + ") values (" + marks + ")")) {
        for (Object[] row : rows) {
          for (int i = 0; i < width; i++) {
            insert.setObject(i + 1, row[i]);
          }
          insert.addBatch();
        }
        insert.executeBatch();
      }
      connection.commit();
      nanos += System.nanoTime() - begin;
    }
  }

  private void wall(RunningWarden warden) throws Exception {
    long[] times = new long[20];
    for (int i = 0; i < times.length; i++) {
      long begin = System.nanoTime();
      send(warden, "GET", "/api/audits/0/wall?size=200", null);
      times[i] = (System.nanoTime() - begin) / 1_000_000;
    }
    Arrays.sort(times);
    System.out.printf(
        "the wall's first page: median %d ms, slowest of 20 %d ms%n", times[10], times[19]);
    long begin = System.nanoTime();
    send(warden, "GET", "/api/lookout", null);
    System.out.printf("the lookout: %d ms%n", (System.nanoTime() - begin) / 1_000_000);
  }

  private void change(RunningWarden warden) throws Exception {
    long[] times = new long[10];
    for (int i = 0; i < times.length; i++) {
      String meeting = "m-00%d-x%d".formatted(27 + i, 3);
      String version =
          send(warden, "GET", "/api/meetings/" + meeting, null)
              .replaceFirst("(?s).*\"version\":(\\d+).*", "$1");
      long begin = System.nanoTime();
      send(
          warden,
          "PATCH",
          "/api/meetings/" + meeting + "/controls",
          "{\"version\": " + version + ", \"controls\": {\"waiting-room\": \"off\"}}");
      String sql =
          "select count(*) from finding f join audit_run r on r.id = f.audit and r.state ="
              + " 'standing' where f.meeting = '"
              + meeting
              + "' and f.subject = 'waiting-room'"
              + " and f.check_id = 'beyond-limit'";
      while (number(sql) == 0) {
        TimeUnit.MILLISECONDS.sleep(3);
      }
      times[i] = (System.nanoTime() - begin) / 1_000_000;
    }
    Arrays.sort(times);
    System.out.printf(
        "a changed meeting's findings current: median %d ms, slowest of 10 %d ms%n",
        times[5], times[9]);
  }

  private static String heap(RunningWarden warden) throws IOException {
    Process process =
        new ProcessBuilder("jcmd", String.valueOf(warden.pid()), "GC.heap_info").start();
    String all = new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
    return all.lines().filter(l -> l.contains("used")).map(String::strip).toList().toString();
  }

  private String send(RunningWarden warden, String method, String path, String body)
      throws Exception {
    HttpResponse<String> answer =
        http.send(
            HttpRequest.newBuilder(URI.create(warden.address() + path))
                .header("Authorization", "Bearer " + TOKEN)
                .header("Content-Type", "application/json")
                .method(
                    method,
                    body == null
                        ? HttpRequest.BodyPublishers.noBody()
                        : HttpRequest.BodyPublishers.ofString(body))
                .build(),
            HttpResponse.BodyHandlers.ofString());
    if (answer.statusCode() >= 300) {
      throw new IllegalStateException(method + " " + path + ": " + answer.body());
    }
    return answer.body();
  }

  private long number(String sql) {
    try (Connection connection = register.connect();
        ResultSet rows = connection.createStatement().executeQuery(sql)) {
      rows.next();
      return rows.getLong(1);
    } catch (SQLException e) {
      return -1;
    }
  }

  private void until(String what, String sql, long value) throws InterruptedException {
    long end = System.nanoTime() + TimeUnit.MINUTES.toNanos(60);
    while (number(sql) < value) {
      if (System.nanoTime() > end) {
        throw new IllegalStateException("in vain: " + what);
      }
      TimeUnit.MILLISECONDS.sleep(100);
    }
  }
}
