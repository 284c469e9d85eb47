package app.uprightwarden.acceptance;

import java.io.BufferedWriter;
import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.TimeUnit;
import java.util.stream.IntStream;
import org.testng.annotations.Test;

/**
 * Conference services with many meetings: how long the first reading takes; how soon a change there
 * is a finding here with 50 changes a second, and with the other service's long queue beside; how
 * near to the slow service's rate 5,000 changes are written. Run by {@code ./bench/run services}.
 */
@Test(groups = "bench")
public class ServicesBench {
  private static final int READ = Integer.getInteger("warden.bench.meetings", 100_000);
  private static final int WRITTEN = Integer.getInteger("warden.bench.written", 5_000);
  private static final int SECONDS = 60;
  private static final int PER_SECOND = 50;
  private static final String SCHEMA = "warden_services_bench";
  private static final String TOKEN = "a token that only this bench knows";

  private final HttpClient http =
      HttpClient.newBuilder().version(HttpClient.Version.HTTP_1_1).build();
  private StandIns standIns;

  @Test
  public void measure() throws Exception {
    Path directory = Files.createTempDirectory("services-bench");
    // before the start: nobody has to make them one by one
    hold(directory.resolve("redshank"), "r", READ, "hosts");
    hold(directory.resolve("curlew"), "c", WRITTEN, "everyone");
    standIns = new StandIns(directory);
    try (StandIns both = standIns) {
      Map<String, String> more = new HashMap<>(both.environment());
      try (RunningWarden warden = RunningWarden.start(SCHEMA, more)) {
        try (Connection connection = connect()) {
          Tokens.issue(connection, TOKEN);
        }
        firstReading();
        changes("alone");
        write(warden);
      }
    }
  }

  private static void hold(Path file, String prefix, int many, String share) throws IOException {
    try (BufferedWriter out = Files.newBufferedWriter(file)) {
      for (int i = 1; i <= many; i++) {
        out.write(
            ("{\"is\":\"meeting\",\"id\":\"%s-%06d\",\"change\":%d,\"at\":\"2026-11-01T09:00:00Z\","
                    + "\"by\":\"k.rosen@saltmarsh.example\",\"cancelled\":false,\"meeting\":{"
                    + "\"title\":\"Held %d\",\"description\":\"\",\"host\":\"%s@saltmarsh.example\","
                    + "\"start\":\"2027-0%d-%02dT%02d:00\",\"zone\":\"Europe/Dublin\",\"minutes\":45,"
                    + "\"number\":\"%09d\",\"controls\":{\"screen-share\":\"%s\",\"waiting-room\":"
                    + "\"on\",\"chat\":\"off\"}}}\n")
                .formatted(
                    prefix,
                    i,
                    i,
                    i,
                    "h%04d".formatted(i % 2_000),
                    1 + i % 3,
                    1 + i % 28,
                    8 + i % 10,
                    prefix.equals("r") ? 300_000_000 + i : 600_000_000 + i,
                    share));
      }
    }
  }

  private void firstReading() throws Exception {
    until("both are linked", "select 2 - count(*) from conference_service");
    long begin = System.nanoTime();
    long before =
        number(
            "select timestampdiff(second, added_at, utc_timestamp()) from"
                + " conference_service where name = 'Redshank'");
    until("both are read", "select count(*) from conference_service where full_since is not null");
    System.out.printf(
        "first reading of %,d and %,d meetings: %d s after they were linked%n",
        READ, WRITTEN, before + (System.nanoTime() - begin) / 1_000_000_000L);
    until(
        "all are judged",
        "select greatest(0, "
            + READ
            + " - count(*)) from audited_meeting a join audit_run r on"
            + " r.id = a.audit and r.state = 'standing' where a.meeting like 'r-%'");
    System.out.printf(
        "and all judged after %d s%n", before + (System.nanoTime() - begin) / 1_000_000_000L);
  }

  private static String patch(String share) {
    return "{\"controls\":{\"screen-share\":\"" + share + "\"}}";
  }

