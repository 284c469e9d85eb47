package app.uprightwarden.acceptance;

import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.sql.SQLException;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Arrays;
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
 * pause of half a second to one and a half between two things. A third of what wardens do and a
 * tenth of what hosts do is a write. Prints what reads and writes took, every answer that was no
 * success, and the server's heap after a full collection, minute by minute.
 */
@Test(groups = "bench")
public class MixedLoadBench {
  private static final int SERIES = Integer.getInteger("warden.bench.series", 100_000);
  private static final int STAFF = Integer.getInteger("warden.bench.people", 0);
  private static final int LISTS = Math.max(1, STAFF / 10);
  private static final int MINUTES = Integer.getInteger("warden.bench.minutes", 10);
  private static final int WARM_UP_SECONDS = 60;
  private static final int PEOPLE = 50;
  private static final String SCHEMA = "warden_load";

  /** More than the register's table lists; the wall has no such limit. */
  private static final int MAX_IN_TABLE = 300_000;

  /** One of the fifty. */
  private record Person(int number, String role, String email, Random random) {
    int below(int bound) {
      return random.nextInt(bound);
    }

    String meeting() {
      return "m-%04d".formatted(1 + below(100));
    }
  }

  /** Something that somebody does. */
  private record Deed(
      String name, String method, Function<Person, String> path, Function<Person, String> body) {
    boolean isRead() {
      return method.equals("GET");
    }
  }

  private static Deed read(String name, Function<Person, String> path) {
    return new Deed(name, "GET", path, p -> "");
  }

  private static final List<Deed> OF_WARDENS =
      List.of(
          read("lookout", p -> "/api/lookout"),
          read("the wall", p -> "/api/audits/0/wall?page=" + p.below(20)),
          read("the wall, narrowed", p -> "/api/audits/0/wall?severity=4&unit=pilotage"),
          read("findings", p -> "/api/audits/0/findings?size=50&page=" + p.below(20)),
          SERIES > MAX_IN_TABLE
              ? read("a meeting", p -> "/api/meetings/" + p.meeting())
              : read("the register", p -> "/api/meetings?size=50"),
          read("a meeting", p -> "/api/meetings/" + p.meeting()),
          read("its history", p -> "/api/meetings/" + p.meeting() + "/history"),
          read("the rulebook", p -> "/api/rulebook"),
          read("the floor", p -> "/api/floor/sessions"),
          read("the ledger", p -> "/api/ledger?size=50"),
          read("people", p -> "/api/people?size=50"),
          read("somebody looked for", MixedLoadBench::search));

  /** As somebody types: two to five letters of a name, or a number. */
  private static String search(Person person) {
    List<String> typed = List.of("ad", "bela", "corl", "ho", "keel", "jet", "fenn", "41", "nobody");
    return "/api/people?size=8&best=true&text=" + typed.get(person.below(typed.size()));
  }

  private static final Deed SCHEDULED =
      new Deed(
          "a meeting scheduled",
          "POST",
          p -> "/api/meetings",
          p ->
              """
              {"version": 0, "send": true, "reason": "load", "meeting": {"title": "Load %d",
               "host": "%s", "start": "2027-05-%02dT1%d:00", "zone": "Europe/Dublin",
               "minutes": 30, "invitees": [
               {"email": "m.sachs@saltmarsh.example", "need": "required"}]}}"""
                  .formatted(p.below(1_000_000), p.email(), 1 + p.below(28), p.below(8)));

  private static final Deed CHANGED = new Deed("a control changed", "PATCH", p -> "", p -> "");

  private static final List<Deed> OF_HOSTS =
      List.of(
          read("my corner", p -> "/api/lookout/mine"),
          read("asked of me", p -> "/api/host-requests/mine"),
          read("my meetings", p -> "/api/meetings?size=50"),
          read("the rulebook", p -> "/api/rulebook"),
          read("somebody looked for", MixedLoadBench::search),
          read("lists, spaces, rooms", p -> "/api/organisation"),
          read("a passcode made", p -> "/api/scheduling/passcode"));

  private final BigRegister register = new BigRegister(SCHEMA);
  private final Map<String, ConcurrentLinkedQueue<Long>> took = new ConcurrentHashMap<>();
  private final ConcurrentLinkedQueue<String> wrong = new ConcurrentLinkedQueue<>();
  private volatile boolean counts;

