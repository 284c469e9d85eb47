package app.uprightwarden.server.demo;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.server.access.Role;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.audit.AuditRun;
import app.uprightwarden.server.audit.AuditSchedules;
import app.uprightwarden.server.audit.AuditScope;
import app.uprightwarden.server.audit.AuditService;
import app.uprightwarden.server.audit.ContinuousAudit;
import app.uprightwarden.server.audit.FindingQueries;
import app.uprightwarden.server.judging.FindingView;
import app.uprightwarden.server.register.RegisterService;
import app.uprightwarden.server.register.StoredMeeting;
import app.uprightwarden.server.remedies.RemedyService;
import app.uprightwarden.server.rulebook.RulebookService;
import app.uprightwarden.server.waivers.WaiverService;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * The demo's last eight weeks: a weekly audit, what was mended between them, a meeting that was
 * clean and drifted, waivers that lapsed and that are about to, and hosts who have not answered.
 */
@Component
class DemoHistory {
  private static final int WEEKS = 8;
  private static final SignedIn WARDEN =
      new SignedIn("m.sachs@" + DemoPeople.DOMAIN, "Miriam Sachs", Role.WARDEN);
  private static final SignedIn SECOND =
      new SignedIn("i.solheim@" + DemoPeople.DOMAIN, "Ingrid Solheim", Role.WARDEN);

  private final DemoClock time;
  private final AuditService audits;
  private final AuditSchedules schedules;
  private final FindingQueries reading;
  private final ContinuousAudit standing;
  private final RegisterService register;
  private final RulebookService rulebook;
  private final WaiverService waivers;
  private final RemedyService remedies;
  private final TransactionTemplate transaction;
  private final Clock clock;

  DemoHistory(
      DemoClock time,
      AuditService audits,
      AuditSchedules schedules,
      FindingQueries reading,
      ContinuousAudit standing,
      RegisterService register,
      RulebookService rulebook,
      WaiverService waivers,
      RemedyService remedies,
      TransactionTemplate transaction,
      Clock clock) {
    this.time = time;
    this.audits = audits;
    this.schedules = schedules;
    this.reading = reading;
    this.standing = standing;
    this.register = register;
    this.rulebook = rulebook;
    this.waivers = waivers;
    this.remedies = remedies;
    this.transaction = transaction;
    this.clock = clock;
  }

  /** A meeting that somebody loosens and somebody mends again. */
  private record Lapse(String meeting, String control, Object loose) {}

  /** In the order in which they are mended, some each week. */
  private static final List<Lapse> LAPSES =
      List.of(
          new Lapse("m-0027", "waiting-room", "off"),
          new Lapse("m-0029", "screen-share", "everyone"),
          new Lapse("m-0030", "passcode-in-link", "embedded"),
          new Lapse("m-0032", "lobby-bypass", "anyone"),
          new Lapse("m-0034", "waiting-room", "off"),
          new Lapse("m-0035", "recording", "everyone"),
          new Lapse("m-0036", "lobby-bypass", "anyone"),
          new Lapse("m-0041", "screen-share", "everyone"),
          new Lapse("m-0042", "waiting-room", "off"),
          new Lapse("m-0045", "early-entry", "any-time"),
          new Lapse("m-0046", "passcode", "none"),
          new Lapse("m-0047", "recording", "everyone"),
          new Lapse("m-0051", "waiting-room", "off"),
          new Lapse("m-0052", "lobby-bypass", "anyone"),
          new Lapse("m-0054", "screen-share", "everyone"),
          new Lapse("m-0057", "passcode-in-link", "embedded"),
          new Lapse("m-0059", "waiting-room", "off"),
          new Lapse("m-0060", "recording", "everyone"),
          new Lapse("m-0064", "early-entry", "any-time"),
          new Lapse("m-0065", "lobby-bypass", "anyone"),
          new Lapse("m-0066", "waiting-room", "off"));

  /** Plays it; the clock is back where it belongs afterwards. */
  void play(Runnable loadMeetings) {
    schedules.noted(rulebook.inForce().number());
    try {
      weeks(loadMeetings);
      at(Duration.ofDays(3));
      drift();
      standing.lookNow();
      at(Duration.ofDays(2).plusHours(3));
      askHosts();
      waiveForNow();
    } finally {
      at(Duration.ZERO);
    }
    schedules.create(
        new AuditSchedules.Wanted(
            "Weekly audit",
            List.of("MO"),
            "06:30",
            "Europe/Dublin",
            AuditScope.ALL,
            90,
            List.of(WARDEN.email(), "o.treharne@" + DemoPeople.DOMAIN),
            true,
            "a4"),
        WARDEN);
    standing.lookNow();
  }

  private void at(Duration ago) {
    time.goBack(ago);
  }

