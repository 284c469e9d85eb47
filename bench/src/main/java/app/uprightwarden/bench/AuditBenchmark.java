package app.uprightwarden.bench;

import app.uprightwarden.core.audit.Auditor;
import app.uprightwarden.core.audit.MeetingFacts;
import java.util.List;
import java.util.concurrent.TimeUnit;
import org.openjdk.jmh.annotations.Benchmark;
import org.openjdk.jmh.annotations.BenchmarkMode;
import org.openjdk.jmh.annotations.Fork;
import org.openjdk.jmh.annotations.Measurement;
import org.openjdk.jmh.annotations.Mode;
import org.openjdk.jmh.annotations.OperationsPerInvocation;
import org.openjdk.jmh.annotations.OutputTimeUnit;
import org.openjdk.jmh.annotations.Scope;
import org.openjdk.jmh.annotations.Setup;
import org.openjdk.jmh.annotations.State;
import org.openjdk.jmh.annotations.Warmup;

/**
 * Auditing 100,000 series in memory, all checks on single meetings, on one thread; beside it the
 * floor, a bare loop that reads the same arrays once and writes as many findings, and a rule
 * engine.
 */
@State(Scope.Thread)
@BenchmarkMode(Mode.Throughput)
@OutputTimeUnit(TimeUnit.SECONDS)
@Fork(1)
@Warmup(iterations = 3, time = 3)
@Measurement(iterations = 5, time = 3)
public class AuditBenchmark {
  static final int SERIES = 100_000;

  private MeetingFacts[] mixture = new MeetingFacts[0];
  private MeetingFacts[] distinct = new MeetingFacts[0];
  private int[] findingsPerMeeting = new int[0];
  private final Object[] details = new Object[64];
  private Object[] written = new Object[0];

  @Setup
  public void setUp() {
    mixture = new Population(7).mixture(SERIES);
    distinct = new Population(8).distinct(SERIES);
    findingsPerMeeting = new int[SERIES];
    int[] at = {0, 0};
    Auditor auditor = new Auditor();
    for (MeetingFacts meeting : mixture) {
      auditor.audit(
          meeting,
          (m, occurrence, detail) -> {
            findingsPerMeeting[at[0]]++;
            at[1]++;
          });
      at[0]++;
    }
    written = new Object[2 * at[1]];
  }

  /** As the audit service does it: a fresh auditor a run, which judges each set of values once. */
  @Benchmark
  @OperationsPerInvocation(SERIES)
  public int auditMixture() {
    return audit(mixture);
  }

  /** The hardest case: no two meetings alike. */
  @Benchmark
  @OperationsPerInvocation(SERIES)
  public int auditDistinct() {
    return audit(distinct);
  }

  private int audit(MeetingFacts[] meetings) {
    Auditor auditor = new Auditor();
    int[] at = {0};
    Object[] into = written;
    for (MeetingFacts meeting : meetings) {
      auditor.audit(
          meeting,
          (m, occurrence, detail) -> {
            int i = at[0] % into.length;
            into[i] = m;
            into[i + 1] = detail;
            at[0] += 2;
          });
    }
    return at[0];
  }

  /** The rule engine with the same meetings, which it has a part of the checks for. */
  @State(Scope.Thread)
  public static class Engine {
    private final RuleEnginePeer peer;
    private final List<RuleEnginePeer.Fact> facts;

    /** Makes the rules and the facts; JMH makes one of this in each process. */
    public Engine() {
      Population population = new Population(7);
      MeetingFacts[] meetings = population.mixture(SERIES);
      peer = new RuleEnginePeer(population.paths());
      facts = RuleEnginePeer.facts(meetings, population.paths());
    }
  }

  /** What the audit is held against. */
  @Benchmark
  @OperationsPerInvocation(SERIES)
  public int ruleEngine(Engine engine) {
    return engine.peer.run(engine.facts);
  }

  /** Reads each meeting once, compares nothing, and writes as many findings as were found. */
  @Benchmark
  @OperationsPerInvocation(SERIES)
  public int floor() {
    int at = 0;
    int sum = 0;
    for (int i = 0; i < mixture.length; i++) {
      MeetingFacts meeting = mixture[i];
      sum += meeting.minutes() + meeting.invited() + meeting.values().hashCode();
      for (int n = findingsPerMeeting[i]; n > 0; n--) {
        written[at] = meeting;
        written[at + 1] = details[n & 63];
        at += 2;
      }
    }
    return sum + at;
  }
}
