package app.uprightwarden.server.services;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.people.Directory;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.jobs.Jobs;
import app.uprightwarden.server.ledger.Ledger;
import app.uprightwarden.server.persistence.DatabaseClock;
import app.uprightwarden.server.problem.Fault;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.problem.Texts;
import app.uprightwarden.server.problem.Worded;
import app.uprightwarden.server.register.HeldMeeting;
import app.uprightwarden.server.register.HeldReadings;
import app.uprightwarden.server.register.RegisterService;
import app.uprightwarden.server.register.StoredMeeting;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/**
 * Who asked to take part in a meeting: the service has the form, and is told who was approved or
 * declined. Who is approved is invited there, and the door lets them in as it lets in anybody
 * invited by name.
 */
@Service
class Registrations {
  private static final int AT_ONCE = 50;

  private final RegistrationRepository rows;
  private final RegisterService register;
  private final HeldReadings held;
  private final Jobs jobs;
  private final Ledger ledger;
  private final DatabaseClock clock;

  Registrations(
      RegistrationRepository rows,
      RegisterService register,
      HeldReadings held,
      Jobs jobs,
      Ledger ledger,
      DatabaseClock clock) {
    this.rows = rows;
    this.register = register;
    this.held = held;
    this.jobs = jobs;
    this.ledger = ledger;
    this.clock = clock;
  }

  /**
   * Somebody who asked.
   *
   * @param state {@code asked}, {@code approved} or {@code declined}, as the service says
   * @param deciding what was decided and has still to be told to the service, or null
   * @param why why the service has not taken what was decided
   */
  record RegistrationLine(
      String address,
      String name,
      @Nullable Instant askedAt,
      String state,
      @Nullable String deciding,
      @Nullable String decidedBy,
      @Nullable Instant decidedAt,
      @Worded @Nullable String why) {}

  /**
   * Those who asked, the first first.
   *
   * @param how the meeting's {@code registration}
   * @param mayDecide whether decisions are told to the service
   */
  record RegistrationList(
      String how, @Nullable String service, boolean mayDecide, List<RegistrationLine> people) {}

  @Transactional(readOnly = true)
  public RegistrationList of(String id, SignedIn who) {
    return list(register.get(id, who));
  }

  private RegistrationList list(StoredMeeting stored) {
    HeldMeeting of = stored.service();
    return new RegistrationList(
        String.valueOf(
            Control.REGISTRATION.plain(
                stored.meeting().controls().effective(Control.REGISTRATION))),
        of == null ? null : of.service().name(),
        of != null && !of.service().level().equals("read"),
        rows.of(stored.meeting().id()).stream().map(row -> line(row, of)).toList());
  }

  private static RegistrationLine line(RegistrationEntity row, @Nullable HeldMeeting of) {
    // a service that is linked no more is told nothing: what was decided for it does not wait
    boolean isTold = of != null && of.service().id() == row.service;
    return new RegistrationLine(
        row.address,
        row.name,
        row.askedAt,
        row.state,
        isTold ? row.wanted : null,
        row.decidedBy,
        row.decidedAt,
        row.why);
  }

  /**
   * Approves or declines some, or all who have no answer.
   *
   * @param addresses null for all who have none
   * @throws ProblemException 409 where no service is told; 400 where somebody did not ask
   */
  @Transactional
  public RegistrationList decide(
      String id, @Nullable List<String> addresses, boolean approved, SignedIn by) {
    StoredMeeting stored = register.get(id, by);
    HeldMeeting of = stored.service();
    if (of == null || of.service().level().equals("read")) {
      throw ProblemException.conflict(
          "read-only",
          "Who may take part is decided in the conference service: nothing is written there.");
    }
    List<RegistrationEntity> all = rows.locked(List.of(id));
    List<RegistrationEntity> some = addresses == null ? unanswered(all) : named(all, addresses);
    String state = approved ? "approved" : "declined";
    some.removeIf(row -> state.equals(row.wanted) || row.wanted == null && state.equals(row.state));
    Instant now = clock.instant();
    for (RegistrationEntity row : some) {
      row.wanted = state;
      row.command = UUID.randomUUID().toString();
      row.decidedBy = by.email();
      row.decidedAt = now;
      row.why = null;
    }
    rows.update(some);
    if (!some.isEmpty()) {
      ledger.changed(
          "meeting",
          id,
          stored.meeting().title(),
          null,
          () -> Map.of(state, some.stream().map(row -> row.address).toList()),
          by.email());
      jobs.give(Services.JOB, of.service().id());
    }
    return list(stored);
  }

