package app.uprightwarden.server.remedies;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.exposure.Matrix;
import app.uprightwarden.server.access.Role;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.audit.AuditRun;
import app.uprightwarden.server.audit.ContinuousAudit;
import app.uprightwarden.server.audit.FindingQueries;
import app.uprightwarden.server.judging.AssessmentView;
import app.uprightwarden.server.judging.FindingView;
import app.uprightwarden.server.judging.Judging;
import app.uprightwarden.server.live.Signals;
import app.uprightwarden.server.people.OrganisationService;
import app.uprightwarden.server.people.UnitScope;
import app.uprightwarden.server.problem.Fault;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.problem.Texts;
import app.uprightwarden.server.problem.Worded;
import app.uprightwarden.server.register.RegisterService;
import app.uprightwarden.server.register.StoredMeeting;
import app.uprightwarden.server.rulebook.RulebookService;
import app.uprightwarden.server.waivers.WaiverService;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Remedies: sketched, counted, applied, undone. */
@Service
public class RemedyService {
  private static final int MAX = 20_000;
  private static final int PAGE = 1000;

  private final RemedyJobs jobs;
  private final RemedyWork work;
  private final HostRequests requests;
  private final ContinuousAudit standing;
  private final FindingQueries reading;
  private final WaiverService waivers;
  private final RegisterService register;
  private final OrganisationService organisation;
  private final RulebookService rulebook;
  private final Signals signals;
  private final UnitScope units;

  RemedyService(
      RemedyJobs jobs,
      RemedyWork work,
      HostRequests requests,
      ContinuousAudit standing,
      FindingQueries reading,
      RegisterService register,
      OrganisationService organisation,
      RulebookService rulebook,
      Signals signals,
      UnitScope units,
      WaiverService waivers) {
    this.waivers = waivers;
    this.jobs = jobs;
    this.work = work;
    this.requests = requests;
    this.standing = standing;
    this.reading = reading;
    this.register = register;
    this.organisation = organisation;
    this.rulebook = rulebook;
    this.signals = signals;
    this.units = units;
  }

  /**
   * What to mend.
   *
   * @param occurrence the original local start of one, empty or null for the series
   * @param check only what this check found, or null for all that the cheapest remedy mends
   * @param subject of that finding
   */
  public record Target(
      String meeting,
      @Nullable String occurrence,
      @Nullable String check,
      @Nullable String subject) {
    String at() {
      return occurrence == null ? "" : occurrence;
    }
  }

  /**
   * What is to be mended: targets, or everything that one check finds now.
   *
   * @param wholeCheck a check's id, with {@code wholeSubject} for one control or guarantee of it
   */
  public record Selection(
      List<Target> targets, @Nullable String wholeCheck, @Nullable String wholeSubject) {}

  /** One side of a change: how exposed it is, who may do what, and what is found. */
  public record Side(
      AssessmentView.Scores exposure,
      Map<String, Map<String, String>> matrix,
      List<FindingView> findings) {}

  /** A change in pencil: nothing is stored. */
  public record Sketch(
      RemedyPlan plan, int friction, @Worded List<String> words, Side before, Side after) {}

  private Planner planner() {
    return new Planner(
        Judging.builder(
            organisation.organisation(),
            organisation.directory(),
            rulebook.rulebook(rulebook.inForce())),
        waivers.inForce(),
        organisation.directory());
  }

  /** Asks the hosts of some findings; each gets one message. */
  @Transactional
  public HostRequests.HostsAsked ask(List<Target> targets, String note, SignedIn by) {
    return requests.ask(targets, note, planner(), by);
  }

  /**
   * What a remedy, or another choice of controls, would do to one meeting.
   *
   * @param controls in pencil: control → value in plain form; null for the cheapest
   */
  @Transactional(readOnly = true)
  public Sketch sketch(Target target, @Nullable Map<String, Object> controls, SignedIn who) {
    StoredMeeting stored = register.get(target.meeting(), who);
    Planner planner = planner();
    Planner.Judged judged = planner.judge(stored.meeting(), target.at());
    RemedyPlan plan = plan(planner, judged, target, controls);
    ControlValues after = Planner.after(judged.values(), plan);
    return new Sketch(
        plan,
        plan.friction(),
        Planner.words(plan),
        side(planner, judged, judged.values()),
        side(planner, judged, after));
  }

  private static RemedyPlan plan(
      Planner planner,
      Planner.Judged judged,
      Target target,
      @Nullable Map<String, Object> controls) {
    if (controls != null) {
      return planner.chosen(judged, HostRequests.parsed(controls));
    }
    return target.check() == null
        ? planner.whole(judged)
        : planner.of(judged, target.check(), target.subject() == null ? "" : target.subject());
  }

