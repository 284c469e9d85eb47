package app.uprightwarden.server.scheduling;

import app.uprightwarden.core.audit.Auditor;
import app.uprightwarden.core.audit.FactsBuilder;
import app.uprightwarden.core.audit.MeetingFacts;
import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.control.Scale;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.exposure.Effects;
import app.uprightwarden.core.exposure.Exposure;
import app.uprightwarden.core.exposure.Matrix;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.passcode.GuessEstimate;
import app.uprightwarden.core.people.Directory;
import app.uprightwarden.core.people.Person;
import app.uprightwarden.core.people.Persona;
import app.uprightwarden.core.people.Right;
import app.uprightwarden.core.rulebook.Mode;
import app.uprightwarden.core.rulebook.ResolvedRule;
import app.uprightwarden.core.rulebook.ResolvedRulebook;
import app.uprightwarden.core.rulebook.Scope;
import app.uprightwarden.core.service.Held;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.judging.AssessService;
import app.uprightwarden.server.judging.AssessmentView;
import app.uprightwarden.server.judging.FindingView;
import app.uprightwarden.server.judging.Judging;
import app.uprightwarden.server.people.Organisation;
import app.uprightwarden.server.people.OrganisationService;
import app.uprightwarden.server.people.SettingsService;
import app.uprightwarden.server.problem.Fault;
import app.uprightwarden.server.problem.InOrder;
import app.uprightwarden.server.register.ControlsJson;
import app.uprightwarden.server.register.Limits;
import app.uprightwarden.server.register.MeetingDocument;
import app.uprightwarden.server.register.RegisterService;
import app.uprightwarden.server.register.Scheduled;
import app.uprightwarden.server.register.StoredMeeting;
import app.uprightwarden.server.rulebook.RulebookService;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.core.JsonPointer;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;

/** Answers the scheduling page at each change, before anything is saved. */
@Service
class SchedulingPreviewService {
  private static final Duration WINDOW = Duration.ofDays(90);
  private static final Set<String> FIELDS = Set.of("findings");
  private static final int MAX_PEOPLE = 500;

  private final MeetingForm forms;
  private final SeriesDates dates;
  private final RegisterService register;
  private final OrganisationService organisation;
  private final RulebookService rulebook;
  private final AssessService assess;
  private final MeetingHome home;
  private final SettingsService settings;
  private final JsonMapper json;
  private final Clock clock;

  SchedulingPreviewService(
      MeetingForm forms,
      SeriesDates dates,
      RegisterService register,
      OrganisationService organisation,
      RulebookService rulebook,
      AssessService assess,
      MeetingHome home,
      SettingsService settings,
      JsonMapper json,
      Clock clock) {
    this.forms = forms;
    this.dates = dates;
    this.register = register;
    this.organisation = organisation;
    this.rulebook = rulebook;
    this.assess = assess;
    this.home = home;
    this.settings = settings;
    this.json = json;
    this.clock = clock;
  }

  /** What one answer is made from. */
  private record Ground(
      Organisation organisation,
      List<Person> people,
      Directory directory,
      FactsBuilder builder,
      ResolvedRulebook rules) {}

  private Ground ground(JsonNode form) {
    Organisation all = organisation.organisation();
    Directory directory = organisation.directory();
    FactsBuilder builder = Judging.builder(all, directory, rulebook.rulebook(rulebook.inForce()));
    String kind = form.path("kind").stringValue(null);
    return new Ground(
        all,
        organisation.people(),
        directory,
        builder,
        builder.rulesFor(form.path("host").stringValue(""), kind));
  }

  /**
   * Answers a form.
   *
   * @param before the meeting it changes, or null for a new one
   * @param chosen the service chosen for a new one; null for the usual one
   * @param inHand the control whose values are weighed, or null
   */
  @Transactional(readOnly = true)
  public SchedulingPreview of(
      JsonNode form,
      @Nullable StoredMeeting before,
      @Nullable Long chosen,
      @Nullable Control inHand,
      SignedIn who) {
    Ground ground = ground(form);
    JsonNode whole = before == null ? forms.stamped(form, ground.rules()) : form;
    List<Fault> faults = new ArrayList<>();
    Scheduled read = forms.read(whole, before, ground.organisation(), faults);
    if (read == null) {
      read = withoutFaults(whole, faults, before, ground);
    }
    Held held =
        MeetingHome.held(before, before == null ? home.of(read.meeting().host(), chosen) : null);
    return answer(read, before, held, inHand, faults, ground, who);
  }

