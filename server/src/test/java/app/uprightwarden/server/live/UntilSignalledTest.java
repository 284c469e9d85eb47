package app.uprightwarden.server.live;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertTrue;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Set;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.concurrent.atomic.AtomicLong;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.Test;

public class UntilSignalledTest {
  private static final Set<Signals.Topic> TOPICS =
      Set.of(Signals.Topic.REGISTER, Signals.Topic.STANDING);

  private final List<SignalSentEntity> sent = new ArrayList<>();
  private final AtomicInteger made = new AtomicInteger();
  private final AtomicLong nanos = new AtomicLong();
  private Instant now = Instant.EPOCH;
  private Signals signals = new Signals(new Rows(), Clock.systemUTC());

  @BeforeMethod
  public void nothingIsSignalled() {
    sent.clear();
    made.set(0);
    now = Instant.parse("2026-05-01T09:00:00Z");
    signals = new Signals(new Rows(), ((InstantSource) () -> now).withZone(ZoneOffset.UTC));
  }

  /** What the database does, in memory. */
  private final class Rows implements SignalRepository {
    @Override
    public void insert(SignalSentEntity signal) {
      sent.add(signal);
    }

    @Override
    public List<SignalSentEntity> since(Instant time) {
      return sent.stream().filter(s -> s.at.isAfter(time)).toList();
    }

    @Override
    public long count(Collection<String> topics, Instant time) {
      return since(time).stream().filter(s -> topics.contains(s.topic)).count();
    }

    @Override
    public int deleteBefore(Instant time) {
      int before = sent.size();
      sent.removeIf(s -> s.at.isBefore(time));
      return before - sent.size();
    }
  }

  /** Takes ten nanoseconds by the test's clock. */
  private int make() {
    nanos.addAndGet(10);
    return made.incrementAndGet();
  }

  private int ask(UntilSignalled<String, Integer> answers) {
    return answers.get("a", this::make);
  }

  @Test
  public void anAnswerIsKeptUntilSomethingOfItsTopicsIsSignalled() {
    UntilSignalled<String, Integer> answers = UntilSignalled.exact(signals, TOPICS, 10);
    signals.send(Signals.Topic.STANDING);
    assertEquals(ask(answers), 1);
    signals.send(Signals.Topic.FLOOR);
    now = now.plusSeconds(59);
    assertEquals(ask(answers), 1, "of no concern");
    assertEquals(answers.get("b", this::make).intValue(), 2, "another question");
    signals.send(Signals.Topic.REGISTER);
    assertEquals(ask(answers), 3);
    signals.send(Signals.Topic.STANDING);
    assertEquals(ask(answers), 4);
    assertEquals(ask(answers), 4);
  }

  @Test
  public void whatIsSignalledWhileItIsMadeMakesItOld() {
    UntilSignalled<String, Integer> answers = UntilSignalled.exact(signals, TOPICS, 10);
    answers.get(
        "a",
        () -> {
          signals.send(Signals.Topic.REGISTER);
          return make();
        });
    assertEquals(ask(answers), 2);
    assertEquals(ask(answers), 2);
  }

  /** A transaction that takes long commits a signal that bears the time when it was written. */
  @Test
  public void aSignalThatComesLateCounts() {
    UntilSignalled<String, Integer> answers = UntilSignalled.exact(signals, TOPICS, 10);
    Instant written = now.minusSeconds(120);
    assertEquals(ask(answers), 1);
    SignalSentEntity late = new SignalSentEntity();
    late.topic = Signals.Topic.REGISTER.id();
    late.at = written;
    sent.add(late);
    assertEquals(ask(answers), 2);
  }

  @Test
  public void anAnswerIsKeptForAMinute() {
    UntilSignalled<String, Integer> answers = UntilSignalled.exact(signals, TOPICS, 10);
    assertEquals(ask(answers), 1);
    now = now.plusSeconds(60);
    assertEquals(ask(answers), 2);
  }

  /** Old signals go while answers are kept: their number must not seem the same for that. */
  @Test
  public void signalsThatAreForgottenDoNotHideOthers() {
    for (int second = 0; second < 600; second++) {
      now = now.plusSeconds(1);
      signals.forgetOld();
      Signals.Mark mark = signals.mark(TOPICS);
      assertTrue(signals.isAsBefore(mark));
      signals.send(Signals.Topic.STANDING);
      now = now.plus(Duration.ofSeconds(second % 59));
      signals.forgetOld();
      assertFalse(signals.isAsBefore(mark), "after " + second);
    }
  }

  @Test
  public void whereMuchIsSignalledAnAnswerMayBeAMomentOld() {
    UntilSignalled<String, Integer> answers =
        UntilSignalled.orAMomentOld(signals, TOPICS, 10, nanos::get);
    assertEquals(ask(answers), 1);
    signals.send(Signals.Topic.STANDING);
    nanos.addAndGet(29);
    assertEquals(ask(answers), 1);
    nanos.addAndGet(2);
    assertEquals(ask(answers), 2);
    nanos.addAndGet(1000);
    assertEquals(ask(answers), 2, "nothing was signalled");
  }
}
