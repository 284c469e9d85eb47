package app.uprightwarden.server.remedies;

import app.uprightwarden.core.calendar.Occurrences;
import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.meeting.Occurrence;
import app.uprightwarden.core.people.Directory;
import app.uprightwarden.server.access.Role;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.audit.ContinuousAudit;
import app.uprightwarden.server.audit.FindingQueries;
import app.uprightwarden.server.jobs.RecurringJob;
import app.uprightwarden.server.judging.FindingView;
import app.uprightwarden.server.live.Signals;
import app.uprightwarden.server.outbox.OutboxService;
import app.uprightwarden.server.people.UnitScope;
import app.uprightwarden.server.problem.Fault;
import app.uprightwarden.server.problem.Languages;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.register.RegisterService;
import app.uprightwarden.server.register.StoredMeeting;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Asks hosts to mend what was found in their meetings, and hears what they say. */
@Service
public class HostRequests {
  private static final int MAX_REMINDERS = 3;

  private final RequestRows rows;
  private final RequestLetters letters;
  private final AskedSentences sentences;
  private final ContinuousAudit standing;
  private final FindingQueries reading;
  private final RegisterService register;
  private final OutboxService outbox;
  private final Signals signals;
  private final UnitScope units;
  private final Clock clock;

  HostRequests(
      RequestRows rows,
      RequestLetters letters,
      AskedSentences sentences,
      ContinuousAudit standing,
      FindingQueries reading,
      RegisterService register,
      OutboxService outbox,
      Signals signals,
      UnitScope units,
      Clock clock) {
    this.rows = rows;
    this.letters = letters;
    this.sentences = sentences;
    this.standing = standing;
    this.reading = reading;
    this.register = register;
    this.outbox = outbox;
    this.signals = signals;
    this.units = units;
    this.clock = clock;
  }

  /** What came of asking: how many hosts were written to, about how many findings. */
  public record HostsAsked(int hosts, int findings, int known) {}

  /**
   * Asks the hosts of some findings; each host gets one message, however much is found.
   *
   * @param note from whoever asks, or empty
   */
  @Transactional
  HostsAsked ask(List<RemedyService.Target> targets, String note, Planner planner, SignedIn by) {
    long audit =
        standing
            .now()
            .orElseThrow(() -> ProblemException.notFound("Nothing has been looked at yet."))
            .id();
    Map<String, List<RequestRows.NewItem>> byHost = new LinkedHashMap<>();
    int known = 0;
    for (RemedyService.Target target : targets) {
      StoredMeeting stored = register.find(target.meeting()).orElse(null);
      if (stored == null || !units.hasHost(by, stored.meeting().host())) {
        continue;
      }
      // their host reads it, and not who asks
      for (FindingQueries.Listed listed : Languages.inEnglish(() -> open(audit, target))) {
        FindingView finding = listed.finding();
        String subject = subject(finding);
        String at = finding.occurrence() == null ? "" : finding.occurrence();
        if (rows.isOpen(target.meeting(), at, finding.check(), subject)) {
          known++;
          continue;
        }
        Planner.Judged judged = planner.judge(stored.meeting(), at);
        byHost
            .computeIfAbsent(Directory.fold(stored.meeting().host()), h -> new ArrayList<>())
            .add(
                new RequestRows.NewItem(
                    target.meeting(),
                    stored.meeting().title(),
                    at,
                    finding.check(),
                    subject,
                    finding.severity(),
                    finding.text(),
                    planner.of(judged, finding.check(), subject)));
      }
    }
    int findings = 0;
    for (Map.Entry<String, List<RequestRows.NewItem>> host : byHost.entrySet()) {
      findings += host.getValue().size();
      write(host.getKey(), host.getValue(), note, by);
    }
    signals.send(Signals.Topic.REQUESTS);
    return new HostsAsked(byHost.size(), findings, known);
  }

  private void write(String host, List<RequestRows.NewItem> items, String note, SignedIn by) {
    RequestRows.AskingSettings settings = rows.settings();
    Instant now = clock.instant();
    Instant applyAfter = sooner(now, now.plus(Duration.ofDays(settings.applyAfterDays())), items);
    long id =
        rows.create(
            host,
            by.email(),
            now,
            now.plus(Duration.ofDays(settings.remindDays())),
            applyAfter,
            note,
            items);
    outbox.write(
        List.of(letters.ask(host, id, sentences.to(host, items), note, applyAfter, by.name())),
        by.email());
  }

  /** The host has time until the days are over, or the first of the meetings begins. */
  private Instant sooner(Instant now, Instant until, List<RequestRows.NewItem> items) {
    Instant sooner = until;
    for (StoredMeeting stored :
        register.among(items.stream().map(RequestRows.NewItem::meeting).toList()).values()) {
      for (Occurrence next : Occurrences.between(stored.meeting(), now, sooner)) {
        if (next.start().isAfter(now) && next.start().isBefore(sooner)) {
          sooner = next.start();
        }
      }
    }
    return sooner;
  }

  private List<FindingQueries.Listed> open(long audit, RemedyService.Target target) {
    FindingQueries.FindingFilter filter =
        new FindingQueries.FindingFilter(
            target.meeting(), target.check(), target.subject(), null, null, false);
    return reading.findings(audit, filter, 0, 1000).items().stream()
        .filter(
            l ->
                target.occurrence() == null
                    || target.at().equals(Objects.requireNonNullElse(l.finding().occurrence(), "")))
        .toList();
  }

