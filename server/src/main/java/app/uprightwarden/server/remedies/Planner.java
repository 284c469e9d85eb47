package app.uprightwarden.server.remedies;

import app.uprightwarden.core.audit.Auditor;
import app.uprightwarden.core.audit.Detail;
import app.uprightwarden.core.audit.FactsBuilder;
import app.uprightwarden.core.audit.Judgement;
import app.uprightwarden.core.audit.MeetingFacts;
import app.uprightwarden.core.audit.Waivers;
import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.people.Directory;
import app.uprightwarden.core.people.Person;
import app.uprightwarden.core.remedy.Remedy;
import app.uprightwarden.core.remedy.RemedySearch;
import app.uprightwarden.core.rulebook.Mode;
import app.uprightwarden.core.rulebook.ResolvedRule;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** Works out what would mend meetings, by one edition. Not thread-safe. */
final class Planner {
  private static final Set<String> NEW_PASSCODE =
      Set.of("weak-passcode", "reused-passcode", "leaked-passcode");

  private final FactsBuilder builder;
  private final Waivers waivers;
  private final Directory directory;
  private final Auditor auditor = new Auditor();

  Planner(FactsBuilder builder, Waivers waivers, Directory directory) {
    this.builder = builder;
    this.waivers = waivers;
    this.directory = directory;
  }

  /** A meeting's series, or one occurrence of it, as judged. */
  record Judged(MeetingFacts facts, ControlValues values, Judgement judgement, String occurrence) {}

  Judged judge(Meeting meeting, String occurrence) {
    MeetingFacts facts = builder.build(meeting);
    ControlValues values = facts.values();
    if (!occurrence.isEmpty()) {
      LocalDateTime at = LocalDateTime.parse(occurrence);
      values =
          facts.changes().stream()
              .filter(change -> change.at().equals(at))
              .map(MeetingFacts.Change::values)
              .findFirst()
              .orElse(values);
    }
    return new Judged(
        facts, values, auditor.judge(facts.rules(), values, facts.reach()), occurrence);
  }

  Judgement judge(Judged as, ControlValues values) {
    return auditor.judge(as.facts().rules(), values, as.facts().reach());
  }

  /** The cheapest remedy of all that rules and guarantees find in it and that may not stand. */
  RemedyPlan whole(Judged judged) {
    return whole(judged, null);
  }

  /**
   * @param wanted what is to be mended though it may stand, or null
   */
  private RemedyPlan whole(Judged judged, @Nullable String wanted) {
    Set<String> waived = new HashSet<>();
    Person host = directory.find(judged.facts().host());
    List<String> units = directory.unitPath(host == null ? null : host.unit());
    for (Detail detail : judged.judgement().details()) {
      boolean mayStand =
          waivers.covering(
                  judged.facts().id(),
                  units,
                  judged.occurrence(),
                  detail.check().id(),
                  detail.subject())
              != null;
      if (mayStand && !detail.subject().equals(wanted)) {
        waived.add(detail.subject());
      }
    }
    Remedy remedy =
        RemedySearch.cheapest(
            judged.judgement(), judged.facts().reach(), waived, judged.facts().means());
    Map<Control, Value> changes = new EnumMap<>(Control.class);
    remedy.changes().forEach(change -> changes.put(change.control(), change.to()));
    return plan(judged, changes, remedy.complete());
  }

  /** These controls, whatever comes of it. */
  RemedyPlan chosen(Judged judged, Map<Control, Value> controls) {
    return plan(judged, controls, true);
  }

  private static RemedyPlan plan(Judged judged, Map<Control, Value> changes, boolean complete) {
    Map<String, RemedyPlan.PlanStep> steps = new LinkedHashMap<>();
    new EnumMap<>(changes)
        .forEach(
            (control, to) -> {
              Value from = judged.values().get(control);
              if (!to.equals(from)) {
                steps.put(
                    control.id(),
                    new RemedyPlan.PlanStep(
                        from == null ? null : control.plain(from), control.plain(to)));
              }
            });
    boolean hasPasscode = judged.facts().passcode() != null;
    // length and makeup are read off the passcode itself
    boolean otherPasscode =
        hasPasscode
            && (steps.containsKey(Control.PASSCODE_LENGTH.id())
                || steps.containsKey(Control.PASSCODE_MAKEUP.id()));
    return new RemedyPlan(steps, otherPasscode, false, complete);
  }

  /** What mends one finding; {@link RemedyPlan#NOTHING} where no control does. */
  RemedyPlan of(Judged judged, String check, String subject) {
    if (NEW_PASSCODE.contains(check)) {
      return new RemedyPlan(Map.of(), true, false, true);
    }
    return switch (check) {
      case "number-spillover" -> new RemedyPlan(Map.of(), false, true, true);
      case "guarantee-broken" -> whole(judged, subject);
      case "beyond-limit", "not-evidenced", "off-fix" -> toLimit(judged, Control.byId(subject));
      case "no-effect" -> revive(judged, subject);
      case "early-entry-idle" ->
          plan(judged, Map.of(Control.EARLY_ENTRY, new Value.Amount(0)), true);
      default -> RemedyPlan.NOTHING;
    };
  }

  private static RemedyPlan toLimit(Judged judged, @Nullable Control control) {
    ResolvedRule rule = control == null ? null : judged.facts().rules().rule(control);
    Value limit = rule == null ? null : rule.limit();
    return control == null || limit == null
        ? RemedyPlan.NOTHING
        : plan(judged, Map.of(control, limit), true);
  }

  /** Tightens what defeats a control by one step, where that is free to move. */
  private static RemedyPlan revive(Judged judged, String subject) {
    for (Detail detail : judged.judgement().details()) {
      if (!detail.check().id().equals("no-effect") || !detail.subject().equals(subject)) {
        continue;
      }
      for (Control by : detail.defeatedBy()) {
        ResolvedRule rule = judged.facts().rules().rule(by);
        Value stricter = by.oneStepStricter(judged.values().effective(by));
        boolean isFixed = rule != null && rule.mode() == Mode.FIX;
        if (!isFixed && stricter != null) {
          return plan(judged, Map.of(by, stricter), true);
        }
      }
    }
    return RemedyPlan.NOTHING;
  }

  /** The values once a plan is carried out. */
  static ControlValues after(ControlValues values, RemedyPlan plan) {
    ControlValues after = values;
    for (Map.Entry<String, RemedyPlan.PlanStep> step : plan.changes().entrySet()) {
      Control control = Control.byId(step.getKey());
      if (control != null) {
        Object to = step.getValue().to();
        after = after.with(control, to == null ? null : control.parse(to));
      }
    }
    return after;
  }

  /** What somebody would be told of a plan, control by control. */
  static List<String> words(RemedyPlan plan) {
    List<String> words = new ArrayList<>();
    plan.changes()
        .forEach(
            (id, step) -> {
              Control control = Control.byId(id);
              if (control != null) {
                words.add(
                    control.title()
                        + ": "
                        + label(control, step.from())
                        + " becomes "
                        + label(control, step.to()));
              }
            });
    if (plan.newPasscode()) {
      words.add("A new passcode is made, and a new invitation goes out");
    }
    if (plan.newNumber()) {
      words.add("It gets a number of its own, and a new invitation goes out");
    }
    return words;
  }

  private static String label(Control control, @Nullable Object plain) {
    return plain == null ? "nothing" : control.label(control.parse(plain));
  }
}
