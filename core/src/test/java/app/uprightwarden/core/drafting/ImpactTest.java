package app.uprightwarden.core.drafting;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertThrows;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.core.RandomMeetings;
import app.uprightwarden.core.RandomRegister;
import app.uprightwarden.core.audit.Auditor;
import app.uprightwarden.core.audit.FactsBuilder;
import app.uprightwarden.core.audit.MeetingFacts;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.meeting.Reach;
import app.uprightwarden.core.people.Directory;
import app.uprightwarden.core.people.Persona;
import app.uprightwarden.core.people.Right;
import app.uprightwarden.core.rulebook.Guarantee;
import app.uprightwarden.core.rulebook.Layer;
import app.uprightwarden.core.rulebook.Level;
import app.uprightwarden.core.rulebook.Rule;
import app.uprightwarden.core.rulebook.Rulebook;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/**
 * The impact of a draft, found by judging only what differs, equals the difference of two whole
 * audits. Registers, layers and drafts are random, from a seed.
 */
public class ImpactTest {

  private final Directory directory = RandomRegister.directory();

  /** A finding's identity and severity, from a whole audit. */
  private Map<String, Integer> audit(Rulebook rulebook, List<Meeting> meetings) {
    FactsBuilder builder =
        new FactsBuilder(directory, rulebook, Set.of(), new MeetingFacts.Plan(100, 240));
    Auditor auditor = new Auditor();
    Map<String, Integer> found = new HashMap<>();
    for (Meeting meeting : meetings) {
      auditor.audit(
          builder.build(meeting),
          (of, occurrence, detail) -> {
            if (detail.rule() != null || detail.given() != null) {
              String id =
                  of.id() + "|" + occurrence + "|" + detail.check().id() + "|" + detail.subject();
              assertTrue(found.put(id, detail.severity()) == null, "twice: " + id);
            }
          });
    }
    return found;
  }

  private RegisterIndex index(List<Meeting> meetings) {
    List<RegisterIndex.Fresh> fresh = new ArrayList<>();
    for (int i = 0; i < meetings.size(); i++) {
      Meeting m = meetings.get(i);
      fresh.add(
          new RegisterIndex.Fresh(
              i, 0, Cohort.of(m, directory), Reach.of(m, directory), m.host(), i, 3));
    }
    return RegisterIndex.EMPTY.with(fresh, Set.of());
  }

  private Layers layers(Rulebook rulebook) {
    return new Layers(rulebook, directory::unitPath);
  }

  /** How a draft comes of the rulebook in force. */
  private interface Move {
    Rulebook of(RandomMeetings any, Rulebook inForce, Random random);
  }

  /** A register under two rulebooks: a third of the drafts are others altogether. */
  private final class Case {
    final List<Meeting> meetings;
    private final Rulebook draft;
    final Map<String, Integer> before;
    final Map<String, Integer> after;
    private final RegisterIndex index;
    private final BaselineFindings known;

    Case(long seed, Move move) {
      Random random = new Random(seed);
      RandomMeetings any = new RandomMeetings(random);
      meetings = RandomRegister.meetings(any, random, 60);
      Rulebook inForce = RandomRegister.rulebook(any);
      draft = random.nextInt(3) == 0 ? RandomRegister.rulebook(any) : move.of(any, inForce, random);
      before = audit(inForce, meetings);
      after = audit(draft, meetings);
      index = index(meetings);
      known = new BaselineFindings(layers(inForce));
    }

    /**
     * @param only what changes by this control or guarantee; null for all
     */
    Impact study(@Nullable String only) {
      return ImpactStudy.of(index, known, layers(draft), new ImpactStudy.Page(only, 0, 1000));
    }
  }

  @DataProvider
  public Object[][] seeds() {
    Object[][] seeds = new Object[40][];
    for (int i = 0; i < seeds.length; i++) {
      seeds[i] = new Object[] {1000L + i};
    }
    return seeds;
  }

