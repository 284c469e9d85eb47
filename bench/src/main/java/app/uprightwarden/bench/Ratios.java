package app.uprightwarden.bench;

import java.util.Arrays;
import java.util.Locale;
import org.openjdk.jmh.runner.Runner;
import org.openjdk.jmh.runner.RunnerException;
import org.openjdk.jmh.runner.options.OptionsBuilder;
import org.openjdk.jmh.runner.options.TimeValue;
import org.openjdk.jmh.runner.options.VerboseMode;

/**
 * The audit beside its floor and beside the rule engine, each in a process of JMH's own, one right
 * after the other and many times over: on a machine whose speed changes, the ratios of neighbours
 * say more than figures, and their median more than one of them.
 */
public final class Ratios {
  private static final int ROUNDS = 11;

  private Ratios() {}

  /**
   * Prints each round, then the medians with their spread.
   *
   * @param args how many rounds; 11 where it is left out
   * @throws RunnerException where a process of JMH's could not be run
   */
  public static void main(String[] args) throws RunnerException {
    int rounds = args.length == 0 ? ROUNDS : Integer.parseInt(args[0]);
    double[] floors = new double[rounds];
    double[] engines = new double[rounds];
    for (int i = 0; i < rounds; i++) {
      double floor = meetingsASecond("floor");
      double audit = meetingsASecond("auditMixture");
      double engine = meetingsASecond("ruleEngine");
      floors[i] = floor / audit;
      engines[i] = audit / engine;
      say(
          "round %d: floor %,.0f, audit %,.0f, rule engine %,.0f meetings/s: %.1f and %.1f times",
          i + 1, floor, audit, engine, floors[i], engines[i]);
    }
    say("the audit takes %s times the floor", spread(floors));
    say("it is %s times as fast as the rule engine", spread(engines));
  }

  private static double meetingsASecond(String benchmark) throws RunnerException {
    return new Runner(
            new OptionsBuilder()
                .include(AuditBenchmark.class.getName() + "\\." + benchmark + "$")
                .forks(1)
                .jvmArgs("-Xmx2g", "-XX:+UseSerialGC")
                .warmupIterations(3)
                .warmupTime(TimeValue.seconds(1))
                .measurementIterations(3)
                .measurementTime(TimeValue.seconds(1))
                .verbosity(VerboseMode.SILENT)
                .build())
        .runSingle()
        .getPrimaryResult()
        .getScore();
  }

  private static String spread(double[] of) {
    double[] sorted = of.clone();
    Arrays.sort(sorted);
    double median = (sorted[(sorted.length - 1) / 2] + sorted[sorted.length / 2]) / 2;
    return String.format(
        Locale.ROOT,
        "%.1f (median of %d, %.1f to %.1f)",
        median,
        sorted.length,
        sorted[0],
        sorted[sorted.length - 1]);
  }

  private static void say(String text, Object... values) {
    System.out.println(String.format(Locale.ROOT, text, values));
  }
}
