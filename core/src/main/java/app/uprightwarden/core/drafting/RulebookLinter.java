package app.uprightwarden.core.drafting;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.exposure.Effects;
import app.uprightwarden.core.exposure.Matrix;
import app.uprightwarden.core.rulebook.Guarantee;
import app.uprightwarden.core.rulebook.Layer;
import app.uprightwarden.core.rulebook.Mode;
import app.uprightwarden.core.rulebook.ResolvedRule;
import app.uprightwarden.core.rulebook.ResolvedRulebook;
import app.uprightwarden.core.rulebook.Rule;
import app.uprightwarden.core.rulebook.Rulebook;
import app.uprightwarden.core.rulebook.Scope;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * Reads a rulebook for what cannot be meant: rules that a seal makes void, starts outside their
 * limit, guarantees that nothing keeps, controls that nothing governs, layers that undo each other.
 */
public final class RulebookLinter {
  private static final int MAX_NAMED = 3;

  /** Layers that apply together, and for whom. */
  private record Path(List<Layer> layers, ResolvedRulebook rules, String name) {
    boolean has(Scope scope) {
      return layers.stream().anyMatch(layer -> layer.scope().equals(scope));
    }
  }

  /** Remarks alike but for the path they hold on. */
  private record Likeness(
      Remark.Kind kind,
      Remark.Weight weight,
      Scope layer,
      @Nullable Control control,
      @Nullable String guarantee,
      String text) {}

  private final Rulebook rulebook;
  private final Function<Scope, String> name;
  private final List<Path> paths = new ArrayList<>();
  private final Map<Likeness, Set<Path>> found = new LinkedHashMap<>();

  private RulebookLinter(Rulebook rulebook, Function<Scope, String> name) {
    this.rulebook = rulebook;
    this.name = name;
  }

  /**
   * Every remark, what is wrong first.
   *
   * @param units every unit's id
   * @param kinds every kind's id
   * @param layers the rulebook's layers
   * @param name of a layer, as people read it
   */
  public static List<Remark> remarks(
      Rulebook rulebook,
      List<String> units,
      List<String> kinds,
      Layers layers,
      Function<Scope, String> name) {
    RulebookLinter linter = new RulebookLinter(rulebook, name);
    linter.collectPaths(units, kinds, layers);
    linter.ownRules();
    for (Path path : linter.paths) {
      linter.walk(path);
      linter.guarantees(path);
      linter.idle(path);
    }
    return linter.written();
  }

  private void collectPaths(List<String> units, List<String> kinds, Layers layers) {
    Set<List<Scope>> seen = new HashSet<>();
    List<@Nullable String> everyUnit = new ArrayList<>(units);
    everyUnit.add(0, null);
    List<@Nullable String> everyKind = new ArrayList<>(kinds);
    everyKind.add(0, null);
    for (String unit : everyUnit) {
      for (String kind : everyKind) {
        List<Layer> applying = layers.applying(unit, kind);
        if (seen.add(applying.stream().map(Layer::scope).toList())) {
          paths.add(new Path(applying, layers.of(unit, kind), pathName(applying)));
        }
      }
    }
  }

  private String pathName(List<Layer> applying) {
    List<String> names =
        applying.stream()
            .map(Layer::scope)
            .filter(scope -> scope.level() != Scope.Level.ORGANISATION)
            .map(name)
            .toList();
    return names.isEmpty() ? "everybody else" : String.join(" + ", names);
  }

  private void add(
      Path path,
      Remark.Kind kind,
      Remark.Weight weight,
      Scope layer,
      @Nullable Control control,
      @Nullable String guarantee,
      String text) {
    found
        .computeIfAbsent(
            new Likeness(kind, weight, layer, control, guarantee, text), k -> new HashSet<>())
        .add(path);
  }

  /** What can be said of a layer's rules whatever stands above them. */
  private void ownRules() {
    for (Layer layer : rulebook.layers()) {
      for (Rule rule : layer.rules()) {
        Value limit = rule.limit();
        if (limit != null && !rule.control().within(rule.start(), limit)) {
          own(
              layer,
              rule,
              Remark.Kind.START_OUTSIDE,
              Remark.Weight.WRONG,
              "The start “"
                  + rule.control().label(rule.start())
                  + "” lies outside the limit “"
                  + rule.control().label(limit)
                  + "”; new meetings begin at the limit.");
        }
        String condition = limit == null ? null : namesWithin(rule.control(), limit);
        if (condition != null) {
          own(
              layer,
              rule,
              Remark.Kind.NAMES_AGAINST_STANDING,
              Remark.Weight.NOTE,
              "“by name” is within “"
                  + label(rule.control(), limit)
                  + "” only where "
                  + condition
                  + "; other meetings that go by name fall foul.");
        }
      }
    }
  }