  /** What can be read of a form with faults: the parts they are in are left out, or as before. */
  private Scheduled withoutFaults(
      JsonNode form, List<Fault> faults, @Nullable StoredMeeting before, Ground ground) {
    ObjectNode document = form.isObject() ? (ObjectNode) form.deepCopy() : json.createObjectNode();
    ControlValues instead = before == null ? ground.rules().starts() : before.decided().controls();
    leaveOut(document, faults, ControlsJson.plain(instead));
    Organisation all = ground.organisation();
    Map<String, Object> needed =
        InOrder.map(
            "title", "(no title yet)",
            "host", "nobody@localhost",
            "start", clock.instant().toString().substring(0, 16),
            "zone", "UTC",
            "minutes", 30);
    needed.forEach(
        (key, value) -> {
          if (!document.has(key)) {
            document.set(key, json.valueToTree(value));
          }
        });
    List<Fault> again = new ArrayList<>();
    Scheduled read = forms.read(document, before, all, again);
    if (read == null) {
      again.forEach(
          fault -> document.remove(JsonPointer.compile(fault.pointer()).getMatchingProperty()));
      needed.forEach(
          (key, value) -> {
            if (!document.has(key)) {
              document.set(key, json.valueToTree(value));
            }
          });
      read = forms.read(document, before, all, new ArrayList<>());
    }
    if (read != null) {
      return read;
    }
    ObjectNode bare = json.createObjectNode();
    needed.forEach((key, value) -> bare.set(key, json.valueToTree(value)));
    return java.util.Objects.requireNonNull(
        forms.read(bare, null, all, new ArrayList<>()), "the needed parts are without fault");
  }

  /**
   * Takes out what is at fault and nothing beside it: of the controls the one, for which another
   * value stands, of a list the one item, else the part.
   */
  private void leaveOut(ObjectNode document, List<Fault> faults, Map<String, Object> instead) {
    Map<String, Set<Integer>> items = new TreeMap<>();
    for (Fault fault : faults) {
      String[] steps = fault.pointer().replaceFirst("^/", "").split("/", 3);
      JsonNode part = document.path(steps[0]);
      if (steps.length > 1 && steps[0].equals("controls") && part.isObject()) {
        ObjectNode controls = (ObjectNode) part;
        Object other = instead.get(steps[1]);
        if (other == null) {
          controls.remove(steps[1]);
        } else {
          controls.set(steps[1], json.valueToTree(other));
        }
      } else if (steps.length > 1 && part.isArray() && steps[1].matches("\\d{1,6}")) {
        items
            .computeIfAbsent(steps[0], name -> new TreeSet<>(Comparator.reverseOrder()))
            .add(Integer.parseInt(steps[1]));
      } else {
        document.remove(steps[0]);
      }
    }
    items.forEach(
        (name, places) -> {
          if (document.path(name).isArray()) {
            places.forEach(place -> ((ArrayNode) document.path(name)).remove(place));
          }
        });
  }