  static String subject(FindingView finding) {
    if (finding.control() != null) {
      return finding.control();
    }
    return finding.guarantee() == null ? "" : finding.guarantee();
  }

  /** Which of these meetings have a host who was asked and still has time. */
  Set<String> stillAsked(List<String> meetings) {
    return rows.stillAsked(meetings, clock.instant());
  }

  /** What hosts have been asked and is not settled, by host; or only one host's. */
  @Transactional(readOnly = true)
  public List<RequestRows.HostRequest> openOf(@Nullable String host) {
    return sentences.worded(rows.open(host));
  }

  /** The same for somebody who looks after the organisation, or a unit of it. */
  @Transactional(readOnly = true)
  public List<RequestRows.HostRequest> openFor(SignedIn who) {
    return openFor(who, Integer.MAX_VALUE);
  }

  /** The first of them. */
  @Transactional(readOnly = true)
  public List<RequestRows.HostRequest> openFor(SignedIn who, int most) {
    return sentences.worded(
        rows.open(null).stream()
            .filter(each -> units.hasHost(who, each.host()))
            .limit(most)
            .toList());
  }

  /**
   * What a host says to one finding.
   *
   * @param answer {@code agree}, {@code propose} another change, or {@code reason} why it is so
   * @param controls what is proposed instead: control → value in plain form
   */
  public record Answer(
      String answer, @Nullable Map<String, Object> controls, @Nullable String reason) {}

  /** Notes an answer; whoever asked is told of anything but plain agreement. */
  @Transactional
  RequestRows.AskedItem answer(long id, Answer answer, SignedIn by) {
    RequestRows.AskedItem item = rows.locked(id);
    StoredMeeting stored = register.get(item.meeting(), by);
    if (by.role() != Role.WARDEN && !RegisterService.hosts(stored.meeting(), by)) {
      throw ProblemException.forbidden("not-your-meeting", "Hosts answer for their own meetings.");
    }
    if (!item.state().equals("open")) {
      throw ProblemException.conflict(
          "answered", "This was answered or mended meanwhile. Look at it again.");
    }
    String reason = answer.reason() == null ? "" : answer.reason().strip();
    String state =
        switch (answer.answer()) {
          case "agree" -> "agreed";
          case "propose" -> "proposed";
          case "reason" -> "reasoned";
          default ->
              throw ProblemException.invalid(
                  "The answer has a fault.",
                  List.of(new Fault("/answer", "is one of agree, propose and reason")));
        };
    Map<String, Object> controls = answer.controls() == null ? Map.of() : answer.controls();
    if (state.equals("proposed") && controls.isEmpty()) {
      throw ProblemException.invalid(
          "The answer has a fault.",
          List.of(new Fault("/controls", "say what you would change instead")));
    }
    if (state.equals("reasoned") && reason.isEmpty()) {
      throw ProblemException.invalid(
          "The answer has a fault.", List.of(new Fault("/reason", "say why it is so")));
    }
    parsed(controls);
    rows.answered(id, state, reason, controls.isEmpty() ? null : controls, by.email());
    if (!state.equals("agreed")) {
      RequestRows.AskedItem said = sentences.to(rows.askedBy(id), item);
      outbox.write(List.of(letters.answered(said, state, reason, controls, by.name())), by.email());
    }
    signals.send(Signals.Topic.REQUESTS);
    return sentences.worded(rows.get(id));
  }

  /**
   * Closes an answered item: what was proposed is applied, or the reason is taken or turned down.
   */
  @Transactional
  RequestRows.AskedItem settle(long id, SignedIn by) {
    RequestRows.AskedItem item = rows.locked(id);
    if (by.role() == Role.UNIT_WARDEN) {
      register.get(item.meeting(), by); // theirs, or there is none for them
    }
    rows.settled(id);
    signals.send(Signals.Topic.REQUESTS);
    return item;
  }

  /** Control values as they are given. */
  static Map<Control, Value> parsed(Map<String, Object> controls) {
    Map<Control, Value> parsed = new EnumMap<>(Control.class);
    List<Fault> faults = new ArrayList<>();
    controls.forEach(
        (id, plain) -> {
          Control control = Control.byId(id);
          if (control == null) {
            faults.add(new Fault("/controls/" + id, "there is no such control"));
            return;
          }
          try {
            parsed.put(control, control.parse(plain));
          } catch (IllegalArgumentException e) {
            faults.add(new Fault("/controls/" + id, String.valueOf(e.getMessage())));
          }
        });
    if (!faults.isEmpty()) {
      throw ProblemException.invalid("The controls have faults. Nothing was done.", faults);
    }
    return parsed;
  }

  /** Reminds hosts who have not answered, and closes what has been mended since. */
  @Transactional
  public void passTime() {
    if (rows.closeMended() > 0) {
      signals.send(Signals.Topic.REQUESTS);
    }
    Instant now = clock.instant();
    for (RequestRows.HostRequest due : rows.toRemind(now, MAX_REMINDERS)) {
      rows.reminded(due.id(), now.plus(Duration.ofDays(rows.settings().remindDays())));
      outbox.write(List.of(letters.remind(sentences.to(due.host(), due))), due.askedBy());
    }
  }

  /** Done again and again by one of the servers. */
  @Configuration(proxyBeanMethods = false)
  static class Recurring {
    @Bean
    RecurringJob requestsPassing(HostRequests requests) {
      return new RecurringJob(
          "requests", "Reminders to hosts", Duration.ofSeconds(3), requests::passTime);
    }
  }
}