  /** When a list of names is within a standing; null where the limit is no standing. */
  private static @Nullable String namesWithin(Control control, Value limit) {
    String word = limit instanceof Value.Word w ? w.word() : "";
    boolean standing = word.equals("members") || word.equals("guests") || word.equals("partners");
    if (control == Control.LOBBY_BYPASS && standing) {
      return "forwarding is blocked and everybody invited by name has that standing";
    }
    return control == Control.PRESENTER_ROLE && standing
        ? "every listed presenter is a member"
        : null;
  }

  private void own(Layer layer, Rule rule, Remark.Kind kind, Remark.Weight weight, String text) {
    found.put(new Likeness(kind, weight, layer.scope(), rule.control(), null, text), Set.of());
  }

  /** Goes through each control's layers and says where one does nothing or undoes another. */
  private void walk(Path path) {
    for (Control control : Control.all()) {
      for (int i = 1; i < path.layers().size(); i++) {
        var rule = path.layers().get(i).ruleFor(control);
        ResolvedRule above = ResolvedRulebook.resolve(control, path.layers().subList(0, i));
        if (rule == null || above == null) {
          continue;
        }
        Scope layer = path.layers().get(i).scope();
        ResolvedRule with = ResolvedRulebook.resolve(control, path.layers().subList(0, i + 1));
        var action = with == null ? null : with.trace().get(with.trace().size() - 1).action();
        if (action == null) {
          continue;
        }
        switch (action) {
          case OVERRULED ->
              add(
                  path,
                  Remark.Kind.VOID,
                  Remark.Weight.WRONG,
                  layer,
                  control,
                  null,
                  "This rule does nothing: "
                      + name.apply(above.source())
                      + " has sealed “"
                      + label(control, above.limit())
                      + "”.");
          case START_CHANGED -> startUnderSeal(path, layer, control, rule.start(), above);
          case REPLACED -> undone(path, layer, control, rule.limit(), above);
          default -> {}
        }
      }
    }
  }

  private void startUnderSeal(
      Path path, Scope layer, Control control, Value start, ResolvedRule above) {
    if (above.limit() != null && !control.within(start, above.limit())) {
      add(
          path,
          Remark.Kind.START_OUTSIDE,
          Remark.Weight.WRONG,
          layer,
          control,
          null,
          "The start “"
              + control.label(start)
              + "” lies outside the limit “"
              + label(control, above.limit())
              + "” that "
              + name.apply(above.source())
              + " has sealed; new meetings begin at the limit.");
    }
  }

  private void undone(
      Path path, Scope layer, Control control, @Nullable Value limit, ResolvedRule above) {
    Value was = above.limit();
    if (was == null || (limit != null && control.within(limit, was))) {
      return;
    }
    boolean sideways =
        layer.level() == Scope.Level.KIND && above.source().level() == Scope.Level.UNIT;
    String what =
        limit == null
            ? "The suggestion takes away the limit “"
            : control.isNeutral() ? "This differs from “" : "This is looser than “";
    add(
        path,
        Remark.Kind.UNDONE,
        sideways || limit == null ? Remark.Weight.DOUBTFUL : Remark.Weight.NOTE,
        layer,
        control,
        null,
        what
            + label(control, was)
            + "” of "
            + name.apply(above.source())
            + ", and stands in its place.");
  }