  @Test(dataProvider = "seeds")
  public void theImpactIsTheDifferenceOfTwoAudits(long seed) {
    Case one = new Case(seed, ImpactTest::oneMoved);
    Map<String, Integer> before = one.before;
    Map<String, Integer> after = one.after;
    Impact impact = one.study(null);

    Set<String> appeared = new HashSet<>(after.keySet());
    appeared.removeAll(before.keySet());
    Set<String> gone = new HashSet<>(before.keySet());
    gone.removeAll(after.keySet());
    Set<String> regraded = new HashSet<>(before.keySet());
    regraded.removeIf(id -> !after.containsKey(id) || after.get(id).equals(before.get(id)));
    assertEquals(
        impact.total(),
        new Impact.Count(before.size(), appeared.size(), gone.size(), regraded.size()));
    assertEquals(impact.total().after(), after.size());
    for (Impact.Severity severity : impact.severities()) {
      assertEquals(severity.before(), times(before, severity.severity()), "before");
      assertEquals(severity.after(), times(after, severity.severity()), "after");
    }
    Map<Long, int[]> byMeeting = new HashMap<>();
    appeared.forEach(id -> byMeeting.computeIfAbsent(row(id), r -> new int[2])[0]++);
    gone.forEach(id -> byMeeting.computeIfAbsent(row(id), r -> new int[2])[1]++);
    regraded.forEach(id -> byMeeting.computeIfAbsent(row(id), r -> new int[2]));
    assertEquals(impact.touched(), byMeeting.size());
    assertEquals(impact.worst().size(), byMeeting.size());
    for (Impact.Meeting meeting : impact.worst()) {
      int[] expected = byMeeting.get(meeting.row());
      assertEquals(meeting.appeared(), expected[0]);
      assertEquals(meeting.gone(), expected[1]);
    }
    assertEquals(
        impact.units().stream().mapToInt(Impact.Touched::meetings).sum(), byMeeting.size());
    assertEquals(
        impact.subjects().stream().mapToInt(s -> s.count().appeared()).sum(), appeared.size());
    assertEquals(impact.checks().stream().mapToInt(c -> c.count().gone()).sum(), gone.size());
  }

  /** Ten hosts, so that all are listed. */
  @Test(dataProvider = "seeds")
  public void whoIsTouchedAndByWhatIsCountedFromTheAudits(long seed) {
    Case one = new Case(seed, ImpactTest::onePromised);
    Map<String, Expected> hosts = new TreeMap<>();
    Map<String, Expected> checks = new TreeMap<>();
    Map<String, Expected> subjects = new TreeMap<>();
    Expected total = new Expected("");
    Set<String> all = new HashSet<>(one.before.keySet());
    all.addAll(one.after.keySet());
    for (String id : all) {
      String[] parts = id.split("\\|");
      String host = one.meetings.get((int) row(id)).host();
      total.count(id, one.before, one.after);
      hosts.computeIfAbsent(host, Expected::new).count(id, one.before, one.after);
      checks.computeIfAbsent(parts[2], Expected::new).count(id, one.before, one.after);
      subjects.computeIfAbsent(parts[3], Expected::new).count(id, one.before, one.after);
    }
    hosts.values().removeIf(host -> host.touched.isEmpty());
    Impact impact = one.study(null);
    assertEquals(impact.meetings(), one.meetings.size());
    assertEquals(impact.touchedHosts(), hosts.size());
    assertEquals(
        impact.hosts(),
        hosts.values().stream()
            .map(h -> new Impact.Touched(h.id, h.touched.size(), h.appeared, h.gone))
            .sorted(Comparator.comparing(h -> -h.meetings())) // stable: by id as they are
            .toList());
    assertEquals(impact.checks(), checks.values().stream().map(Expected::group).toList());
    assertEquals(impact.subjects(), subjects.values().stream().map(Expected::group).toList());
    assertEquals(impact.total().same(), total.same);
    String subject = List.copyOf(subjects.keySet()).get(0);
    Impact narrow = one.study(subject);
    assertEquals(
        narrow.worst().stream().map(Impact.Meeting::row).collect(Collectors.toSet()),
        subjects.get(subject).touched,
        "those that change by " + subject);
    assertEquals(narrow.total(), impact.total(), "the counts stay those of the whole");
  }

  /** What two audits say of one check, subject or host. */
  private static final class Expected {
    final String id;
    final Set<Long> touched = new HashSet<>();
    int same;
    int was;
    int appeared;
    int gone;
    int regraded;

    Expected(String id) {
      this.id = id;
    }