  private static List<RegistrationEntity> unanswered(List<RegistrationEntity> all) {
    return new ArrayList<>(
        all.stream().filter(row -> row.state.equals("asked") && row.wanted == null).toList());
  }

  private static List<RegistrationEntity> named(
      List<RegistrationEntity> all, List<String> addresses) {
    Map<String, RegistrationEntity> by = new HashMap<>();
    all.forEach(row -> by.put(row.address, row));
    List<Fault> faults = new ArrayList<>();
    List<RegistrationEntity> named = new ArrayList<>();
    for (int i = 0; i < addresses.size(); i++) {
      RegistrationEntity row = by.get(Directory.fold(addresses.get(i)));
      if (row == null) {
        faults.add(new Fault("/addresses/" + i, "has not asked to take part"));
      } else {
        named.add(row);
      }
    }
    if (!faults.isEmpty()) {
      throw ProblemException.invalid("Nothing was decided.", faults);
    }
    return named;
  }

  /** Takes in what a service tells; a decision that is not told yet stands. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void read(long service, List<ConferenceService.Told> told) {
    Map<String, List<ConferenceService.Registration>> by = new HashMap<>();
    told.forEach(
        each -> {
          if (each.registrations() != null && each.meeting() != null) {
            by.put(each.id(), each.registrations());
          }
        });
    if (by.isEmpty()) {
      return;
    }
    Map<String, String> known = held.known(service, by.keySet());
    Map<String, Map<String, RegistrationEntity>> there = new HashMap<>();
    if (!known.isEmpty()) {
      rows.locked(known.values())
          .forEach(
              row ->
                  there.computeIfAbsent(row.meeting, m -> new HashMap<>()).put(row.address, row));
    }
    List<RegistrationEntity> fresh = new ArrayList<>();
    List<RegistrationEntity> changed = new ArrayList<>();
    known.forEach(
        (id, meeting) -> {
          Map<String, RegistrationEntity> were = there.getOrDefault(meeting, Map.of());
          Set<String> gone = new HashSet<>(were.keySet());
          for (ConferenceService.Registration each : Objects.requireNonNull(by.get(id))) {
            String address = Directory.fold(each.address());
            RegistrationEntity row = were.get(address);
            if (row != null) {
              gone.remove(address);
              boolean isElsewhere = row.service != service || !row.there.equals(id);
              if (isElsewhere || !row.state.equals(each.state())) {
                row.service = service; // the meeting may be held by another one by now
                row.there = id;
                row.state = each.state();
                changed.add(row);
              }
            } else if (fresh.stream().noneMatch(f -> isSame(f, meeting, address))) {
              fresh.add(row(service, id, meeting, address, each));
            }
          }
          if (!gone.isEmpty()) {
            rows.forget(meeting, gone);
          }
        });
    rows.insert(fresh);
    rows.update(changed);
  }

  private static boolean isSame(RegistrationEntity row, String meeting, String address) {
    return row.meeting.equals(meeting) && row.address.equals(address);
  }

  private static RegistrationEntity row(
      long service,
      String there,
      String meeting,
      String address,
      ConferenceService.Registration of) {
    RegistrationEntity row = new RegistrationEntity();
    row.meeting = meeting;
    row.service = service;
    row.there = there;
    row.address = address;
    row.name = Texts.cut(of.name(), 200);
    row.askedAt = of.askedAt();
    row.state = of.state();
    return row;
  }

  /** Tells a service what was decided. @return whether there was something to tell */
  boolean tell(ServiceLinks.Link link, Runnable pace) throws ServiceTrouble {
    List<RegistrationEntity> some = rows.toTell(link.id(), AT_ONCE);
    for (RegistrationEntity row : some) {
      String command = Objects.requireNonNull(row.command);
      String wanted = Objects.requireNonNull(row.wanted);
      pace.run();
      try {
        link.service()
            .decide(
                row.there,
                command,
                String.valueOf(row.decidedBy),
                row.address,
                wanted.equals("approved"));
        rows.told(row.id, command, wanted, null);
      } catch (ServiceTrouble e) {
        switch (e.kind()) {
          case REFUSED, UNKNOWN -> rows.told(row.id, command, row.state, Texts.cut(e.words(), 500));
          default -> throw e;
        }
      }
    }
    return !some.isEmpty();
  }
}