  @Test
  public void mixedWork() throws Exception {
    try (RunningWarden small =
        RunningWarden.startScaled(SCHEMA, Math.min(SERIES, BigRegister.MIXTURE))) {
      settle();
      System.out.printf("the mixture was loaded at %s%n", small.address());
    }
    int staffs = register.grow(SERIES);
    if (STAFF > 0) {
      register.hire(STAFF, LISTS);
    }
    List<Person> persons = new ArrayList<>();
    for (int i = 0; i < PEOPLE; i++) {
      String role = i < 10 ? "warden" : i < 20 ? "auditor" : "host";
      String staff = staffs == 0 ? "" : "." + i % staffs;
      String email = (i < 20 ? "m.sachs" : "m.okafor" + staff) + "@saltmarsh.example";
      persons.add(new Person(i, role, email, new Random(i)));
      register.issue("load " + i, role, email);
    }
    try (RunningWarden warden = RunningWarden.startScaled(SCHEMA, 0)) {
      settle();
      long end = System.nanoTime() + TimeUnit.SECONDS.toNanos(WARM_UP_SECONDS + MINUTES * 60L);
      List<Thread> people = new ArrayList<>();
      for (Person person : persons) {
        Thread thread = new Thread(() -> work(warden, person, end));
        thread.start();
        people.add(thread);
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

  /** The first audits after loading are not part of it. */
  private void settle() throws SQLException, InterruptedException {
    while (register.number(
            "select (select count(*) from audit_run where state in ('waiting', 'running')) + (select"
                + " count(*) from meeting_due) + (select count(*) = 0 from audit_run where state ="
                + " 'standing' and renewed_at is not null)")
        > 0) {
      TimeUnit.SECONDS.sleep(1);
    }
  }

  private void work(RunningWarden warden, Person person, long end) {
    HttpClient http = HttpClient.newBuilder().version(HttpClient.Version.HTTP_1_1).build();
    try {
      while (System.nanoTime() < end) {
        TimeUnit.MILLISECONDS.sleep(500 + person.below(1000));
        Deed deed = next(person);
        if (deed.equals(CHANGED)) {
          change(http, warden, person);
        } else {
          timed(http, warden, person, deed);
        }
      }
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    } catch (IOException e) {
      wrong.add("nobody answered: " + e.getMessage());
    }
  }

  private static Deed next(Person person) {
    boolean isHost = person.role().equals("host");
    if (isHost && person.below(10) == 0) {
      return SCHEDULED;
    }
    if (person.role().equals("warden") && person.below(3) == 0) {
      return person.below(2) == 0 ? SCHEDULED : CHANGED;
    }
    List<Deed> deeds = isHost ? OF_HOSTS : OF_WARDENS;
    return deeds.get(person.below(deeds.size()));
  }

  /**
   * Read first, then changed, as a page does; whoever is second is told so, and that is no error.
   */
  private void change(HttpClient http, RunningWarden warden, Person person)
      throws IOException, InterruptedException {
    String path = "/api/meetings/" + person.meeting();
    String now = timed(http, warden, person, read("a meeting", p -> path)).body();
    String version = now.replaceFirst("(?s).*\"version\":(\\d+).*", "$1");
    String value = person.random().nextBoolean() ? "on" : "off";
    String body =
        "{\"version\": %s, \"controls\": {\"reactions\": \"%s\"}}".formatted(version, value);
    timed(
        http,
        warden,
        person,
        new Deed(CHANGED.name(), "PATCH", p -> path + "/controls", p -> body));
  }

  private HttpResponse<String> timed(
      HttpClient http, RunningWarden warden, Person person, Deed deed)
      throws IOException, InterruptedException {
    String path = deed.path().apply(person);
    HttpRequest request =
        HttpRequest.newBuilder(URI.create(warden.address() + path))
            .timeout(Duration.ofSeconds(60))
            .header("Authorization", "Bearer load " + person.number())
            .header("Content-Type", "application/json")
            .method(deed.method(), HttpRequest.BodyPublishers.ofString(deed.body().apply(person)))
            .build();
    long start = System.nanoTime();
    HttpResponse<String> answer = http.send(request, HttpResponse.BodyHandlers.ofString());
    if (counts) {
      long micros = (System.nanoTime() - start) / 1000;
      for (String key :
          List.of((deed.isRead() ? "reads" : "writes") + ", all", "· " + deed.name())) {
        took.computeIfAbsent(key, k -> new ConcurrentLinkedQueue<>()).add(micros);
      }
      if (answer.statusCode() >= 400 && answer.statusCode() != 409) {
        wrong.add(deed.method() + " " + path + " answered " + answer.statusCode());
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
        "%,d series, %,d people more in %,d lists; %d at work, %d minutes after %d s of warming up%n",
        SERIES, STAFF, STAFF == 0 ? 0 : LISTS, PEOPLE, MINUTES, WARM_UP_SECONDS);
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
