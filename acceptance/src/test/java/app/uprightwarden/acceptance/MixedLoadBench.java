package app.uprightwarden.acceptance;

import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.security.MessageDigest;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.concurrent.TimeUnit;
import java.util.function.Function;
import org.testng.annotations.Test;

/**
 * Fifty people at mixed work on many meetings: ten wardens, ten auditors, thirty hosts, each with a
 * pause of half a second to one and a half between two things. Prints what reads and writes took,
 * every answer that was no success, and the server's heap after a full collection, minute by
 * minute.
 */
@Test(groups = "bench")
public class MixedLoadBench {
  private static final int SERIES = Integer.getInteger("warden.bench.series", 100_000);
  private static final int MINUTES = Integer.getInteger("warden.bench.minutes", 10);
  private static final int WARM_UP_SECONDS = 60;
  private static final int PEOPLE = 50;
  private static final String SCHEMA = "warden_load";

  /** Something that somebody does. */
  private record Deed(
      String name, String method, Function<Random, String> path, Function<Random, String> body) {
    boolean isRead() {
      return method.equals("GET");
    }
  }

  private static String meeting(Random random) {
    return "m-%04d".formatted(1 + random.nextInt(100));
  }

  private static Deed read(String name, Function<Random, String> path) {
    return new Deed(name, "GET", path, r -> "");
  }

  private static final List<Deed> OF_WARDENS =
      List.of(
          read("lookout", r -> "/api/lookout"),
          read("the wall", r -> "/api/audits/0/wall?page=" + r.nextInt(20)),
          read("the wall, narrowed", r -> "/api/audits/0/wall?severity=4&unit=pilotage"),
          read("findings", r -> "/api/audits/0/findings?size=50&page=" + r.nextInt(20)),
          read("a meeting", r -> "/api/meetings/" + meeting(r)),
          read("its history", r -> "/api/meetings/" + meeting(r) + "/history"),
          read("the rulebook", r -> "/api/rulebook"),
          read("the floor", r -> "/api/floor/sessions"),
          read("the ledger", r -> "/api/ledger?size=50"),
          read("people", r -> "/api/people?size=50"));

  private static final List<Deed> WRITES =
      List.of(
          new Deed("a control changed", "PATCH", r -> "", r -> ""),
          new Deed(
              "a meeting scheduled",
              "POST",
              r -> "/api/meetings",
              r ->
                  """
                  {"version": 0, "send": true, "reason": "load", "meeting": {"title": "Load %d",
                   "host": "m.okafor@saltmarsh.example", "start": "2027-05-%02dT1%d:00",
                   "zone": "Europe/Dublin", "minutes": 30, "invitees": [
                   {"email": "m.sachs@saltmarsh.example", "need": "required"}]}}"""
                      .formatted(r.nextInt(1_000_000), 1 + r.nextInt(28), r.nextInt(8))));

  private static final List<Deed> OF_HOSTS =
      List.of(
          read("my corner", r -> "/api/lookout/mine"),
          read("asked of me", r -> "/api/host-requests/mine"),
          read("my meetings", r -> "/api/meetings?size=50"),
          read("the rulebook", r -> "/api/rulebook"),
          read("a passcode made", r -> "/api/scheduling/passcode"));

  private final Map<String, ConcurrentLinkedQueue<Long>> took = new ConcurrentHashMap<>();
  private final ConcurrentLinkedQueue<String> wrong = new ConcurrentLinkedQueue<>();
  private volatile boolean counts;

  @Test
  public void mixedWork() throws Exception {
    try (RunningWarden warden = RunningWarden.startScaled(SCHEMA, SERIES)) {
      issue();
      settle();
      long end = System.nanoTime() + TimeUnit.SECONDS.toNanos(WARM_UP_SECONDS + MINUTES * 60L);
      List<Thread> people = new ArrayList<>();
      for (int i = 0; i < PEOPLE; i++) {
        int who = i;
        Thread person = new Thread(() -> work(warden, who, end));
        person.start();
        people.add(person);
      }
      TimeUnit.SECONDS.sleep(WARM_UP_SECONDS);
      counts = true;
      StringBuilder heap = new StringBuilder();
      for (int minute = 0; minute < MINUTES; minute++) {
        heap.append(' ').append(heapAfterCollection(warden.pid()));
        TimeUnit.SECONDS.sleep(60);
      }
      for (Thread person : people) {
        person.join();
      }
      heap.append(' ').append(heapAfterCollection(warden.pid()));
      report(heap.toString());
    }
  }

  private static Connection connect() throws SQLException {
    return DriverManager.getConnection(
        RunningWarden.environment("WARDEN_TEST_DB_URL").replaceAll("/warden$", "/" + SCHEMA),
        RunningWarden.environment("WARDEN_TEST_DB_USER"),
        RunningWarden.environment("WARDEN_TEST_DB_PASSWORD"));
  }

  private static String role(int who) {
    return who < 10 ? "warden" : who < 20 ? "auditor" : "host";
  }

  private void issue() throws SQLException, GeneralSecurityException {
    try (Connection connection = connect();
        PreparedStatement insert =
            connection.prepareStatement(
                "insert into access_token (token_hash, purpose, role, acts_as, issued_by,"
                    + " issued_at, expires_at) values (?, 'load', ?, ?, 'x', utc_timestamp(),"
                    + " utc_timestamp() + interval 1 day)")) {
      for (int i = 0; i < PEOPLE; i++) {
        insert.setString(1, sha256("load " + i));
        insert.setString(2, role(i));
        insert.setString(3, i < 20 ? "m.sachs@saltmarsh.example" : "m.okafor@saltmarsh.example");
        insert.executeUpdate();
      }
    }
  }

