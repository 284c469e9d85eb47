package app.uprightwarden.core.remedy;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.control.Scale;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.door.Door;
import app.uprightwarden.core.door.Moment;
import app.uprightwarden.core.door.Passage;
import app.uprightwarden.core.exposure.Exposure;
import app.uprightwarden.core.exposure.Matrix;
import app.uprightwarden.core.people.Joiner;
import app.uprightwarden.core.people.Persona;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/**
 * What it would take at the door: the least changes of controls that let a joiner in, or keep them
 * out. Every set of at most three controls is tried, with every value a control has a word for and,
 * of minutes and sets, those that can matter.
 */
public final class AdmissionSearch {
  private static final int MAX_CHANGES = 3;

  /** Those that the door asks, and those by which a joiner comes to hold the passcode. */
  private static final List<Control> CONTROLS =
      List.of(
          Control.PASSCODE,
          Control.PASSCODE_IN_LINK,
          Control.PASSCODE_IN_MAIL,
          Control.WAITING_ROOM,
          Control.LOBBY_BYPASS,
          Control.PHONE_BYPASS,
          Control.EARLY_ENTRY,
          Control.SIGN_IN,
          Control.REGISTRATION,
          Control.LATE_ENTRY,
          Control.RETURN_AFTER_REMOVAL,
          Control.REGIONS,
          Control.FORWARDING,
          Control.AUDIO_ROUTES);

  /** What is wanted of the door. */
  public enum Goal {
    /** In by themselves. */
    IN,
    /** Held until somebody lets them in, or refused. */
    NOT_IN,
    /** Refused. */
    REFUSED;

    /** Whether an answer of the door is what is wanted. */
    public boolean isMet(Passage.Outcome outcome) {
      return switch (this) {
        case IN -> outcome == Passage.Outcome.IN;
        case NOT_IN -> outcome != Passage.Outcome.IN;
        case REFUSED -> outcome == Passage.Outcome.REFUSED;
      };
    }
  }

  /**
   * One way to it.
   *
   * @param changes in the table's order
   * @param friction what they cost people together
   * @param exposureTenths of the meeting afterwards
   * @param beside for whom else it changes the wrong way at this moment: invited personas who are
   *     no longer in by themselves where somebody is kept out, uninvited ones who are where
   *     somebody is let in
   */
  public record Way(
      List<Remedy.Change> changes, int friction, int exposureTenths, List<Persona> beside) {}

  private final ControlValues values;
  private final Function<ControlValues, Joiner> joiner;
  private final Moment moment;
  private final Goal goal;
  private final Map<Control, List<Value>> others = new EnumMap<>(Control.class);

  private AdmissionSearch(
      ControlValues values, Function<ControlValues, Joiner> joiner, Moment moment, Goal goal) {
    this.values = values;
    this.joiner = joiner;
    this.moment = moment;
    this.goal = goal;
    Joiner now = joiner.apply(values);
    for (Control control : CONTROLS) {
      others.put(control, others(control, now));
    }
  }

  /**
   * The least ways, each with other controls than the one before it: first those that turn out
   * wrong for nobody else, then those that cost less and do.
   *
   * @param joiner who comes, which may depend on the values: a passcode in the link is held by
   *     whoever has the link
   * @return none where it is so already, or where no change of at most three controls does it
   */
  public static List<Way> least(
      ControlValues values,
      Function<ControlValues, Joiner> joiner,
      Moment moment,
      Goal goal,
      int most) {
    AdmissionSearch search = new AdmissionSearch(values, joiner, moment, goal);
    if (search.isMet(values)) {
      return List.of();
    }
    List<Way> ways = new ArrayList<>();
    for (int size = 1; size <= MAX_CHANGES; size++) {
      search.choose(0, size, new ArrayList<>(), ways);
    }
    if (ways.isEmpty()) {
      return List.of();
    }
    List<Way> harmless = cheapest(ways.stream().filter(way -> way.beside().isEmpty()).toList());
    List<Way> any = cheapest(ways);
    boolean isDearer = harmless.isEmpty() || any.get(0).friction() < harmless.get(0).friction();
    List<Way> least = new ArrayList<>(harmless);
    if (isDearer) {
      least.addAll(any);
    }
    return least.stream().limit(most).toList();
  }