  private void guarantees(Path path) {
    Matrix atStart = null;
    for (ResolvedRulebook.Given given : path.rules().guarantees()) {
      Guarantee guarantee = given.guarantee();
      if (Matrix.of(strictest(path.rules(), null)).breaks(guarantee)) {
        add(
            path,
            Remark.Kind.UNKEEPABLE,
            Remark.Weight.WRONG,
            given.layer(),
            null,
            guarantee.id(),
            unkeepable(path.rules(), guarantee));
        continue;
      }
      atStart = atStart == null ? Matrix.of(path.rules().starts()) : atStart;
      Matrix.Cell worst = atStart.breaks(guarantee) ? atStart.worst(guarantee) : null;
      if (worst != null) {
        add(
            path,
            Remark.Kind.BROKEN_AT_START,
            Remark.Weight.DOUBTFUL,
            given.layer(),
            null,
            guarantee.id(),
            "A meeting in which nothing was changed breaks this: someone who "
                + worst.persona().phrase()
                + " can "
                + worst.right().phrase()
                + " "
                + worst.level().phrase()
                + ".");
      }
    }
  }

  private static String unkeepable(ResolvedRulebook rules, Guarantee guarantee) {
    List<String> toBlame =
        Control.matrix().stream()
            .filter(c -> fixed(rules, c))
            .filter(c -> !Matrix.of(strictest(rules, c)).breaks(guarantee))
            .map(Control::title)
            .toList();
    return toBlame.isEmpty()
        ? "No setting can keep this, whatever hosts choose."
        : "No setting can keep this while " + String.join(" or ", toBlame) + " is fixed as it is.";
  }

  private static boolean fixed(ResolvedRulebook rules, Control control) {
    ResolvedRule rule = rules.rule(control);
    return rule != null && rule.mode() == Mode.FIX;
  }

  /** Every matrix control at its strictest, save those fixed; one of them may be set free. */
  private static ControlValues strictest(ResolvedRulebook rules, @Nullable Control freed) {
    ControlValues values = ControlValues.NONE;
    for (Control control : Control.matrix()) {
      ResolvedRule rule = rules.rule(control);
      if (rule != null && rule.mode() == Mode.FIX && control != freed) {
        values = values.with(control, rule.start());
      } else {
        List<Value> stricter = control.tightenings(control.loosest());
        values =
            stricter.isEmpty() ? values : values.with(control, stricter.get(stricter.size() - 1));
      }
    }
    return values;
  }

  private void idle(Path path) {
    ControlValues starts = path.rules().starts();
    for (ResolvedRule rule : path.rules().rules()) {
      if (!rule.governs()) {
        continue;
      }
      List<Control> by = Effects.defeatedBy(starts, rule.control());
      if (!by.isEmpty()) {
        add(
            path,
            Remark.Kind.IDLE,
            Remark.Weight.DOUBTFUL,
            rule.source(),
            rule.control(),
            null,
            "“"
                + rule.control().label(rule.start())
                + "” does nothing at the starts in force, because of "
                + by.stream()
                    .map(c -> c.title() + " “" + c.label(starts.effective(c)) + "”")
                    .collect(Collectors.joining(", "))
                + ".");
      }
    }
  }

  private List<Remark> written() {
    List<Remark> remarks = new ArrayList<>();
    found.forEach(
        (like, where) ->
            remarks.add(
                new Remark(
                    like.kind(),
                    like.weight(),
                    like.layer(),
                    like.control(),
                    like.guarantee(),
                    like.text() + where(like.layer(), where))));
    for (Control control : Control.all()) {
      boolean nowhere = rulebook.layers().stream().noneMatch(l -> l.ruleFor(control) != null);
      if (nowhere) {
        remarks.add(
            new Remark(
                Remark.Kind.GOVERNED_NOWHERE,
                Remark.Weight.NOTE,
                null,
                control,
                null,
                "No layer has a rule for this: nothing is filled in and hosts do as they like."));
      }
    }
    remarks.sort(Comparator.comparing(Remark::weight).thenComparing(Remark::kind));
    return List.copyOf(remarks);
  }

  /** For whom a remark holds, where that is not everybody its layer applies to. */
  private String where(Scope layer, Set<Path> where) {
    long all = paths.stream().filter(path -> path.has(layer)).count();
    if (where.isEmpty() || where.size() == all) {
      return "";
    }
    List<String> names = where.stream().map(Path::name).sorted().toList();
    String some = names.stream().limit(MAX_NAMED).collect(Collectors.joining("; "));
    int more = names.size() - MAX_NAMED;
    return " (For " + some + (more > 0 ? " and " + more + " more" : "") + ".)";
  }

  private static String label(Control control, @Nullable Value value) {
    return value == null ? "" : control.label(value);
  }
}
