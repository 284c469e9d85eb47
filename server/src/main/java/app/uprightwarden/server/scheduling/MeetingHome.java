package app.uprightwarden.server.scheduling;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.meeting.OccurrenceChange;
import app.uprightwarden.core.people.Person;
import app.uprightwarden.core.service.Held;
import app.uprightwarden.core.service.Means;
import app.uprightwarden.server.people.OrganisationService;
import app.uprightwarden.server.problem.Fault;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.register.HeldMeeting;
import app.uprightwarden.server.register.RegisterService;
import app.uprightwarden.server.register.ServiceMeans;
import app.uprightwarden.server.register.StoredMeeting;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Which conference service a meeting is made in, or is held by, and where one joins it there. */
@Component
class MeetingHome {
  /** Somebody wants no service to hold it. */
  static final long NONE = 0;

  private final ServiceMeans services;
  private final RegisterService register;
  private final OrganisationService organisation;
  private final ConferenceAddresses builtIn;

  MeetingHome(
      ServiceMeans services,
      RegisterService register,
      OrganisationService organisation,
      ConferenceAddresses builtIn) {
    this.services = services;
    this.register = register;
    this.organisation = organisation;
    this.builtIn = builtIn;
  }

  /**
   * Where one joins.
   *
   * @param link null where there is none, or none yet
   * @param instead what is said in place of a link
   */
  record Join(@Nullable String link, List<String> dialIn, String instead) {}

  private ServiceMeans.Choices choices(String host) {
    Person person = organisation.directory().find(host);
    return services.choices(person == null ? null : person.unit());
  }

  /**
   * The service a new meeting is to be made in.
   *
   * @param chosen its number, {@link #NONE}, or null for what is usual for the host's unit
   * @return null for none
   * @throws ProblemException 422 where it is none that can be written to
   */
  ServiceMeans.@Nullable Named of(String host, @Nullable Long chosen) {
    ServiceMeans.Choices choices = choices(host);
    if (chosen == null || chosen == NONE) {
      return chosen == null ? choices.usual() : null;
    }
    return choices.services().stream()
        .filter(each -> each.id() == chosen)
        .findFirst()
        .orElseThrow(
            () ->
                ProblemException.invalid(
                    "No meeting can be made in that conference service any more. Choose another."
                        + " Nothing was saved.",
                    List.of(new Fault("/service", "takes no meetings"))));
  }

  /** The services to choose from, with what of a meeting each cannot hold. */
  List<SchedulingPreview.ServiceOption> options(Meeting meeting) {
    ServiceMeans.Choices choices = choices(meeting.host());
    return choices.services().stream()
        .map(
            each ->
                new SchedulingPreview.ServiceOption(
                    each.id(),
                    each.name(),
                    each.equals(choices.usual()),
                    cannotHold(each.means(), meeting)))
        .toList();
  }

  private static List<String> cannotHold(Means means, Meeting meeting) {
    return meeting.controls().asMap().entrySet().stream()
        .filter(
            each ->
                means.carrying(each.getKey(), each.getValue()) == Means.Carrying.CANNOT
                    || !means.takes(each.getKey(), Means.Place.MEETING))
        .map(each -> each.getKey())
        .map(Control::id)
        .toList();
  }

  /** What the core has to know where a meeting of these values would be held. */
  static @Nullable Held held(@Nullable StoredMeeting before, ServiceMeans.@Nullable Named service) {
    ServiceMeans.Named of =
        before != null && before.service() != null ? before.service().service() : service;
    return of == null ? null : new Held(of.name(), of.means(), List.of());
  }

  /**
   * What single dates have of their own that the service holds for whole series alone. What was so
   * before is left.
   */
  static List<Fault> dateFaults(Meeting meeting, @Nullable Meeting before, @Nullable Held held) {
    List<Fault> faults = new ArrayList<>();
    if (held == null) {
      return faults;
    }
    for (int i = 0; i < meeting.changes().size(); i++) {
      OccurrenceChange date = meeting.changes().get(i);
      for (Map.Entry<Control, Value> own : date.controls().asMap().entrySet()) {
        Control control = own.getKey();
        boolean isNew = before == null || !own.getValue().equals(ofDate(before, date, control));
        if (isNew && !held.means().takes(control, Means.Place.OCCURRENCE)) {
          faults.add(
              new Fault(
                  "/occurrences/" + i + "/controls/" + control.id(),
                  held.service() + " holds “" + control.title() + "” for the whole series alone"));
        }
      }
    }
    return faults;
  }

  private static @Nullable Value ofDate(Meeting meeting, OccurrenceChange date, Control control) {
    return meeting.changes().stream()
        .filter(was -> was.at().equals(date.at()))
        .findFirst()
        .map(was -> was.controls().get(control))
        .orElse(null);
  }

  /** Whether a service still has to make a meeting: until then nobody knows where to join. */
  boolean isBeingMade(String meeting) {
    HeldMeeting of = register.find(meeting).map(StoredMeeting::service).orElse(null);
    return of != null && of.revision().isEmpty();
  }

  /**
   * Where one joins a meeting.
   *
   * @param service the one that a new meeting is to be made in
   * @param passcode to be put into the link, where the link is ours
   */
  Join join(Meeting meeting, ServiceMeans.@Nullable Named service, @Nullable String passcode) {
    HeldMeeting of = register.find(meeting.id()).map(StoredMeeting::service).orElse(null);
    if (of != null && of.link() != null) {
      return new Join(of.link(), of.dialIn(), "");
    }
    ServiceMeans.Named by = of == null ? service : of.service();
    if (by != null) {
      String name = by.name();
      return new Join(null, List.of(), name + " gives the address once it has made the meeting");
    }
    if (services.choices(null).isAny()) {
      return new Join(null, List.of(), "the host tells you; no conference service holds it");
    }
    String number = meeting.number();
    return number == null
        ? new Join(null, List.of(), "")
        : new Join(builtIn.link(number, passcode), builtIn.dialIn(List.of()), "");
  }
}
