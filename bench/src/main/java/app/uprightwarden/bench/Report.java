package app.uprightwarden.bench;

import app.uprightwarden.core.audit.Auditor;
import app.uprightwarden.core.audit.Judgement;
import app.uprightwarden.core.audit.MeetingFacts;
import app.uprightwarden.core.audit.Register;
import app.uprightwarden.core.calendar.Occurrences;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.meeting.Occurrence;
import app.uprightwarden.core.meeting.Reach;
import app.uprightwarden.core.people.Persona;
import app.uprightwarden.core.people.Right;
import app.uprightwarden.core.remedy.Remedy;
import app.uprightwarden.core.remedy.RemedySearch;
import app.uprightwarden.core.rulebook.Guarantee;
import app.uprightwarden.core.rulebook.Layer;
import app.uprightwarden.core.rulebook.Level;
import app.uprightwarden.core.rulebook.ResolvedRulebook;
import app.uprightwarden.core.rulebook.Scope;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Random;
import java.util.Set;

/**
 * Everything that is measured, side by side in one process, with the ratios between them. JMH has
 * the same audits in {@link AuditBenchmark}.
 */
public final class Report {
  private static final Set<String> PEERS_CHECKS =
      Set.of("beyond-limit", "off-fix", "not-evidenced");
  private static final Set<String> PEERS_SINGLE =
      Set.of("host-gone", "endless-series", "weak-passcode", "over-length");
  private static final int ROUNDS = 9;

  private Report() {}

  public static void main(String[] args) {
    Locale.setDefault(Locale.ROOT);
    audits();
    memory();
    remedy();
    calendar();
    DraftingReport.print();
  }

  /** The median of several runs in seconds, after the compiler has had three seconds with it. */
  private static double median(Runnable work) {
    long warm = System.nanoTime() + 3_000_000_000L;
    while (System.nanoTime() < warm) {
      work.run();
    }
    double[] seconds = new double[ROUNDS];
    for (int i = 0; i < ROUNDS; i++) {
      long begin = System.nanoTime();
      work.run();
      seconds[i] = (System.nanoTime() - begin) / 1e9;
    }
    Arrays.sort(seconds);
    return seconds[ROUNDS / 2];
  }

  private static void audits() {
    AuditBenchmark bench = new AuditBenchmark();
    bench.setUp();
    double mixture = median(bench::auditMixture);
    double distinct = median(bench::auditDistinct);
    double floor = median(bench::floor);
    say("audit, about 400 sets of values: %,.0f meetings/s", AuditBenchmark.SERIES / mixture);
    say("audit, every set distinct:       %,.0f meetings/s", AuditBenchmark.SERIES / distinct);
    say("floor, a bare loop:              %,.0f meetings/s", AuditBenchmark.SERIES / floor);
    say("audit takes %.1f times the floor", mixture / floor);

    Population population = new Population(7);
    MeetingFacts[] meetings = population.mixture(AuditBenchmark.SERIES);
    RuleEnginePeer peer = new RuleEnginePeer(population.paths());
    List<RuleEnginePeer.Fact> facts = RuleEnginePeer.facts(meetings, population.paths());
    int theirs = peer.run(facts);
    int ours = sharedFindings(meetings);
    if (ours != theirs) {
      throw new IllegalStateException("ours " + ours + ", the rule engine's " + theirs);
    }
    long begin = System.nanoTime();
    int runs = 3;
    for (int i = 0; i < runs; i++) {
      peer.run(facts);
    }
    double engine = (System.nanoTime() - begin) / 1e9 / runs;
    say(
        "rule engine, a part of the checks, %,d same findings: %,.0f meetings/s",
        theirs, AuditBenchmark.SERIES / engine);
    say("the whole audit is %.0f times as fast", engine / mixture);
  }

  /** Our findings of the checks and controls that the peer has. */
  static int sharedFindings(MeetingFacts[] meetings) {
    int[] count = {0};
    Auditor auditor = new Auditor();
    for (MeetingFacts meeting : meetings) {
      auditor.audit(
          meeting,
          (m, occurrence, detail) -> {
            String check = detail.check().id();
            boolean onRule =
                PEERS_CHECKS.contains(check)
                    && detail.rule() != null
                    && RuleEnginePeer.covers(detail.rule());
            count[0] += onRule || PEERS_SINGLE.contains(check) ? 1 : 0;
          });
    }
    return count[0];
  }