    void count(String finding, Map<String, Integer> before, Map<String, Integer> after) {
      Integer old = before.get(finding);
      Integer fresh = after.get(finding);
      was += old == null ? 0 : 1;
      if (Objects.equals(old, fresh)) {
        same++;
        return;
      }
      touched.add(row(finding));
      appeared += old == null ? 1 : 0;
      gone += fresh == null ? 1 : 0;
      regraded += old != null && fresh != null ? 1 : 0;
    }

    Impact.Group group() {
      return new Impact.Group(id, new Impact.Count(was, appeared, gone, regraded), touched.size());
    }
  }

  private static long row(String id) {
    return Long.parseLong(id.substring(1, id.indexOf('|')));
  }

  private static int times(Map<String, Integer> findings, int severity) {
    return (int) findings.values().stream().filter(s -> s == severity).count();
  }

  /** The same rulebook with one rule of one layer put in another's place. */
  private static Rulebook oneMoved(RandomMeetings any, Rulebook book, Random random) {
    List<Layer> layers = new ArrayList<>(book.layers());
    int at = random.nextInt(layers.size());
    Layer layer = layers.get(at);
    List<Rule> rules = new ArrayList<>(layer.rules());
    int which = random.nextInt(rules.size());
    Rule old = rules.get(which);
    rules.set(which, Rule.fix(old.control(), any.value(old.control()), false, 3, ""));
    layers.set(at, new Layer(layer.scope(), rules, layer.guarantees()));
    return new Rulebook(layers);
  }

  /** The same rulebook with one guarantee moved in one way, taken away, or one more. */
  private static Rulebook onePromised(RandomMeetings any, Rulebook book, Random random) {
    List<Layer> layers = new ArrayList<>(book.layers());
    int at = random.nextInt(layers.size());
    Layer layer = layers.get(at);
    List<Guarantee> given = new ArrayList<>(layer.guarantees());
    Guarantee old = given.remove(random.nextInt(given.size()));
    Guarantee other = any.guarantee("another");
    switch (random.nextInt(6)) {
      case 0 -> {}
      case 1 -> given.addAll(List.of(old, other));
      case 2 -> given.add(moved(old, other.who(), old.rights(), old.ceiling(), old.importance()));
      case 3 -> given.add(moved(old, old.who(), other.rights(), old.ceiling(), old.importance()));
      case 4 -> given.add(moved(old, old.who(), old.rights(), other.ceiling(), old.importance()));
      default -> given.add(moved(old, old.who(), old.rights(), old.ceiling(), other.importance()));
    }
    layers.set(at, new Layer(layer.scope(), layer.rules(), given));
    return new Rulebook(layers);
  }

  private static Guarantee moved(
      Guarantee old, List<Persona> who, List<Right> rights, Level ceiling, int importance) {
    return new Guarantee(old.id(), who, rights, ceiling, importance, old.reason());
  }

  @Test
  public void aPageOfTheWorstContinuesWhereTheLastEnded() {
    Random random = new Random(7);
    RandomMeetings any = new RandomMeetings(random);
    RegisterIndex index = index(RandomRegister.meetings(any, random, 80));
    BaselineFindings inForce = new BaselineFindings(layers(RandomRegister.rulebook(any)));
    Layers draft = layers(RandomRegister.rulebook(any));
    List<Impact.Meeting> whole =
        ImpactStudy.of(index, inForce, draft, new ImpactStudy.Page(null, 0, 100)).worst();
    List<Impact.Meeting> pages = new ArrayList<>();
    for (int from = 0; from < whole.size(); from += 15) {
      pages.addAll(
          ImpactStudy.of(index, inForce, draft, new ImpactStudy.Page(null, from, 15)).worst());
    }
    assertEquals(pages, whole);
    assertTrue(whole.size() > 15);
  }

