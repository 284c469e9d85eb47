package app.uprightwarden.server.door;

import app.uprightwarden.core.audit.FactsBuilder;
import app.uprightwarden.core.audit.MeetingFacts;
import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.door.Arrivals;
import app.uprightwarden.core.door.Door;
import app.uprightwarden.core.door.Moment;
import app.uprightwarden.core.door.Passage;
import app.uprightwarden.core.door.Roles;
import app.uprightwarden.core.exposure.Exposure;
import app.uprightwarden.core.exposure.Matrix;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.people.Directory;
import app.uprightwarden.core.people.Joiner;
import app.uprightwarden.core.people.Person;
import app.uprightwarden.core.people.Persona;
import app.uprightwarden.core.people.Right;
import app.uprightwarden.core.people.Role;
import app.uprightwarden.core.people.Route;
import app.uprightwarden.core.people.Tie;
import app.uprightwarden.core.remedy.AdmissionSearch;
import app.uprightwarden.core.remedy.Remedy;
import app.uprightwarden.core.rulebook.Mode;
import app.uprightwarden.core.rulebook.ResolvedRule;
import app.uprightwarden.core.rulebook.ResolvedRulebook;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.judging.AssessmentView;
import app.uprightwarden.server.judging.DeclaredTexts;
import app.uprightwarden.server.judging.FindingView;
import app.uprightwarden.server.judging.Judging;
import app.uprightwarden.server.people.OrganisationService;
import app.uprightwarden.server.problem.Fault;
import app.uprightwarden.server.problem.Languages;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.register.ControlsJson;
import app.uprightwarden.server.register.Limits;
import app.uprightwarden.server.register.RegisterService;
import app.uprightwarden.server.register.StoredMeeting;
import app.uprightwarden.server.rulebook.RulebookService;
import java.time.Clock;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Sends personas and people to a meeting's door, as it is and with pencilled values. */
@Service
class DoorService {
  private static final int MAX_WAYS = 4;

  private final RegisterService register;
  private final OrganisationService organisation;
  private final RulebookService rulebook;
  private final JsonMapper json;
  private final Clock clock;

  DoorService(
      RegisterService register,
      OrganisationService organisation,
      RulebookService rulebook,
      JsonMapper json,
      Clock clock) {
    this.register = register;
    this.organisation = organisation;
    this.rulebook = rulebook;
    this.json = json;
    this.clock = clock;
  }

  /**
   * What a rehearsal is held with.
   *
   * @param now the meeting's values, with those of an occurrence in place
   * @param then with the pencilled ones in their place
   */
  private record Stage(
      Meeting meeting,
      @Nullable StoredMeeting stored,
      Directory directory,
      ResolvedRulebook rules,
      ControlValues now,
      ControlValues then,
      Moment moment) {

    Function<ControlValues, Joiner> joiner(String who) {
      Persona persona = Persona.byId(who);
      return persona == null
          ? values -> Arrivals.joiner(meeting, values, who, directory, Route.APP)
          : values -> Matrix.joiner(persona, values);
    }
  }

  @Transactional(readOnly = true)
  public DoorView rehearse(DoorController.RehearsalAsked asked, SignedIn who) {
    Stage stage = stage(asked, who);
    Meeting meeting = stage.meeting();
    List<DoorView.Comer> comers = new ArrayList<>();
    DeclaredTexts texts = new DeclaredTexts(Languages.current());
    for (Persona persona : Persona.all()) {
      String phrase = texts.text("persona." + persona.id(), persona.phrase());
      comers.add(comer(stage, persona.id(), phrase, persona.invited()));
    }
    for (String email : asked.people()) {
      Person person = stage.directory().find(email);
      Tie tie = Arrivals.tie(meeting, email, stage.directory());
      comers.add(comer(stage, email, person == null ? email : person.name(), tie != Tie.NONE));
    }
    Map<String, String> allowed = new LinkedHashMap<>();
    for (ResolvedRule rule : stage.rules().rules()) {
      Value limit = rule.limit();
      if (limit != null) {
        allowed.put(
            rule.control().id(),
            (rule.mode() == Mode.FIX ? "fixed at " : "no looser than ")
                + rule.control().label(limit));
      }
    }
    Matrix matrix = Matrix.of(stage.now());
    Matrix then = Matrix.of(stage.then());
    StoredMeeting stored = stage.stored();
    return new DoorView(
        stored == null ? null : meeting.id(),
        meeting.title(),
        meeting.host(),
        stored == null ? null : meeting.start().toString(),
        stored == null ? null : meeting.zone().getId(),
        meeting.minutes(),
        stored == null ? null : stored.version(),
        stored != null
            && (who.role() == app.uprightwarden.server.access.Role.WARDEN
                || RegisterService.hosts(meeting, who)),
        FactsBuilder.changesOf(meeting).stream().map(c -> c.at().toString()).toList(),
        ControlsJson.plain(stage.now()),
        allowed,
        beyond(stage, stage.then()),
        AssessmentView.Scores.of(Exposure.of(matrix)),
        AssessmentView.Scores.of(Exposure.of(then)),
        AssessmentView.matrix(matrix),
        AssessmentView.matrix(then),
        comers);
  }