  private static void memory() {
    long before = used();
    Population population = new Population(7);
    MeetingFacts[] kept = population.mixture(AuditBenchmark.SERIES);
    long after = used();
    long text = 0;
    for (MeetingFacts meeting : kept) {
      // a String and its bytes: 24 + 16 bytes of frame, and the text
      text += 40 + meeting.id().length() + 40 + meeting.host().length();
      text += meeting.passcode() == null ? 0 : 40 + meeting.passcode().fingerprint().length();
    }
    say(
        "memory: %d bytes a meeting, %d of them text",
        (after - before) / kept.length, text / kept.length);
  }

  private static long used() {
    for (int i = 0; i < 5; i++) {
      System.gc();
    }
    Runtime runtime = Runtime.getRuntime();
    return runtime.totalMemory() - runtime.freeMemory();
  }

  /** All controls at their loosest and guarantees that no four changes keep: every set is tried. */
  private static void remedy() {
    Guarantee all = new Guarantee("all", Persona.all(), Right.all(), Level.NEVER, 4, "");
    ResolvedRulebook rules =
        ResolvedRulebook.of(
            List.of(
                new Layer(Scope.ORGANISATION, List.of(), List.of(all, all, all, all, all, all))));
    Judgement judgement = new Auditor().judge(rules, ControlValues.NONE, Reach.NOBODY);
    for (int i = 0; i < 20; i++) {
      RemedySearch.cheapest(judgement, Reach.NOBODY);
    }
    boolean[] complete = new boolean[1];
    double seconds =
        median(
            () -> {
              Remedy remedy = RemedySearch.cheapest(judgement, Reach.NOBODY);
              complete[0] = remedy.complete();
            });
    say("worst remedy (complete: %s): %.2f ms", complete[0], seconds * 1000);
  }

  private static void calendar() {
    Instant from = Instant.parse("2027-01-01T00:00:00Z");
    Instant to = Instant.parse("2028-01-01T00:00:00Z");
    Population population = new Population(7);
    double previous = 0;
    for (int series : new int[] {25_000, 50_000, 100_000}) {
      MeetingFacts[] facts = population.mixture(series);
      Register register = new Register();
      long begin = System.nanoTime();
      Random random = new Random(3);
      for (MeetingFacts fact : facts) {
        add(register, fact, random, from, to);
      }
      double expanding = (System.nanoTime() - begin) / 1e9;
      double crossing = median(() -> new Auditor().auditTogether(register, (m, detail) -> {}));
      say(
          "%,d series: %,d occurrences of a year expanded in %.2f s; checks between meetings %.3f s%s",
          series,
          register.size(),
          expanding,
          crossing,
          previous == 0 ? "" : ", %.2f times those of half as many".formatted(crossing / previous));
      previous = crossing;
    }
  }

  private static void add(
      Register register, MeetingFacts fact, Random random, Instant from, Instant to) {
    String[] rules = {
      "FREQ=WEEKLY;BYDAY=MO,TH",
      "FREQ=WEEKLY;INTERVAL=2;BYDAY=TU",
      "FREQ=MONTHLY;BYDAY=2TH",
      "FREQ=DAILY"
    };
    int pick = random.nextInt(20);
    String rule = rules[pick < 8 ? 0 : pick < 14 ? 1 : pick < 19 ? 2 : 3];
    LocalDateTime start =
        LocalDateTime.of(2026, 12, 1, 7, 0)
            .plusMinutes(15L * random.nextInt(40))
            .plusDays(random.nextInt(20));
    Meeting meeting =
        new Meeting(
            fact.id(),
            "",
            "",
            null,
            fact.host(),
            List.of(),
            List.of(),
            List.of(),
            List.of(),
            null,
            start,
            ZoneId.of("Europe/Dublin"),
            60,
            rule,
            List.of(),
            List.of(),
            null,
            null,
            ControlValues.NONE,
            List.of());
    List<Occurrence> found = Occurrences.between(meeting, from, to);
    int[] starts = new int[found.size()];
    int[] ends = new int[starts.length];
    for (int i = 0; i < starts.length; i++) {
      starts[i] = (int) (found.get(i).start().getEpochSecond() / 60);
      ends[i] = (int) (found.get(i).end().getEpochSecond() / 60);
    }
    register.add(fact, starts, ends);
  }

  private static void say(String words, Object... values) {
    System.out.println(words.formatted(values));
  }
}