  private static Side side(Planner planner, Planner.Judged judged, ControlValues values) {
    var judgement = planner.judge(judged, values);
    Matrix matrix = judgement.basis().matrix();
    return new Side(
        AssessmentView.Scores.of(judgement.basis().exposure()),
        AssessmentView.matrix(matrix),
        judgement.details().stream().map(d -> FindingView.of(d, null, values)).toList());
  }

  /**
   * What applying would do.
   *
   * @param meetings how many would be changed
   * @param controls how many control changes that is, by control
   * @param letters in how many meetings a new invitation goes out
   * @param beyondHelp in how many no control mends it
   * @param incomplete in how many something is left afterwards
   * @param asked in how many the host was asked and still has time; they are left out
   */
  public record Preview(
      int meetings,
      Map<String, Integer> controls,
      int letters,
      int beyondHelp,
      int incomplete,
      int asked) {}

  private record Planned(List<RemedyJobs.NewItem> items, Preview preview) {}

  @Transactional(readOnly = true)
  public Preview preview(Selection selection, boolean evenIfAsked, SignedIn who) {
    return planned(selection, null, evenIfAsked, who).preview();
  }

  /**
   * Applies remedies in the background.
   *
   * @param controls another choice than the cheapest, where there is one target
   * @param evenIfAsked whether also where the host was asked and still has time
   * @throws ProblemException 409 where nothing is left to do
   */
  @Transactional
  public long apply(
      Selection selection,
      @Nullable Map<String, Object> controls,
      boolean evenIfAsked,
      SignedIn by) {
    Planned planned = planned(selection, controls, evenIfAsked, by);
    if (planned.items().isEmpty()) {
      throw ProblemException.conflict(
          "nothing-to-do",
          planned.preview().asked() > 0
              ? "The hosts concerned were asked and still have time to answer. Wait, or apply even"
                  + " so."
              : "No change of controls mends this any more. Look at it again.");
    }
    long job = jobs.create(what(selection, planned.items()), by, null, planned.items());
    signals.send(Signals.Topic.REMEDIES);
    work.poke();
    return job;
  }

  private static String what(Selection selection, List<RemedyJobs.NewItem> items) {
    if (selection.wholeCheck() != null) {
      String subject = selection.wholeSubject();
      return "Everything of "
          + selection.wholeCheck()
          + (subject == null || subject.isEmpty() ? "" : " on " + subject);
    }
    String title = items.get(0).title();
    String first = Texts.cut(title, 200);
    return items.size() == 1 ? first : first + " and " + (items.size() - 1) + " more";
  }

  /** A unit's warden mends; what loosens is for the whole organisation's wardens. */
  private static void checkTightens(RemedyPlan plan) {
    List<Fault> faults = new ArrayList<>();
    plan.changes()
        .forEach(
            (id, step) -> {
              Control control = Control.byId(id);
              Object from = step.from();
              Object to = step.to();
              boolean isLooser =
                  control != null
                      && from != null
                      && (to == null || !control.within(control.parse(to), control.parse(from)));
              if (isLooser) {
                faults.add(new Fault("/controls/" + id, "is looser than what stands"));
              }
            });
    if (!faults.isEmpty()) {
      throw ProblemException.invalid(
          "A unit's warden makes meetings stricter, not looser. Nothing was changed.", faults);
    }
  }

  private Planned planned(
      Selection selection,
      @Nullable Map<String, Object> controls,
      boolean evenIfAsked,
      SignedIn who) {
    List<Target> targets = targets(selection);
    Planner planner = planner();
    Map<String, RemedyJobs.NewItem> items = new LinkedHashMap<>();
    int beyondHelp = 0;
    int incomplete = 0;
    Set<String> asked = new LinkedHashSet<>();
    for (int i = 0; i < targets.size(); i += PAGE) {
      List<Target> some = targets.subList(i, Math.min(i + PAGE, targets.size()));
      List<String> ids = some.stream().map(Target::meeting).distinct().toList();
      Map<String, StoredMeeting> stored = register.among(ids);
      Set<String> waiting = evenIfAsked ? Set.of() : requests.stillAsked(ids);
      for (Target target : some) {
        StoredMeeting meeting = stored.get(target.meeting());
        if (meeting == null || !units.hasHost(who, meeting.meeting().host())) {
          continue;
        }
        if (waiting.contains(target.meeting())) {
          asked.add(target.meeting());
          continue;
        }
        Planner.Judged judged = planner.judge(meeting.meeting(), target.at());
        RemedyPlan plan = plan(planner, judged, target, controls);
        if (controls != null && who.role() == Role.UNIT_WARDEN) {
          checkTightens(plan);
        }
        if (plan.isEmpty()) {
          beyondHelp++;
          continue;
        }
        incomplete += plan.complete() ? 0 : 1;
        items.merge(
            target.meeting() + "|" + target.at(),
            new RemedyJobs.NewItem(
                target.meeting(), meeting.meeting().title(), target.at(), plan, null),
            (a, b) ->
                new RemedyJobs.NewItem(
                    a.meeting(), a.title(), a.occurrence(), a.plan().and(b.plan()), null));
      }
    }
    List<RemedyJobs.NewItem> all = List.copyOf(items.values());
    return new Planned(all, counted(all, beyondHelp, incomplete, asked.size()));
  }