  private static String sha256(String text) throws GeneralSecurityException {
    return HexFormat.of()
        .formatHex(
            MessageDigest.getInstance("SHA-256").digest(text.getBytes(StandardCharsets.UTF_8)));
  }

  /** The first audits after loading are not part of it. */
  private static void settle() throws SQLException, InterruptedException {
    try (Connection connection = connect()) {
      while (true) {
        try (var rows =
            connection
                .createStatement()
                .executeQuery(
                    "select (select count(*) from audit_run where state in ('waiting', 'running'))"
                        + " + (select count(*) from meeting_due) + (select count(*) = 0 from"
                        + " audit_run where state = 'standing' and renewed_at is not null)")) {
          rows.next();
          if (rows.getLong(1) == 0) {
            return;
          }
        }
        TimeUnit.SECONDS.sleep(1);
      }
    }
  }

  private void work(RunningWarden warden, int who, long end) {
    HttpClient http = HttpClient.newBuilder().version(HttpClient.Version.HTTP_1_1).build();
    Random random = new Random(who);
    try {
      while (System.nanoTime() < end) {
        TimeUnit.MILLISECONDS.sleep(500 + random.nextInt(1000));
        boolean writes = role(who).equals("warden") && random.nextInt(3) == 0;
        List<Deed> deeds = writes ? WRITES : role(who).equals("host") ? OF_HOSTS : OF_WARDENS;
        Deed deed = deeds.get(random.nextInt(deeds.size()));
        if (deed.method().equals("PATCH")) {
          change(http, warden, who, random);
        } else {
          timed(
              http,
              warden,
              who,
              deed.name(),
              deed.method(),
              deed.path().apply(random),
              deed.body().apply(random),
              deed.isRead());
        }
      }
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    } catch (IOException e) {
      wrong.add("nobody answered: " + e.getMessage());
    }
  }

  /**
   * Read first, then changed, as a page does; whoever is second is told so, and that is no error.
   */
  private void change(HttpClient http, RunningWarden warden, int who, Random random)
      throws IOException, InterruptedException {
    String id = meeting(random);
    HttpResponse<String> now =
        timed(http, warden, who, "a meeting", "GET", "/api/meetings/" + id, "", true);
    String version = now.body().replaceFirst("(?s).*\"version\":(\\d+).*", "$1");
    timed(
        http,
        warden,
        who,
        "a control changed",
        "PATCH",
        "/api/meetings/" + id + "/controls",
        "{\"version\": %s, \"controls\": {\"reactions\": \"%s\"}}"
            .formatted(version, random.nextBoolean() ? "on" : "off"),
        false);
  }

  private HttpResponse<String> timed(
      HttpClient http,
      RunningWarden warden,
      int who,
      String name,
      String method,
      String path,
      String body,
      boolean isRead)
      throws IOException, InterruptedException {
    HttpRequest request =
        HttpRequest.newBuilder(URI.create(warden.address() + path))
            .timeout(Duration.ofSeconds(60))
            .header("Authorization", "Bearer load " + who)
            .header("Content-Type", "application/json")
            .method(method, HttpRequest.BodyPublishers.ofString(body))
            .build();
    long start = System.nanoTime();
    HttpResponse<String> answer = http.send(request, HttpResponse.BodyHandlers.ofString());
    if (counts) {
      long micros = (System.nanoTime() - start) / 1000;
      for (String key : List.of((isRead ? "reads" : "writes") + ", all", "· " + name)) {
        took.computeIfAbsent(key, k -> new ConcurrentLinkedQueue<>()).add(micros);
      }
      if (answer.statusCode() >= 400 && answer.statusCode() != 409) {
        wrong.add(method + " " + path + " answered " + answer.statusCode());
      }
    }
    return answer;
  }

  private static String heapAfterCollection(long pid) throws IOException, InterruptedException {
    new ProcessBuilder("jcmd", Long.toString(pid), "GC.run").start().waitFor();
    Process info = new ProcessBuilder("jcmd", Long.toString(pid), "GC.heap_info").start();
    String text = new String(info.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
    long kilobytes = 0;
    for (String line : text.lines().toList()) {
      if (line.contains("generation") && line.contains("used ")) {
        kilobytes += Long.parseLong(line.replaceFirst(".*used (\\d+)K.*", "$1"));
      }
    }
    return kilobytes / 1024 + " MB";
  }

  private void report(String heap) {
    System.out.printf(
        "%,d series, %d people, %d minutes after %d s of warming up%n",
        SERIES, PEOPLE, MINUTES, WARM_UP_SECONDS);
    new TreeMap<>(took)
        .forEach(
            (name, times) -> {
              long[] sorted = times.stream().mapToLong(Long::longValue).toArray();
              Arrays.sort(sorted);
              System.out.printf(
                  "  %-24s %,8d  median %,7.1f ms  95th %,7.1f ms  99th %,7.1f ms  slowest %,8.1f"
                      + " ms%n",
                  name,
                  sorted.length,
                  at(sorted, 0.5),
                  at(sorted, 0.95),
                  at(sorted, 0.99),
                  at(sorted, 1));
            });
    System.out.println("  errors: " + wrong.size());
    wrong.stream().distinct().limit(10).forEach(w -> System.out.println("    " + w));
    System.out.println("  heap after collections, each minute:" + heap);
  }

  private static double at(long[] sorted, double share) {
    return sorted[(int) Math.min(sorted.length - 1L, Math.round(share * (sorted.length - 1)))]
        / 1000.0;
  }
}