  /** Of equal friction, those first that do least to others. */
  private static List<Way> cheapest(List<Way> ways) {
    int least = ways.stream().mapToInt(Way::friction).min().orElse(0);
    return ways.stream()
        .filter(way -> way.friction() == least)
        .sorted(
            Comparator.<Way>comparingInt(way -> way.beside().size())
                .thenComparingInt(way -> way.changes().size())
                .thenComparingInt(Way::exposureTenths))
        .toList();
  }

  private boolean isMet(ControlValues some) {
    return goal.isMet(Door.outcome(some, joiner.apply(some), moment));
  }

  /** Tries the sets of a size that hold none of the ways found before. */
  private void choose(int from, int left, List<Control> chosen, List<Way> ways) {
    if (left == 0) {
      boolean holdsLess =
          ways.stream()
              .anyMatch(way -> way.changes().stream().allMatch(c -> chosen.contains(c.control())));
      Way way = holdsLess ? null : best(chosen);
      if (way != null) {
        ways.add(way);
      }
      return;
    }
    for (int i = from; i <= CONTROLS.size() - left; i++) {
      if (!others.getOrDefault(CONTROLS.get(i), List.of()).isEmpty()) {
        chosen.add(CONTROLS.get(i));
        choose(i + 1, left - 1, chosen, ways);
        chosen.remove(chosen.size() - 1);
      }
    }
  }

  /** Of the values these controls can take, those that move least; the order is nearest first. */
  private @Nullable Way best(List<Control> chosen) {
    ControlValues found = nearest(chosen, 0, values);
    if (found == null) {
      return null;
    }
    List<Remedy.Change> changes = new ArrayList<>();
    int friction = 0;
    for (Control control : chosen) {
      changes.add(new Remedy.Change(control, values.get(control), found.effective(control), false));
      friction += control.friction();
    }
    return new Way(
        List.copyOf(changes),
        friction,
        Exposure.of(Matrix.of(found)).scoreTenths(),
        Persona.all().stream().filter(p -> turnsWrong(p, found)).toList());
  }

  private boolean turnsWrong(Persona persona, ControlValues after) {
    boolean was = isIn(persona, values);
    boolean is = isIn(persona, after);
    return goal == Goal.IN ? !persona.invited() && is && !was : persona.invited() && was && !is;
  }

  private boolean isIn(Persona persona, ControlValues some) {
    return Door.outcome(some, Matrix.joiner(persona, some), moment) == Passage.Outcome.IN;
  }

  private @Nullable ControlValues nearest(List<Control> chosen, int at, ControlValues so) {
    if (at == chosen.size()) {
      return isMet(so) ? so : null;
    }
    Control control = chosen.get(at);
    for (Value value : others.getOrDefault(control, List.of())) {
      ControlValues found = nearest(chosen, at + 1, so.with(control, value));
      if (found != null) {
        return found;
      }
    }
    return null;
  }

  /** The other values of a control that can matter to this joiner now, the nearest first. */
  private List<Value> others(Control control, Joiner now) {
    Value here = values.effective(control);
    List<Value> some = new ArrayList<>();
    if (control.scale() instanceof Scale.Words words) {
      int rank = values.rank(control);
      words.values().stream()
          .filter(word -> word.rank() != rank)
          .sorted(Comparator.comparingInt(word -> Math.abs(word.rank() - rank)))
          .forEach(some::add);
      return List.copyOf(some);
    }
    switch (control) {
      case EARLY_ENTRY -> {
        some.add(new Value.Amount(0));
        some.add(new Value.Amount(Math.max(1, -moment.minutesFromStart())));
      }
      case LATE_ENTRY -> {
        some.add(new Value.Amount(Math.max(0, moment.minutesFromStart())));
        some.add(new Value.Amount(Math.max(0, moment.minutesFromStart() - 1)));
      }
      case REGIONS -> {
        if (now.region() != null
            && here instanceof Value.Names names
            && !names.members().isEmpty()) {
          List<String> more = new ArrayList<>(names.members());
          more.add(now.region());
          some.add(new Value.Names(more.stream().distinct().sorted().toList()));
        }
      }
      case AUDIO_ROUTES -> {
        some.add(new Value.Names(List.of("computer", "phone")));
        some.add(new Value.Names(List.of("computer")));
      }
      default -> throw new IllegalStateException(control + " is no control of the door");
    }
    return some.stream().filter(value -> !value.equals(here)).distinct().toList();
  }
}