  /** Somebody there changes 50 meetings a second; each is looked for among the findings here. */
  private void changes(String how) throws Exception {
    Map<String, Long> changed = new ConcurrentHashMap<>();
    Map<String, Long> found = new LinkedHashMap<>();
    int first = how.equals("alone") ? 1 : SECONDS * PER_SECOND + 1;
    Thread changing =
        new Thread(
            () -> {
              long begin = System.nanoTime();
              for (int i = 0; i < SECONDS * PER_SECOND; i++) {
                long due = begin + i * 1_000_000_000L / PER_SECOND;
                while (System.nanoTime() < due) {
                  Thread.onSpinWait();
                  java.util.concurrent.locks.LockSupport.parkNanos(500_000);
                }
                String id = "r-%06d".formatted(first + i);
                try {
                  HttpResponse<String> answer =
                      http.send(
                          HttpRequest.newBuilder(
                                  URI.create(standIns.address("redshank") + "/v2/meetings/" + id))
                              .header(
                                  "Authorization",
                                  "Bearer " + standIns.environment().get("WARDEN_STANDINS_KEY"))
                              .header("Command-Id", "bench-" + id)
                              .header("On-Behalf-Of", "k.rosen@saltmarsh.example")
                              .method(
                                  "PATCH", HttpRequest.BodyPublishers.ofString(patch("everyone")))
                              .build(),
                          HttpResponse.BodyHandlers.ofString());
                  if (answer.statusCode() != 200) {
                    throw new IllegalStateException(answer.body());
                  }
                  changed.put(id, System.nanoTime());
                } catch (IOException | InterruptedException e) {
                  throw new IllegalStateException(e);
                }
              }
            });
    changing.start();
    long end = System.nanoTime() + TimeUnit.SECONDS.toNanos(SECONDS + 120);
    try (Connection connection = connect()) {
      while (found.size() < SECONDS * PER_SECOND && System.nanoTime() < end) {
        List<String> open = changed.keySet().stream().filter(id -> !found.containsKey(id)).toList();
        if (!open.isEmpty()) {
          String sql =
              "select distinct f.meeting from finding f join audit_run r on r.id = f.audit and"
                  + " r.state = 'standing' where f.check_id = 'beyond-limit' and f.subject ="
                  + " 'screen-share' and f.meeting in ('"
                  + String.join("', '", open)
                  + "')";
          try (ResultSet rows = connection.createStatement().executeQuery(sql)) {
            long now = System.nanoTime();
            while (rows.next()) {
              String id = rows.getString(1);
              found.put(id, (now - changed.get(id)) / 1_000_000);
            }
          }
        }
        TimeUnit.MILLISECONDS.sleep(100);
      }
    }
    changing.join();
    List<Long> took = new ArrayList<>(found.values());
    took.sort(null);
    System.out.printf(
        "%s: %,d changes there at %d a second, %,d found here: median %d ms, 99th %d ms, slowest"
            + " %d ms%n",
        how,
        SECONDS * PER_SECOND,
        PER_SECOND,
        took.size(),
        took.get(took.size() / 2),
        took.get((int) Math.ceil(took.size() * 0.99) - 1),
        took.get(took.size() - 1));
  }

  /** 5,000 decided at once for the slow service; the other one is changed meanwhile. */
  private void write(RunningWarden warden) throws Exception {
    List<String> ids = IntStream.rangeClosed(1, WRITTEN).mapToObj("c-%06d"::formatted).toList();
    long begin = System.nanoTime();
    for (int i = 0; i < ids.size(); i += 500) {
      String some = String.join("\",\"", ids.subList(i, Math.min(i + 500, ids.size())));
      HttpResponse<String> answer =
          http.send(
              HttpRequest.newBuilder(URI.create(warden.address() + "/api/meetings/many"))
                  .header("Authorization", "Bearer " + TOKEN)
                  .header("Content-Type", "application/json")
                  .POST(
                      HttpRequest.BodyPublishers.ofString(
                          "{\"ids\":[\"%s\"],\"act\":\"control\",\"control\":\"screen-share\",\"value\":\"hosts\",\"send\":false}"
                              .formatted(some)))
                  .build(),
              HttpResponse.BodyHandlers.ofString());
      if (answer.statusCode() != 200) {
        throw new IllegalStateException(answer.body());
      }
    }
    System.out.printf(
        "%,d changes decided after %d ms%n", WRITTEN, (System.nanoTime() - begin) / 1_000_000);
    changes("with the other's queue");
    until(
        "all is confirmed",
        "select count(*) from meeting_held h join conference_service s on s.id = h.service where"
            + " s.name = 'Curlew' and h.writing in ('waiting', 'sent')");
    double seconds = (System.nanoTime() - begin) / 1e9;
    String page = get(standIns.address("curlew") + "/account");
    String asked =
        page.replaceFirst("(?s).*Asked (\\d+) times, (\\d+) too often.*", "$1 times, $2 too often");
    System.out.printf(
        "%,d changes written and read back at 10 requests a second after %.0f s, %.1f a second; the"
            + " service was asked %s in all%n",
        WRITTEN, seconds, WRITTEN / seconds, asked);
  }

  private String get(String address) throws IOException, InterruptedException {
    return http.send(
            HttpRequest.newBuilder(URI.create(address)).build(),
            HttpResponse.BodyHandlers.ofString())
        .body();
  }

  private static Connection connect() throws SQLException {
    return DriverManager.getConnection(
        RunningWarden.environment("WARDEN_TEST_DB_URL").replaceAll("/warden$", "/" + SCHEMA),
        RunningWarden.environment("WARDEN_TEST_DB_USER"),
        RunningWarden.environment("WARDEN_TEST_DB_PASSWORD"));
  }

  private static long number(String sql) throws SQLException {
    try (Connection connection = connect();
        ResultSet rows = connection.createStatement().executeQuery(sql)) {
      rows.next();
      return rows.getLong(1);
    }
  }

  private static void until(String what, String sql) throws Exception {
    long end = System.nanoTime() + TimeUnit.MINUTES.toNanos(30);
    while (number(sql) > 0) {
      if (System.nanoTime() > end) {
        throw new AssertionError("in vain: " + what);
      }
      TimeUnit.MILLISECONDS.sleep(250);
    }
  }
}