  /** The worst that appears, then the most that appear, then go, then the soonest. */
  @Test
  public void theWorstStandFirstAndOfEqualOnesTheSoonest() {
    Random random = new Random(21);
    RandomMeetings any = new RandomMeetings(random);
    List<Meeting> meetings = RandomRegister.meetings(any, random, 90);
    List<RegisterIndex.Fresh> fresh = new ArrayList<>();
    Map<Long, Integer> next = new HashMap<>();
    for (int i = 0; i < meetings.size(); i++) {
      Meeting m = meetings.get(i);
      next.put((long) i, i % 5 == 0 ? -1 : 1000 - i % 4);
      fresh.add(
          new RegisterIndex.Fresh(
              i, 0, Cohort.of(m, directory), m.host(), next.get((long) i), i % 5 == 0 ? 0 : 3));
    }
    List<Impact.Meeting> worst =
        ImpactStudy.of(
                RegisterIndex.EMPTY.with(fresh, Set.of()),
                new BaselineFindings(layers(RandomRegister.rulebook(any))),
                layers(RandomRegister.rulebook(any)),
                new ImpactStudy.Page(null, 0, 1000))
            .worst();
    int bySoonest = 0;
    int byRow = 0;
    for (int i = 1; i < worst.size(); i++) {
      Impact.Meeting a = worst.get(i - 1);
      Impact.Meeting b = worst.get(i);
      int order = Integer.compare(b.worst(), a.worst());
      order = order != 0 ? order : Integer.compare(b.appeared(), a.appeared());
      order = order != 0 ? order : Integer.compare(b.gone(), a.gone());
      if (order == 0) {
        long one = next.get(a.row()) < 0 ? Long.MAX_VALUE : next.get(a.row());
        long two = next.get(b.row()) < 0 ? Long.MAX_VALUE : next.get(b.row());
        order = one == two ? Long.compare(a.row(), b.row()) : Long.compare(one, two);
        bySoonest += one == two ? 0 : 1;
        byRow += one == two ? 1 : 0;
      }
      assertTrue(order < 0, a + " stands before " + b);
    }
    assertTrue(bySoonest > 5 && byRow > 5, "enough to tell: " + bySoonest + ", " + byRow);
  }

  @Test
  public void anIndexKeepsWhatStayedAndDropsWhatLeft() {
    Random random = new Random(8);
    RandomMeetings any = new RandomMeetings(random);
    List<Meeting> meetings = RandomRegister.meetings(any, random, 20);
    RegisterIndex whole = index(meetings);
    Cohort other = Cohort.of(RandomRegister.meetings(any, random, 1).get(0), directory);
    RegisterIndex changed =
        whole.with(
            List.of(new RegisterIndex.Fresh(3, 1, other, "h3@a.example", 5, 1)), Set.of(4L, 5L));
    assertEquals(changed.entries().size(), 18);
    assertTrue(changed.entries().stream().noneMatch(e -> e.row() == 4 || e.row() == 5));
    RegisterIndex.Entry third =
        changed.entries().stream().filter(e -> e.row() == 3).findFirst().orElseThrow();
    assertEquals(changed.cohort(third), other);
    assertEquals(third.version(), 1);
    assertEquals(whole.entries().size(), 20, "the one before stays as it was");
  }

  @Test
  public void anIndexChangedInAnyOrderIsTheOneMadeAtOnce() {
    Random random = new Random(80);
    RandomMeetings any = new RandomMeetings(random);
    List<Cohort> cohorts =
        RandomRegister.meetings(any, random, 12).stream()
            .map(m -> Cohort.of(m, directory))
            .toList();
    RegisterIndex index = RegisterIndex.EMPTY;
    TreeMap<Long, RegisterIndex.Fresh> model = new TreeMap<>();
    for (int round = 0; round < 90; round++) {
      Map<Long, RegisterIndex.Fresh> put = new HashMap<>();
      Set<Long> removed = new HashSet<>();
      for (int i = 0; i < 60; i++) {
        long row = 1L + random.nextInt(3000);
        if (random.nextInt(4) == 0) {
          removed.add(row);
        } else {
          Cohort cohort = cohorts.get(random.nextInt(cohorts.size()));
          put.put(
              row,
              new RegisterIndex.Fresh(row, round, cohort, "h" + row % 7, i, random.nextInt(9)));
        }
      }
      index = index.with(put.values(), removed);
      model.keySet().removeAll(removed);
      model.putAll(put);
    }
    RegisterIndex.Builder builder = new RegisterIndex.Builder();
    model.values().forEach(builder::add);
    assertEquals(told(index), told(builder.build()));
    assertTrue(index.entries().size() > 1550, "enough to grow more than once");
    assertThrows(
        IllegalArgumentException.class,
        () -> builder.add(new RegisterIndex.Fresh(1, 0, cohorts.get(0), "h", 0, 0)));
  }

  private static List<String> told(RegisterIndex index) {
    return index.entries().stream()
        .map(
            e ->
                List.of(e.row(), e.version(), e.host(), e.next(), e.occurrences()).toString()
                    + index.cohort(e))
        .toList();
  }
}