  @Transactional(readOnly = true)
  public DoorView.Admission admission(DoorController.AdmissionAsked asked, SignedIn who) {
    Stage stage = stage(asked.rehearsal(), who);
    var goal =
        AdmissionSearch.Goal.valueOf(asked.goal().toUpperCase(Locale.ROOT).replace('-', '_'));
    Function<ControlValues, Joiner> joiner = stage.joiner(asked.who());
    ControlValues values = stage.then();
    boolean already = goal.isMet(Door.outcome(values, joiner.apply(values), stage.moment()));
    List<DoorView.AdmissionWay> ways = new ArrayList<>();
    for (AdmissionSearch.Way way :
        AdmissionSearch.least(values, joiner, stage.moment(), goal, MAX_WAYS)) {
      ControlValues after = values;
      for (Remedy.Change change : way.changes()) {
        after = after.with(change.control(), change.to());
      }
      ways.add(
          new DoorView.AdmissionWay(
              way.changes().stream().map(DoorService::change).toList(),
              way.friction(),
              way.exposureTenths() / 10.0,
              way.beside().stream().map(Persona::id).toList(),
              beyond(stage, after)));
    }
    return new DoorView.Admission(
        already, ways, already ? List.of() : acts(goal, values, joiner.apply(values), stage));
  }

  private static AssessmentView.Change change(Remedy.Change change) {
    Value from = change.from();
    return new AssessmentView.Change(
        change.control().id(),
        from == null ? null : change.control().plain(from),
        change.control().plain(change.to()));
  }

  /** What somebody could do instead of changing a control; each by itself is enough. */
  private static List<String> acts(
      AdmissionSearch.Goal goal, ControlValues values, Joiner j, Stage stage) {
    Moment at = stage.moment();
    Map<String, Passage.Outcome> tried = new LinkedHashMap<>();
    if (goal == AdmissionSearch.Goal.IN) {
      tried.put(
          "unlock", Door.outcome(values, j, new Moment(at.minutesFromStart(), at.hostIn(), false)));
      tried.put(
          "host-in", Door.outcome(values, j, new Moment(at.minutesFromStart(), true, at.locked())));
      tried.put("invite", Door.outcome(values, as(j, Tie.NAMED, j.route(), true), at));
      tried.put("give-passcode", Door.outcome(values, as(j, j.tie(), j.route(), true), at));
      tried.put("by-app", Door.outcome(values, as(j, j.tie(), Route.APP, j.holdsPasscode()), at));
    } else {
      tried.put(
          "lock", Door.outcome(values, j, new Moment(at.minutesFromStart(), at.hostIn(), true)));
    }
    return tried.entrySet().stream()
        .filter(e -> goal.isMet(e.getValue()))
        .map(Map.Entry::getKey)
        .toList();
  }

  private static Joiner as(Joiner joiner, Tie tie, Route route, boolean holdsPasscode) {
    return new Joiner(
        joiner.standing(),
        joiner.tie().hosts() ? joiner.tie() : tie,
        route,
        holdsPasscode,
        joiner.removed(),
        joiner.region(),
        joiner.listedPresenter(),
        joiner.contributor());
  }