  private SchedulingPreview answer(
      Scheduled read,
      @Nullable StoredMeeting before,
      @Nullable Held held,
      @Nullable Control inHand,
      List<Fault> faults,
      Ground ground,
      SignedIn who) {
    Meeting meeting = read.meeting();
    ResolvedRulebook rules = ground.builder().rulesFor(meeting.host(), meeting.kind());
    ControlValues values = FactsBuilder.judged(meeting.controls(), meeting.passcode());
    ControlValues was =
        before == null
            ? rules.starts()
            : FactsBuilder.judged(before.decided().controls(), before.meeting().passcode());
    Matrix matrix = Matrix.of(values);
    Matrix matrixBefore = Matrix.of(was);
    Person host = ground.directory().find(meeting.host());
    Function<Scope, String> names = scope -> LayerNames.of(scope, ground.organisation());
    Map<String, AssessmentView.Resolved> resolved = new LinkedHashMap<>();
    rules
        .rules()
        .forEach(
            rule -> resolved.put(rule.control().id(), AssessmentView.Resolved.of(rule, names)));
    Instant now = clock.instant();
    List<FindingView> findings =
        assess
            .assess(
                List.of(meeting),
                held == null ? Map.of() : Map.of(meeting.id(), held),
                ground.builder(),
                now,
                now.plus(WINDOW),
                FIELDS)
            .get(0)
            .findings();
    MeetingFacts facts = ground.builder().build(meeting);
    return new SchedulingPreview(
        faults,
        host == null ? null : host.unit(),
        ControlsJson.plain(rules.starts()),
        resolved,
        ControlsJson.plain(values),
        AssessmentView.Scores.of(Exposure.of(matrix)),
        AssessmentView.Scores.of(Exposure.of(matrixBefore)),
        AssessmentView.matrix(matrix),
        AssessmentView.matrix(matrixBefore),
        findings == null ? List.of() : findings,
        Limits.beyond(meeting, before == null ? null : before.decided(), rules, ground.directory())
            .stream()
            .map(
                b ->
                    new SchedulingPreview.BeyondView(
                        b.control().id(),
                        b.occurrence() == null ? null : b.occurrence().toString(),
                        b.rule().mode() == Mode.FIX,
                        b.looser(),
                        b.words()))
            .toList(),
        idle(values, rules),
        turned(was, values),
        passcode(read),
        dates.of(read, before, who),
        facts.invited(),
        people(meeting, ground),
        numbers(meeting, who),
        inHand == null ? List.of() : choices(inHand, meeting, rules, ground),
        before == null ? home.options(meeting) : List.of(),
        hints(meeting, before, held, facts.invited(), now));
  }

  private List<String> hints(
      Meeting meeting,
      @Nullable StoredMeeting before,
      @Nullable Held held,
      int invited,
      Instant now) {
    List<String> hints =
        new ArrayList<>(SchedulingHints.of(meeting, invited, settings.announceMost(), now));
    MeetingHome.dateFaults(meeting, before == null ? null : before.decided(), held).stream()
        .map(fault -> "A date has a control of its own: " + fault.message() + ".")
        .distinct()
        .forEach(hints::add);
    return hints;
  }

  /** Their own; a host is not told another's, which may stay good for years. */
  private List<String> numbers(Meeting meeting, SignedIn who) {
    boolean others =
        who.isHost() && !Directory.fold(meeting.host()).equals(Directory.fold(who.email()));
    return others ? List.of() : register.numbersOf(meeting.host());
  }

  /** The controls that are set and do nothing because of another. */
  private static List<SchedulingPreview.Idle> idle(ControlValues values, ResolvedRulebook rules) {
    List<SchedulingPreview.Idle> idle = new ArrayList<>();
    for (Control control : Control.matrix()) {
      List<Control> defeaters = Effects.defeatedBy(values, control);
      if (!defeaters.isEmpty()) {
        idle.add(
            new SchedulingPreview.Idle(
                control.id(), defeaters.stream().map(d -> mend(d, values, rules)).toList()));
      }
    }
    return idle;
  }

  /** One step stricter, or as far as the rule asks where that is further. */
  private static SchedulingPreview.Mend mend(
      Control defeater, ControlValues values, ResolvedRulebook rules) {
    Value here = values.effective(defeater);
    Value step = defeater.oneStepStricter(here);
    Value to = step == null ? here : step;
    ResolvedRule rule = rules.rule(defeater);
    Value limit = rule == null ? null : rule.limit();
    return new SchedulingPreview.Mend(
        defeater.id(), defeater.plain(limit != null && !defeater.within(to, limit) ? limit : to));
  }

  /** Controls that did something before this change and do nothing now, and the other way round. */
  private static List<SchedulingPreview.Turned> turned(ControlValues was, ControlValues values) {
    List<SchedulingPreview.Turned> turned = new ArrayList<>();
    for (Control control : Control.matrix()) {
      boolean same = was.effective(control).equals(values.effective(control));
      boolean set = !values.effective(control).equals(control.loosest());
      if (same && set) {
        boolean before = Effects.dead(was, control);
        boolean now = Effects.dead(values, control);
        if (before != now) {
          turned.add(new SchedulingPreview.Turned(control.id(), now ? "idle" : "works"));
        }
      }
    }
    return turned;
  }

