package app.uprightwarden.bench;

import app.uprightwarden.core.audit.FactsBuilder;
import app.uprightwarden.core.audit.MeetingFacts;
import app.uprightwarden.core.audit.Subject;
import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.control.Scale;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.drafting.Cohort;
import app.uprightwarden.core.drafting.RegisterIndex;
import app.uprightwarden.core.meeting.PasscodeFacts;
import app.uprightwarden.core.meeting.Reach;
import app.uprightwarden.core.meeting.Weakness;
import app.uprightwarden.core.people.Persona;
import app.uprightwarden.core.people.Right;
import app.uprightwarden.core.people.Standing;
import app.uprightwarden.core.rulebook.Guarantee;
import app.uprightwarden.core.rulebook.Layer;
import app.uprightwarden.core.rulebook.Level;
import app.uprightwarden.core.rulebook.ResolvedRulebook;
import app.uprightwarden.core.rulebook.Rule;
import app.uprightwarden.core.rulebook.Rulebook;
import app.uprightwarden.core.rulebook.Scope;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;

/**
 * Meetings to measure with, from a seed: 52 controls, three layers (organisation, one of three
 * units, one of three kinds), six guarantees, and values that are mostly the starts in force with a
 * few moved, in about 400 different sets or in as many as there are meetings.
 */
final class Population {
  private static final int SETS = 400;

  private final Random random;
  private final Map<Subject, Subject> subjects = new HashMap<>();
  private final List<ResolvedRulebook> paths = new ArrayList<>();
  private final Rulebook rulebook;

  Population(long seed) {
    random = new Random(seed);
    List<Layer> layers = new ArrayList<>();
    layers.add(organisation());
    for (int i = 0; i < 3; i++) {
      layers.add(layer(Scope.unit("u" + i), 6, 1));
    }
    for (int i = 0; i < 3; i++) {
      layers.add(layer(Scope.kind("k" + i), 6, 1));
    }
    rulebook = new Rulebook(layers);
    for (int path = 0; path < 9; path++) {
      paths.add(ResolvedRulebook.of(rulebook.applying(List.of(unit(path)), kind(path))));
    }
  }

  private static String unit(int path) {
    return "u" + path / 3;
  }

  private static String kind(int path) {
    return "k" + path % 3;
  }

  Rulebook rulebook() {
    return rulebook;
  }

  /** The same meetings in short, as a server holds them. */
  RegisterIndex index(MeetingFacts[] meetings) {
    List<RegisterIndex.Fresh> fresh = new ArrayList<>();
    for (int i = 0; i < meetings.length; i++) {
      int path = paths.indexOf(meetings[i].rules());
      Cohort cohort =
          new Cohort(unit(path), kind(path), meetings[i].values(), meetings[i].reach(), List.of());
      fresh.add(new RegisterIndex.Fresh(i, 0, cohort, meetings[i].host(), i, 1));
    }
    return RegisterIndex.EMPTY.with(fresh, Set.of());
  }

  List<ResolvedRulebook> paths() {
    return List.copyOf(paths);
  }

  /** Meetings with about 400 different sets of values. */
  MeetingFacts[] mixture(int count) {
    List<List<ControlValues>> sets = new ArrayList<>();
    for (ResolvedRulebook path : paths) {
      List<ControlValues> some = new ArrayList<>();
      for (int i = 0; i < SETS / paths.size(); i++) {
        some.add(drift(path, i == 0 ? 0 : 1 + random.nextInt(6)));
      }
      sets.add(some);
    }
    MeetingFacts[] meetings = new MeetingFacts[count];
    for (int i = 0; i < count; i++) {
      int path = random.nextInt(paths.size());
      List<ControlValues> some = sets.get(path);
      // few sets are common and many are rare
      int pick = (int) (some.size() * Math.pow(random.nextDouble(), 3));
      meetings[i] = facts(i, paths.get(path), some.get(pick));
    }
    return meetings;
  }

