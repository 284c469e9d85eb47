package app.uprightwarden.core.drafting;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.rulebook.Guarantee;
import app.uprightwarden.core.rulebook.Layer;
import app.uprightwarden.core.rulebook.Rule;
import app.uprightwarden.core.rulebook.Rulebook;
import app.uprightwarden.core.rulebook.Scope;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** How two rulebooks differ: layer by layer, rule by rule, guarantee by guarantee, in words. */
public final class Comparison {
  /** What became of a rule or guarantee. */
  public enum Word {
    NEW("new"),
    GONE("gone"),
    TIGHTER("tighter"),
    LOOSER("looser"),
    MOVED("moved sideways"),
    BINDS("binds now"),
    SUGGESTS("only suggested now"),
    FIXED("fixed now"),
    FREED("no longer fixed"),
    START("starts elsewhere"),
    SEALED("sealed now"),
    UNSEALED("no longer sealed"),
    WEIGHTIER("more important"),
    LIGHTER("less important"),
    REASON("another reason");

    private final String phrase;

    Word(String phrase) {
      this.phrase = phrase;
    }

    /** As it is written in files and answers, stable for ever. */
    public String id() {
      return name().toLowerCase(Locale.ROOT);
    }

    /** As people read it. */
    public String phrase() {
      return phrase;
    }
  }

  /** A rule that differs; one side is null where it is new or gone. */
  public record RuleLine(
      Scope layer, Control control, @Nullable Rule before, @Nullable Rule after, Set<Word> words) {}

  /** A guarantee that differs; one side is null where it is new or gone. */
  public record GuaranteeLine(
      Scope layer,
      String id,
      @Nullable Guarantee before,
      @Nullable Guarantee after,
      Set<Word> words) {}

  private final List<RuleLine> rules = new ArrayList<>();
  private final List<GuaranteeLine> guarantees = new ArrayList<>();

  private Comparison() {}

  /** How one rulebook differs from another. */
  public static Comparison of(Rulebook before, Rulebook after) {
    Comparison comparison = new Comparison();
    Set<Scope> scopes = new LinkedHashSet<>();
    before.layers().forEach(layer -> scopes.add(layer.scope()));
    after.layers().forEach(layer -> scopes.add(layer.scope()));
    for (Scope scope : RulebookItems.ordered(scopes)) {
      Layer a = RulebookItems.layer(before, scope);
      Layer b = RulebookItems.layer(after, scope);
      for (Control control : Control.all()) {
        comparison.rule(scope, control, a.ruleFor(control), b.ruleFor(control));
      }
      Set<String> ids = new LinkedHashSet<>();
      a.guarantees().forEach(g -> ids.add(g.id()));
      b.guarantees().forEach(g -> ids.add(g.id()));
      ids.forEach(
          id ->
              comparison.guarantee(
                  scope, id, RulebookItems.guarantee(a, id), RulebookItems.guarantee(b, id)));
    }
    return comparison;
  }

  /** Rules that differ, layer by layer, in the table's order. */
  public List<RuleLine> rules() {
    return List.copyOf(rules);
  }

  /** Guarantees that differ, layer by layer. */
  public List<GuaranteeLine> guarantees() {
    return List.copyOf(guarantees);
  }

  private void rule(Scope scope, Control control, @Nullable Rule a, @Nullable Rule b) {
    if (!Objects.equals(a, b)) {
      rules.add(new RuleLine(scope, control, a, b, words(control, a, b)));
    }
  }

  private static Set<Word> words(Control control, @Nullable Rule a, @Nullable Rule b) {
    if (a == null || b == null) {
      return Set.of(a == null ? Word.NEW : Word.GONE);
    }
    Set<Word> words = EnumSet.noneOf(Word.class);
    Value from = a.limit();
    Value to = b.limit();
    if (from == null && to != null) {
      words.add(Word.BINDS);
    } else if (from != null && to == null) {
      words.add(Word.SUGGESTS);
    } else if (from != null && to != null && !from.equals(to)) {
      boolean tighter = control.within(to, from);
      words.add(tighter ? Word.TIGHTER : control.within(from, to) ? Word.LOOSER : Word.MOVED);
    }
    if (from != null && to != null && a.mode() != b.mode()) {
      words.add(a.mode().compareTo(b.mode()) < 0 ? Word.FIXED : Word.FREED);
    }
    if (!a.start().equals(b.start()) && !words.contains(Word.FIXED)) {
      words.add(Word.START);
    }
    both(words, a.sealed(), b.sealed(), Word.SEALED, Word.UNSEALED);
    weight(words, a.importance(), b.importance());
    if (!a.reason().equals(b.reason())) {
      words.add(Word.REASON);
    }
    return words;
  }

  private static void both(Set<Word> words, boolean a, boolean b, Word now, Word noLonger) {
    if (a != b) {
      words.add(b ? now : noLonger);
    }
  }

  private static void weight(Set<Word> words, int a, int b) {
    if (a != b) {
      words.add(b > a ? Word.WEIGHTIER : Word.LIGHTER);
    }
  }

  private void guarantee(Scope scope, String id, @Nullable Guarantee a, @Nullable Guarantee b) {
    if (!Objects.equals(a, b)) {
      guarantees.add(new GuaranteeLine(scope, id, a, b, words(a, b)));
    }
  }

  private static Set<Word> words(@Nullable Guarantee a, @Nullable Guarantee b) {
    if (a == null || b == null) {
      return Set.of(a == null ? Word.NEW : Word.GONE);
    }
    Set<Word> words = EnumSet.noneOf(Word.class);
    boolean tighter = forbids(b, a);
    boolean looser = forbids(a, b);
    if (!(tighter && looser)) {
      words.add(tighter ? Word.TIGHTER : looser ? Word.LOOSER : Word.MOVED);
    }
    weight(words, a.importance(), b.importance());
    if (!a.reason().equals(b.reason())) {
      words.add(Word.REASON);
    }
    return words;
  }

  /** Whether one guarantee forbids all that another does. */
  private static boolean forbids(Guarantee one, Guarantee other) {
    return new HashSet<>(one.who()).containsAll(other.who())
        && new HashSet<>(one.rights()).containsAll(other.rights())
        && one.ceiling().compareTo(other.ceiling()) <= 0;
  }
}
