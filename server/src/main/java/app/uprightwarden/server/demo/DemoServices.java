package app.uprightwarden.server.demo;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.server.access.Role;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.jobs.JobKind;
import app.uprightwarden.server.jobs.Jobs;
import app.uprightwarden.server.problem.InOrder;
import app.uprightwarden.server.register.HeldMeeting;
import app.uprightwarden.server.register.HeldMeetings;
import app.uprightwarden.server.register.RegisterService;
import app.uprightwarden.server.register.ServiceMeans;
import app.uprightwarden.server.register.StoredMeeting;
import app.uprightwarden.server.services.ConferenceService;
import app.uprightwarden.server.services.Services;
import app.uprightwarden.server.services.StandInPages;
import java.time.Duration;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Links the two stand-ins for conference services, spreads the demo's meetings over them, and has
 * three settings loosened there by their hosts. Done once, in steps that can be stopped anywhere.
 */
@Component
class DemoServices {
  private static final String JOB = "demo-services";
  private static final List<String> NAMES = List.of("Redshank", "Curlew");

  /** Its new meetings are made in the poor one; everybody else's in the other. */
  private static final String POOR_UNIT = "community";

  private static final int MAX_MEETINGS = 200;
  private static final Duration STEP = Duration.ofSeconds(1);
  private static final SignedIn WARDEN =
      new SignedIn("m.sachs@saltmarsh.example", "Mara Sachs", Role.WARDEN);

  /** What is loosened behind everybody's back: the control, from what, and to what. */
  private record Drift(Control control, String from, String to) {}

  private static final List<Drift> DRIFTS =
      List.of(
          new Drift(Control.WAITING_ROOM, "on", "off"),
          new Drift(Control.SCREEN_SHARE, "presenters", "everyone"),
          new Drift(Control.RECORDING, "hosts", "everyone"));

  private final Services services;

  /** For this one has to be approved. */
  private static final String OPEN_DAY = "Open day rehearsal";

  /** Who asks to take part. */
  private static final Map<String, String> ASKING =
      InOrder.map(
          "saoirse.quill@harbourwatch.example", "Saoirse Quill",
          "b.lindqvist@tidemark.example", "Birgit Lindqvist",
          "residents@quayside.example", "Quayside residents");

  private final RegisterService register;
  private final HeldMeetings held;
  private final StandInPages pages;
  private final Jobs jobs;
  private final TransactionTemplate transaction;
  private final Map<String, String> addresses;
  private final String key;

  DemoServices(
      Services services,
      RegisterService register,
      HeldMeetings held,
      StandInPages pages,
      Jobs jobs,
      TransactionTemplate transaction,
      @Value("${warden.standins.redshank:}") String redshank,
      @Value("${warden.standins.curlew:}") String curlew,
      @Value("${warden.standins.key:}") String key) {
    this.services = services;
    this.register = register;
    this.held = held;
    this.pages = pages;
    this.jobs = jobs;
    this.transaction = transaction;
    this.addresses = new LinkedHashMap<>();
    addresses.put("Redshank", redshank);
    addresses.put("Curlew", curlew);
    this.key = key;
  }

  /** The work of it. */
  @Configuration
  static class Work {
    @Bean
    JobKind demoOfServices(DemoServices demo) {
      return new JobKind(
          JOB,
          "Linking the stand-ins of the demo",
          JobKind.Lane.HOUSE,
          new JobKind.Retries(20, STEP, Duration.ofMinutes(1)),
          item -> demo.step());
    }
  }

  @EventListener(ApplicationReadyEvent.class)
  void begin() {
    boolean isWanted = addresses.values().stream().noneMatch(String::isEmpty);
    if (isWanted && !services.wereEver() && register.count() > 0) {
      transaction.executeWithoutResult(status -> jobs.give(JOB, 1));
    }
  }

  private void step() {
    if (!services.wereEver()) {
      link();
    }
    List<StoredMeeting> all = register.after(0, MAX_MEETINGS);
    boolean isDone =
        all.stream()
            .map(StoredMeeting::service)
            .filter(Objects::nonNull)
            .allMatch(each -> each.writing() == HeldMeeting.Writing.CONFIRMED);
    if (!isDone) {
      throw JobKind.Later.goingOn(STEP);
    }
    Set<String> loosened = new HashSet<>();
    askTooMuch(all, loosened);
    DRIFTS.forEach(drift -> loosen(all, drift, loosened));
    askToTakePart(all, loosened);
  }