  /** Meetings of which no two have the same values. */
  MeetingFacts[] distinct(int count) {
    Map<ControlValues, Boolean> seen = new HashMap<>();
    MeetingFacts[] meetings = new MeetingFacts[count];
    for (int i = 0; i < count; i++) {
      ResolvedRulebook path = paths.get(random.nextInt(paths.size()));
      ControlValues values = drift(path, 1 + random.nextInt(6));
      while (seen.put(values, true) != null) {
        values = drift(path, 4 + random.nextInt(6));
      }
      meetings[i] = facts(i, path, values);
    }
    return meetings;
  }

  private ControlValues drift(ResolvedRulebook path, int moved) {
    ControlValues values = complete(path.starts());
    for (int i = 0; i < moved; i++) {
      Control control = Control.all().get(random.nextInt(Control.COUNT));
      values = values.with(control, random.nextInt(10) == 0 ? null : value(control));
    }
    return values;
  }

  private static ControlValues complete(ControlValues starts) {
    ControlValues values = starts;
    for (Control control : Control.all()) {
      values = values.get(control) == null ? values.with(control, strict(control)) : values;
    }
    return values;
  }

  private static Value strict(Control control) {
    List<Value> stricter = control.tightenings(control.loosest());
    return stricter.isEmpty() ? control.loosest() : stricter.get(stricter.size() - 1);
  }

  private MeetingFacts facts(int i, ResolvedRulebook path, ControlValues values) {
    boolean named = random.nextInt(5) > 0;
    Reach reach =
        new Reach(
            named,
            named && random.nextInt(4) == 0 ? Standing.OUTSIDER : Standing.MEMBER,
            true,
            random.nextBoolean());
    PasscodeFacts passcode =
        new PasscodeFacts(
            12,
            Control.PASSCODE_MAKEUP.parse("mixed"),
            random.nextInt(100) == 0 ? Weakness.COMMON : Weakness.NONE,
            false,
            "p" + i);
    return new MeetingFacts(
        "m-" + i,
        "host" + random.nextInt(5000) + "@saltmarsh.example",
        subjects.computeIfAbsent(
            new Subject(path, values, FactsBuilder.relevant(reach, path, values)), s -> s),
        reach,
        new MeetingFacts.Plan(100, 240),
        passcode,
        null,
        60,
        random.nextInt(200) == 0,
        random.nextInt(200) == 0,
        random.nextInt(3),
        random.nextInt(3),
        2 + random.nextInt(12),
        random.nextInt(20) == 0 ? 3 : 0,
        List.of(),
        List.of(),
        List.of(),
        List.of());
  }

  private Layer organisation() {
    return layer(Scope.ORGANISATION, 2, 4);
  }

  private Layer layer(Scope scope, int oneIn, int guarantees) {
    List<Rule> rules = new ArrayList<>();
    for (Control control : Control.all()) {
      if (random.nextInt(oneIn) == 0) {
        rules.add(rule(control));
      }
    }
    List<Guarantee> given = new ArrayList<>();
    for (int i = 0; i < guarantees; i++) {
      given.add(
          new Guarantee(
              scope + "-g" + i,
              List.of(
                  Persona.LINK_FINDER, Persona.all().get(3 + random.nextInt(8)), Persona.FORWARDED),
              List.of(Right.SHARE_SCREEN, Right.all().get(random.nextInt(16))),
              Level.HOST_LETS_IN,
              1 + random.nextInt(4),
              ""));
    }
    return new Layer(scope, rules, given);
  }

  private Rule rule(Control control) {
    int importance = 1 + random.nextInt(4);
    Value limit = value(control);
    return switch (random.nextInt(control.isNeutral() ? 2 : 4)) {
      case 0 -> Rule.suggest(control, limit, importance, "");
      case 1 -> Rule.fix(control, limit, false, importance, "");
      default -> Rule.bound(control, limit, limit, false, importance, "");
    };
  }

  private Value value(Control control) {
    if (control.scale() instanceof Scale.Words words) {
      return words.values().get(random.nextInt(words.values().size()));
    }
    if (control.scale() instanceof Scale.Numbers numbers) {
      return new Value.Amount(
          numbers.largerIsStricter() ? 6 + random.nextInt(8) : 5 * random.nextInt(7));
    }
    return control == Control.AUDIO_ROUTES
        ? control.loosest()
        : new Value.Names(random.nextBoolean() ? List.of("IE") : List.of("GB", "IE"));
  }
}