  private void weeks(Runnable loadMeetings) {
    at(Duration.ofDays(7 * WEEKS + 1));
    loadMeetings.run();
    Map<String, @Nullable Object> before = new HashMap<>();
    AuditRun last = null;
    for (int step = 0; step < WEEKS; step++) {
      int week = WEEKS - step;
      for (int i = 0; i < LAPSES.size(); i++) {
        if (begins(i) == step) {
          Lapse lapse = LAPSES.get(i);
          before.put(lapse.meeting(), set(lapse.meeting(), lapse.control(), lapse.loose(), null));
        }
      }
      at(Duration.ofDays(7L * week).plusHours(2));
      last = audits.runNow(clock.instant().plus(Duration.ofDays(90)), WARDEN.email(), last);
      if (step == 3) {
        waiveUntil("m-0003", Duration.ofDays(31), "The quay's engineers join from the boat.");
      }
      at(Duration.ofDays(7L * week - 2));
      for (int i = 0; i < LAPSES.size(); i++) {
        if (mends(i) == step) {
          Lapse lapse = LAPSES.get(i);
          set(lapse.meeting(), lapse.control(), before.get(lapse.meeting()), WARDEN);
        }
      }
    }
  }

  /** After which audit a lapse is mended: three each week. */
  private static int mends(int lapse) {
    return lapse / 3;
  }

  /** Before which audit it begins: up to two weeks earlier, most of them at the very first. */
  private static int begins(int lapse) {
    return lapse < 12 && lapse % 2 == 0 ? 0 : Math.max(0, mends(lapse) - lapse % 3);
  }

  /** Sets a control as the host, or as somebody else; gives what it was. */
  private @Nullable Object set(
      String id, String name, @Nullable Object plain, @Nullable SignedIn by) {
    StoredMeeting stored = register.find(id).orElseThrow();
    Control control = Control.byId(name);
    if (control == null) {
      throw new IllegalStateException("no control " + name);
    }
    SignedIn who = by == null ? new SignedIn(stored.meeting().host(), "Host", Role.HOST) : by;
    var was = stored.meeting().controls().get(control);
    var values = new HashMap<Control, app.uprightwarden.core.control.@Nullable Value>();
    values.put(control, plain == null ? null : control.parse(plain));
    transaction.executeWithoutResult(
        status -> register.changeControls(id, stored.version(), values, who));
    return was == null ? null : control.plain(was);
  }

  private void drift() {
    set("m-0039", "waiting-room", "off", null);
    set("m-0040", "passcode-in-link", "embedded", null);
  }

  private void waiveUntil(String meeting, Duration from, String reason) {
    worst(meeting)
        .ifPresent(
            finding ->
                waivers.grant(
                    waiver(meeting, finding, reason, clock.instant().plus(from)), SECOND));
  }

  private void waiveForNow() {
    waiveUntil(
        "m-0004",
        Duration.ofDays(4),
        "The old handsets cannot say a passcode; new ones are fitted this week.");
  }

  private java.util.Optional<FindingView> worst(String meeting) {
    long audit = reading.newest(1).get(0).id();
    return reading
        .findings(
            audit, new FindingQueries.FindingFilter(meeting, null, null, null, null, false), 0, 1)
        .items()
        .stream()
        .map(FindingQueries.Listed::finding)
        .findFirst();
  }

  private static WaiverService.Wanted waiver(
      String meeting, FindingView finding, String reason, Instant until) {
    String subject = finding.control() != null ? finding.control() : finding.guarantee();
    return new WaiverService.Wanted(
        "finding",
        meeting,
        finding.occurrence(),
        finding.check(),
        subject,
        null,
        reason,
        until,
        null);
  }

  /** Two hosts are asked, and neither has answered. */
  private void askHosts() {
    long audit = standing.now().orElseThrow().id();
    Map<String, List<RemedyService.Target>> byHost = new LinkedHashMap<>();
    List<FindingQueries.Listed> serious =
        reading
            .findings(
                audit, new FindingQueries.FindingFilter(null, null, null, 4, null, false), 0, 100)
            .items();
    for (FindingQueries.Listed listed : serious) {
      String host = register.find(listed.meeting()).orElseThrow().meeting().host();
      FindingView f = listed.finding();
      byHost
          .computeIfAbsent(host, h -> new ArrayList<>())
          .add(
              new RemedyService.Target(
                  listed.meeting(),
                  f.occurrence(),
                  f.check(),
                  f.control() != null ? f.control() : f.guarantee()));
    }
    byHost.remove("m.okafor@" + DemoPeople.DOMAIN); // signs in, and would find it answered at once
    remedies.ask(
        byHost.values().stream().skip(1).limit(2).flatMap(of -> of.stream().limit(2)).toList(),
        "Before the winter hearings begin, please.",
        WARDEN);
  }
}