  private static SchedulingPreview.@Nullable PasscodeView passcode(Scheduled read) {
    var facts = read.meeting().passcode();
    if (facts == null || read.passcode() == null) {
      return null;
    }
    GuessEstimate estimate = GuessEstimate.of(read.passcode());
    return new SchedulingPreview.PasscodeView(
        facts.length(),
        facts.makeup().toString(),
        facts.weakness().id(),
        facts.leaked(),
        estimate.tries(),
        estimate.minutes(),
        GuessEstimate.TRIES_A_MINUTE);
  }

  private List<SchedulingPreview.NamedPerson> people(Meeting meeting, Ground ground) {
    Set<String> emails = new LinkedHashSet<>(List.of(meeting.host()));
    emails.addAll(meeting.coHosts());
    emails.addAll(meeting.presenters());
    meeting.invitees().forEach(i -> emails.add(i.email()));
    PeopleZones zones = new PeopleZones(organisation, emails.stream().limit(MAX_PEOPLE).toList());
    return emails.stream()
        .limit(MAX_PEOPLE)
        .map(
            email -> {
              Person person = ground.directory().find(email);
              ZoneId zone = zones.of(email);
              return new SchedulingPreview.NamedPerson(
                  email,
                  person == null ? null : person.name(),
                  ground.directory().standingOf(email).id(),
                  zone == null ? null : zone.getId());
            })
        .toList();
  }

  private List<SchedulingPreview.Choice> choices(
      Control control, Meeting meeting, ResolvedRulebook rules, Ground ground) {
    Matrix now = Matrix.of(meeting.controls());
    List<SchedulingPreview.Choice> choices = new ArrayList<>();
    for (Value value : values(control, meeting, rules)) {
      ControlValues with = meeting.controls().with(control, value);
      Meeting changed = meeting.withControls(with);
      Matrix then = Matrix.of(with);
      int opened = 0;
      int closed = 0;
      for (Persona persona : Persona.values()) {
        for (Right right : Right.values()) {
          int step = then.level(persona, right).compareTo(now.level(persona, right));
          opened += step > 0 ? 1 : 0;
          closed += step < 0 ? 1 : 0;
        }
      }
      int[] found = findings(changed, ground.builder());
      boolean allowed =
          Limits.beyond(changed, null, rules, ground.directory()).stream()
              .noneMatch(b -> b.control() == control && b.occurrence() == null);
      choices.add(
          new SchedulingPreview.Choice(
              control.plain(value),
              allowed,
              Exposure.of(then).score(),
              opened,
              closed,
              found[0],
              found[1],
              !value.equals(control.loosest()) && !Effects.defeatedBy(with, control).isEmpty()));
    }
    return choices;
  }

  /** All words of a ladder; of numbers and sets those that the meeting and its rule name. */
  private static List<Value> values(Control control, Meeting meeting, ResolvedRulebook rules) {
    if (control.scale() instanceof Scale.Words words) {
      return List.copyOf(words.values());
    }
    Set<Value> some = new LinkedHashSet<>(List.of(control.loosest()));
    Value here = meeting.controls().get(control);
    if (here != null) {
      some.add(here);
    }
    ResolvedRule rule = rules.rule(control);
    if (rule != null) {
      some.add(rule.start());
      if (rule.limit() != null) {
        some.add(rule.limit());
      }
    }
    return List.copyOf(some);
  }

  private static int[] findings(Meeting meeting, FactsBuilder builder) {
    int[] found = new int[2];
    new Auditor()
        .audit(
            builder.build(meeting),
            (of, occurrence, detail) -> {
              found[0]++;
              found[1] = Math.max(found[1], detail.severity());
            });
    return found;
  }

  /** The stored meeting as a form, without its passcode. */
  Map<String, @Nullable Object> form(StoredMeeting stored) {
    return MeetingDocument.of(new Scheduled(stored.decided(), stored.details(), null));
  }
}