  /** In one meeting people have to be approved, and some have asked. */
  private void askToTakePart(List<StoredMeeting> all, Set<String> touched) {
    all.stream()
        .filter(stored -> !touched.contains(stored.meeting().id()))
        .filter(stored -> stored.meeting().controls().is(Control.REGISTRATION, "approved"))
        .filter(
            stored -> {
              HeldMeeting of = stored.service();
              return of != null && of.service().name().equals("Redshank");
            })
        .findFirst()
        .ifPresent(
            stored -> {
              String there = Objects.requireNonNull(stored.service()).there();
              String redshank = address("Redshank");
              ASKING.forEach((mail, name) -> pages.register(redshank, there, name, mail));
            });
  }

  private void link() {
    Map<String, ConferenceService.About> abouts = new LinkedHashMap<>();
    for (String name : NAMES) {
      abouts.put(name, services.attempt(address(name), key));
    }
    transaction.executeWithoutResult(
        status -> {
          List<ServiceMeans.Named> linked = new ArrayList<>();
          for (String name : NAMES) {
            long id =
                services.link(
                    name,
                    address(name),
                    key,
                    Objects.requireNonNull(abouts.get(name)),
                    WARDEN.email());
            List<String> units = name.equals("Redshank") ? List.of("") : List.of(POOR_UNIT);
            services.set(id, new Services.Settings(name, "write", false, units, null), WARDEN);
            linked.add(services.fresh(id));
          }
          spread(linked);
        });
  }

  /** Every sixth meeting stays where it is; single dates with settings go to the richer service. */
  private void spread(List<ServiceMeans.Named> linked) {
    int i = 0;
    for (StoredMeeting each : register.after(0, MAX_MEETINGS)) {
      StoredMeeting stored = each;
      i++;
      if (i % 6 != 0) {
        boolean isPoor = i % 4 == 1 && stored.meeting().changes().isEmpty();
        boolean isOpenDay = stored.meeting().title().equals(OPEN_DAY);
        if (isOpenDay && !isPoor) {
          stored = approving(stored);
        }
        held.hold(stored, linked.get(isPoor ? 1 : 0), WARDEN.email());
      }
    }
  }

  /** In one meeting whoever fills in the form has to be approved. */
  private StoredMeeting approving(StoredMeeting stored) {
    Control registration = Control.REGISTRATION;
    String id = stored.meeting().id();
    register.changeControls(
        id, stored.version(), Map.of(registration, registration.parse("approved")), WARDEN);
    return register.get(id, WARDEN);
  }

  /**
   * Something is decided that the poor service has not, so that it is seen that it is not taken.
   */
  private void askTooMuch(List<StoredMeeting> all, Set<String> touched) {
    Control phone = Control.PHONE_BYPASS;
    all.stream()
        .filter(
            stored -> {
              HeldMeeting of = stored.service();
              return of != null && !of.service().means().controls().containsKey(phone);
            })
        .findFirst()
        .ifPresent(
            stored -> {
              touched.add(stored.meeting().id());
              register.changeControls(
                  stored.meeting().id(),
                  stored.version(),
                  Map.of(phone, phone.parse("waits")),
                  WARDEN);
            });
  }

  /** The first meeting that stands so strictly, of a service that has the values. */
  private void loosen(List<StoredMeeting> all, Drift drift, Set<String> loosened) {
    app.uprightwarden.core.control.Value strict = drift.control().parse(drift.from());
    for (StoredMeeting stored : all) {
      HeldMeeting of = stored.service();
      if (of != null
          && of.notes().isEmpty()
          && !loosened.contains(stored.meeting().id())
          && strict.equals(
              of.decided().getOrDefault("", ControlValues.NONE).get(drift.control()))) {
        pages.change(
            address(of.service().name()),
            of.there(),
            stored.meeting().host(),
            drift.control(),
            drift.to());
        loosened.add(stored.meeting().id());
        return;
      }
    }
  }

  private String address(String name) {
    return Objects.requireNonNull(addresses.get(name));
  }
}
