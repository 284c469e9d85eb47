package app.uprightwarden.core.audit;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.meeting.OccurrenceChange;
import app.uprightwarden.core.meeting.PasscodeFacts;
import app.uprightwarden.core.meeting.Reach;
import app.uprightwarden.core.people.Directory;
import app.uprightwarden.core.people.Person;
import app.uprightwarden.core.people.Standing;
import app.uprightwarden.core.rulebook.Layer;
import app.uprightwarden.core.rulebook.ResolvedRule;
import app.uprightwarden.core.rulebook.ResolvedRulebook;
import app.uprightwarden.core.rulebook.Rulebook;
import app.uprightwarden.core.service.Held;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * Makes the compact facts of meetings. Equal values, reaches and rulebooks become one instance, so
 * that a register of many meetings costs little more than its differences. Not thread-safe.
 */
public final class FactsBuilder {
  private static final int MAX_INTERNED = 200_000;

  private final Directory directory;
  private final Rulebook rulebook;
  private final Set<String> confidentialKinds;
  private final MeetingFacts.Plan plan;
  private final Map<List<Layer>, ResolvedRulebook> byLayers = new HashMap<>();
  private final Map<String, ResolvedRulebook> byUnitAndKind = new HashMap<>();
  private final Map<Object, Object> interned = new HashMap<>();

  /** Builds by a directory and a rulebook; {@code plan} is what the organisation's plan allows. */
  public FactsBuilder(
      Directory directory,
      Rulebook rulebook,
      Set<String> confidentialKinds,
      MeetingFacts.Plan plan) {
    this.directory = directory;
    this.rulebook = rulebook;
    this.confidentialKinds = Set.copyOf(confidentialKinds);
    this.plan = plan;
  }

  /** What is in force for a host's meetings of a kind. */
  public ResolvedRulebook rulesFor(String host, @Nullable String kind) {
    Person person = directory.find(host);
    String unit = person == null ? null : person.unit();
    return byUnitAndKind.computeIfAbsent(
        unit + "|" + kind,
        key ->
            byLayers.computeIfAbsent(
                rulebook.applying(directory.unitPath(unit), kind), ResolvedRulebook::of));
  }

  /** What an audit has to know of a meeting that no service holds. */
  public MeetingFacts build(Meeting meeting) {
    return build(meeting, null);
  }

  /**
   * What an audit has to know of a meeting.
   *
   * @param held the service that holds it, or null where none does
   */
  public MeetingFacts build(Meeting meeting, @Nullable Held held) {
    Set<String> hosts = new HashSet<>();
    hosts.add(Directory.fold(meeting.host()));
    meeting.coHosts().forEach(email -> hosts.add(Directory.fold(email)));
    Set<String> named = new HashSet<>();
    meeting.invitees().forEach(invitee -> named.add(Directory.fold(invitee.email())));
    Set<String> listed = listed(meeting);
    Set<String> invited = new HashSet<>(named);
    invited.addAll(listed);
    Person host = directory.find(meeting.host());
    ControlValues values = judged(meeting.controls(), meeting.passcode());
    ResolvedRulebook rules = rulesFor(meeting.host(), meeting.kind());
    Reach reach = intern(Reach.of(meeting, directory));
    return new MeetingFacts(
        meeting.id(),
        Directory.fold(meeting.host()),
        intern(new Subject(rules, intern(values), intern(relevant(reach, rules, values)))),
        reach,
        plan,
        meeting.passcode(),
        meeting.number(),
        meeting.minutes(),
        endless(meeting.recurrence()),
        host == null || !host.active(),
        meeting.coHosts().size(),
        meeting.presenters().size(),
        invited.size(),
        (int) listed.stream().filter(p -> !named.contains(p) && !hosts.contains(p)).count(),
        meeting.coHosts().stream()
            .filter(email -> directory.standingOf(email) != Standing.MEMBER)
            .toList(),
        meeting.presenters().stream()
            .filter(email -> !among(email, invited) && !among(email, hosts))
            .toList(),
        strangers(meeting, invited),
        changes(meeting),
        held);
  }

  private Set<String> listed(Meeting meeting) {
    Set<String> listed = new HashSet<>();
    for (String list : meeting.lists()) {
      directory.membersOfList(list).forEach(email -> listed.add(Directory.fold(email)));
    }
    if (meeting.space() != null) {
      directory.membersOfSpace(meeting.space()).forEach(m -> listed.add(Directory.fold(m)));
    }
    return listed;
  }

  /** The reach without what no rule asks of it, so that more meetings share one judgement. */
  public static Reach relevant(Reach reach, ResolvedRulebook rules, ControlValues values) {
    boolean lobby = goesByName(Control.LOBBY_BYPASS, rules, values);
    boolean presenters = goesByName(Control.PRESENTER_ROLE, rules, values);
    return new Reach(
        lobby && reach.named(),
        lobby ? reach.namedWidest() : Standing.MEMBER,
        !presenters || reach.presentersMembers(),
        !presenters || reach.presentersHosts());
  }

  private static boolean goesByName(Control control, ResolvedRulebook rules, ControlValues values) {
    ResolvedRule rule = rules.rule(control);
    return rule != null
        && rule.governs()
        && values.get(control) != null
        && values.is(control, "named");
  }

  private List<String> strangers(Meeting meeting, Set<String> invited) {
    if (meeting.kind() == null || !confidentialKinds.contains(meeting.kind())) {
      return List.of();
    }
    return invited.stream()
        .filter(
            email ->
                directory.find(email) == null || directory.standingOf(email) == Standing.OUTSIDER)
        .sorted()
        .toList();
  }

  private List<MeetingFacts.Change> changes(Meeting meeting) {
    return changesOf(meeting).stream()
        .map(c -> new MeetingFacts.Change(c.at(), intern(c.values()), c.minutes()))
        .toList();
  }

  /** What is different about single occurrences of a meeting. */
  public static List<MeetingFacts.Change> changesOf(Meeting meeting) {
    if (meeting.changes().isEmpty()) {
      return List.of();
    }
    List<MeetingFacts.Change> changes = new ArrayList<>();
    for (OccurrenceChange change : meeting.changes()) {
      ControlValues over = meeting.controls().overlaid(change.controls());
      int minutes = change.minutes() == null ? meeting.minutes() : change.minutes();
      changes.add(new MeetingFacts.Change(change.at(), judged(over, meeting.passcode()), minutes));
    }
    return List.copyOf(changes);
  }

  /** The values with length and makeup read off the actual passcode where there is one. */
  public static ControlValues judged(ControlValues values, @Nullable PasscodeFacts passcode) {
    if (passcode == null) {
      return values;
    }
    return values
        .with(Control.PASSCODE_LENGTH, new Value.Amount(passcode.length()))
        .with(Control.PASSCODE_MAKEUP, passcode.makeup());
  }

  private static boolean among(String email, Set<String> folded) {
    return folded.contains(Directory.fold(email));
  }

  private static boolean endless(@Nullable String recurrence) {
    if (recurrence == null) {
      return false;
    }
    String rule = recurrence.toUpperCase(Locale.ROOT);
    return !rule.contains("UNTIL=") && !rule.contains("COUNT=");
  }

  @SuppressWarnings("unchecked")
  private <T> T intern(T fresh) {
    if (interned.size() > MAX_INTERNED) {
      interned.clear();
    }
    Object known = interned.putIfAbsent(fresh, fresh);
    return known == null ? fresh : (T) known;
  }
}
