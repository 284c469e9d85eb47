package app.uprightwarden.core;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.control.Scale;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.meeting.Reach;
import app.uprightwarden.core.people.Persona;
import app.uprightwarden.core.people.Right;
import app.uprightwarden.core.people.Standing;
import app.uprightwarden.core.rulebook.Guarantee;
import app.uprightwarden.core.rulebook.Layer;
import app.uprightwarden.core.rulebook.Level;
import app.uprightwarden.core.rulebook.Rule;
import app.uprightwarden.core.rulebook.Scope;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Random;

/** Random values, rules and layers from a seed, for laws that must hold of all of them. */
public final class RandomMeetings {
  private static final List<String> COUNTRIES = List.of("FR", "GB", "IE", "NO");
  private static final int[] MINUTES = {0, 5, 10, 15, 30, Value.Amount.UNLIMITED};
  private static final int[] LENGTHS = {4, 6, 8, 10, 12};

  private final Random random;

  public RandomMeetings(Random random) {
    this.random = random;
  }

  public Value value(Control control) {
    if (control.scale() instanceof Scale.Words words) {
      return words.values().get(random.nextInt(words.values().size()));
    }
    if (control.scale() instanceof Scale.Numbers numbers) {
      int[] from = numbers.largerIsStricter() ? LENGTHS : MINUTES;
      return new Value.Amount(from[random.nextInt(from.length)]);
    }
    List<String> universe =
        control == Control.AUDIO_ROUTES ? List.of("computer", "phone") : COUNTRIES;
    List<String> some = universe.stream().filter(name -> random.nextBoolean()).toList();
    boolean empty = some.isEmpty() && control == Control.AUDIO_ROUTES;
    return new Value.Names(empty ? List.of("computer") : some);
  }

  /** Values with about one control in twelve not evidenced. */
  public ControlValues values() {
    Map<Control, Value> values = new EnumMap<>(Control.class);
    for (Control control : Control.all()) {
      if (random.nextInt(12) > 0) {
        values.put(control, value(control));
      }
    }
    return ControlValues.of(values);
  }

  public Layer layer(Scope scope) {
    return layer(scope, 2, random.nextInt(2));
  }

  /**
   * @param oneIn one control in so many has a rule
   * @param guarantees how many
   */
  public Layer layer(Scope scope, int oneIn, int guarantees) {
    List<Rule> rules = new ArrayList<>();
    for (Control control : Control.all()) {
      if (random.nextInt(oneIn) == 0) {
        rules.add(rule(control));
      }
    }
    List<Guarantee> given = new ArrayList<>();
    for (int i = 0; i < guarantees; i++) {
      given.add(guarantee(scope + "-" + i));
    }
    return new Layer(scope, rules, given);
  }

  private Rule rule(Control control) {
    int importance = 1 + random.nextInt(4);
    return switch (random.nextInt(control.isNeutral() ? 2 : 3)) {
      case 0 -> Rule.suggest(control, value(control), importance, "");
      case 1 -> Rule.fix(control, value(control), random.nextInt(3) == 0, importance, "");
      default ->
          Rule.bound(
              control, value(control), value(control), random.nextInt(3) == 0, importance, "");
    };
  }

  public Guarantee guarantee(String id) {
    List<Persona> who = some(Persona.all(), 3);
    List<Right> rights = some(Right.all(), 3);
    Level ceiling = Level.all().get(random.nextInt(4));
    return new Guarantee(id, who, rights, ceiling, 1 + random.nextInt(4), "");
  }

  private <T> List<T> some(List<T> all, int most) {
    List<T> picked = new ArrayList<>();
    for (int i = 0; i <= random.nextInt(most); i++) {
      T one = all.get(random.nextInt(all.size()));
      if (!picked.contains(one)) {
        picked.add(one);
      }
    }
    return picked;
  }

  public Reach reach() {
    boolean named = random.nextBoolean();
    Standing widest = named ? Standing.values()[random.nextInt(4)] : Standing.MEMBER;
    return new Reach(named, widest, random.nextBoolean(), random.nextBoolean());
  }
}