  private DoorView.Comer comer(Stage stage, String key, String phrase, boolean invited) {
    Function<ControlValues, Joiner> joiner = stage.joiner(key);
    Joiner now = joiner.apply(stage.now());
    return new DoorView.Comer(
        key,
        phrase,
        Persona.byId(key) != null,
        invited,
        now.standing().id(),
        now.tie().id(),
        now.route().name().toLowerCase(Locale.ROOT),
        now.holdsPasscode(),
        answered(stage.now(), now, stage.moment()),
        answered(stage.then(), joiner.apply(stage.then()), stage.moment()));
  }

  private static DoorView.Answered answered(ControlValues values, Joiner joiner, Moment moment) {
    Passage passage = Door.pass(values, joiner, moment);
    boolean refused = passage.outcome() == Passage.Outcome.REFUSED;
    Role role = refused ? null : Roles.of(values, joiner);
    return new DoorView.Answered(
        passage.outcome().id(),
        passage.step() == null ? null : passage.step().id(),
        role == null ? null : role.id(),
        role == null
            ? List.of()
            : Roles.list(Roles.rights(values, role, joiner.route())).stream()
                .map(Right::id)
                .toList(),
        passage.outcome() == Passage.Outcome.HELD
            ? values.effective(Control.DOOR_KEEPER).toString()
            : null,
        FindingView.steps(passage));
  }

  /** The values in which a state differs from the meeting's and that a rule does not allow. */
  private static List<DoorView.BeyondRule> beyond(Stage stage, ControlValues values) {
    return Limits.beyond(
            stage.meeting().withControls(values),
            stage.meeting().withControls(stage.now()),
            stage.rules(),
            stage.directory())
        .stream()
        .filter(b -> b.occurrence() == null)
        .map(b -> new DoorView.BeyondRule(b.control().id(), b.rule().mode() == Mode.FIX, b.words()))
        .toList();
  }

  private Stage stage(DoorController.RehearsalAsked asked, SignedIn who) {
    var all = organisation.organisation();
    Directory directory = organisation.directory();
    FactsBuilder builder = Judging.builder(all, directory, rulebook.rulebook(rulebook.inForce()));
    StoredMeeting stored = asked.meeting() == null ? null : register.get(asked.meeting(), who);
    String host = asked.host() == null || who.isHost() ? who.email() : asked.host();
    ResolvedRulebook rules =
        stored == null
            ? builder.rulesFor(host, asked.kind())
            : builder.rulesFor(stored.meeting().host(), stored.meeting().kind());
    Meeting meeting = stored == null ? unsaved(host, asked.kind(), rules) : stored.meeting();
    ControlValues now = values(meeting, asked.occurrence());
    ControlValues then = now.overlaid(pencil(asked.pencil()));
    DoorController.MomentAsked at = asked.moment();
    return new Stage(
        meeting,
        stored,
        directory,
        rules,
        now,
        then,
        new Moment(at.minutesFromStart(), at.hostIn(), at.locked()));
  }

  private Meeting unsaved(String host, @Nullable String kind, ResolvedRulebook rules) {
    return new Meeting(
        "unsaved",
        "A meeting that is not saved yet",
        "",
        kind,
        host,
        List.of(),
        List.of(),
        List.of(),
        List.of(),
        null,
        LocalDateTime.ofInstant(clock.instant(), ZoneOffset.UTC),
        ZoneOffset.UTC,
        60,
        null,
        List.of(),
        List.of(),
        null,
        null,
        rules.starts(),
        List.of());
  }

  private static ControlValues values(Meeting meeting, @Nullable String occurrence) {
    if (occurrence == null) {
      return FactsBuilder.judged(meeting.controls(), meeting.passcode());
    }
    return FactsBuilder.changesOf(meeting).stream()
        .filter(change -> change.at().toString().equals(occurrence))
        .map(MeetingFacts.Change::values)
        .findFirst()
        .orElseThrow(
            () ->
                ProblemException.notFound(
                    "No occurrence of " + occurrence + " has values of its own."));
  }

  private ControlValues pencil(Map<String, Object> given) {
    List<Fault> faults = new ArrayList<>();
    JsonNode node = json.valueToTree(given);
    ControlValues values = ControlsJson.read(node, "/pencil", faults);
    if (!faults.isEmpty()) {
      throw ProblemException.invalid("Some pencilled values are wrong.", faults);
    }
    return values;
  }
}