  private static Preview counted(
      List<RemedyJobs.NewItem> items, int beyondHelp, int incomplete, int asked) {
    Map<String, Integer> controls = new LinkedHashMap<>();
    int letters = 0;
    for (RemedyJobs.NewItem item : items) {
      RemedyPlan plan = item.plan();
      plan.changes().keySet().forEach(control -> controls.merge(control, 1, Integer::sum));
      boolean isNewWayIn =
          plan.newPasscode()
              || plan.newNumber()
              || plan.changes().containsKey(Control.PASSCODE.id());
      letters += isNewWayIn ? 1 : 0;
    }
    int meetings = (int) items.stream().map(RemedyJobs.NewItem::meeting).distinct().count();
    return new Preview(meetings, controls, letters, beyondHelp, incomplete, asked);
  }

  private List<Target> targets(Selection selection) {
    if (selection.wholeCheck() == null) {
      return selection.targets();
    }
    AuditRun now =
        standing
            .now()
            .orElseThrow(() -> ProblemException.notFound("Nothing has been looked at yet."));
    List<Target> targets = new ArrayList<>();
    FindingQueries.FindingFilter filter =
        new FindingQueries.FindingFilter(
            null, selection.wholeCheck(), selection.wholeSubject(), null, null, false);
    for (int page = 0; targets.size() < MAX; page++) {
      List<FindingQueries.Listed> items = reading.findings(now.id(), filter, page, PAGE).items();
      for (FindingQueries.Listed listed : items) {
        FindingView finding = listed.finding();
        String subject = finding.control() != null ? finding.control() : finding.guarantee();
        targets.add(new Target(listed.meeting(), finding.occurrence(), finding.check(), subject));
      }
      if (items.size() < PAGE) {
        break;
      }
    }
    return targets;
  }

  /**
   * Puts back what a job changed, where nobody has changed it since.
   *
   * @throws ProblemException 409 where it was undone before, or nothing of it was done
   */
  @Transactional
  public long undo(long id, SignedIn by) {
    RemedyJobs.RemedyJob job = jobs.job(id);
    if (job.undoneBy() != null) {
      throw ProblemException.conflict("undone", "This remedy was undone before.");
    }
    List<RemedyJobs.NewItem> items =
        jobs.doneItems(id).stream()
            .map(
                work -> {
                  Map<String, RemedyPlan.PlanStep> back = new LinkedHashMap<>();
                  RemedyJobs.RemedyItem item = work.item();
                  item.plan()
                      .changes()
                      .forEach(
                          (c, step) ->
                              back.put(c, new RemedyPlan.PlanStep(step.to(), step.from())));
                  boolean isOtherWayIn = item.plan().newPasscode() || item.plan().newNumber();
                  return new RemedyJobs.NewItem(
                      item.meeting(),
                      item.title(),
                      item.occurrence(),
                      new RemedyPlan(back, false, false, true),
                      isOtherWayIn ? work.wasVersion() : null);
                })
            .toList();
    if (items.isEmpty()) {
      throw ProblemException.conflict("nothing-to-do", "Nothing of this remedy has been done.");
    }
    long undo = jobs.create("Undone: " + job.what(), by, id, items);
    signals.send(Signals.Topic.REMEDIES);
    work.poke();
    return undo;
  }

  /** Tries again what was refused or given up. */
  @Transactional
  public void retry(long id) {
    jobs.job(id);
    if (jobs.retry(id) == 0) {
      throw ProblemException.conflict("nothing-to-do", "There is nothing to try again.");
    }
    signals.send(Signals.Topic.REMEDIES);
    work.poke();
  }

  /** A remedy that was done, as an outside auditor is told of it. */
  public record Done(
      String meeting, String title, String occurrence, RemedyPlan plan, @Nullable Instant at) {}

  @Transactional(readOnly = true)
  public List<Done> doneSince(Instant since) {
    return jobs.doneSince(since, MAX).stream()
        .map(i -> new Done(i.meeting(), i.title(), i.occurrence(), i.plan(), i.doneAt()))
        .toList();
  }
}
