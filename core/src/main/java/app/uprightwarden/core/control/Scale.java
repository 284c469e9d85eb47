package app.uprightwarden.core.control;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/** The kind of values a control takes, and which of two is the stricter. */
public sealed interface Scale {

  /** Reads a value from its plain form: a text, a whole number or a list of texts. */
  Value parse(@Nullable Object plain);

  /** The value as written in files: {@link String}, {@link Integer} or a list of strings. */
  Object plain(Value value);

  /** Whether {@code value} stands at {@code limit} or on its strict side, by the static order. */
  boolean within(Value value, Value limit);

  /** The loosest value; for a neutral scale its first. */
  Value loosest();

  /** What may be written, for an error message. */
  String allowed();

  /** A word with what people read for it. */
  record Rung(String word, String label) {
    static Rung of(String declaration) {
      int colon = declaration.indexOf(':');
      return colon < 0
          ? new Rung(declaration, declaration.replace('-', ' '))
          : new Rung(declaration.substring(0, colon), declaration.substring(colon + 1));
    }
  }

  /** Words in order, loosest first; where {@code neutral}, the order means nothing. */
  record Words(List<Rung> rungs, boolean neutral, List<Value.Word> values) implements Scale {
    static Words of(boolean neutral, String... declarations) {
      List<Rung> rungs = new ArrayList<>();
      List<Value.Word> values = new ArrayList<>();
      for (String declaration : declarations) {
        Rung rung = Rung.of(declaration);
        values.add(new Value.Word(rung.word(), rungs.size()));
        rungs.add(rung);
      }
      return new Words(List.copyOf(rungs), neutral, List.copyOf(values));
    }

    @Override
    public Value parse(@Nullable Object plain) {
      for (Value.Word value : values) {
        if (value.word().equals(plain)) {
          return value;
        }
      }
      throw new InvalidValueException(plain, allowed());
    }

    @Override
    public Object plain(Value value) {
      return ((Value.Word) value).word();
    }

    @Override
    public boolean within(Value value, Value limit) {
      int rank = ((Value.Word) value).rank();
      int bar = ((Value.Word) limit).rank();
      return neutral ? rank == bar : rank >= bar;
    }

    @Override
    public Value loosest() {
      return values.get(0);
    }

    @Override
    public String allowed() {
      return "one of " + String.join(", ", rungs.stream().map(Rung::word).toList());
    }
  }

  /**
   * Whole numbers.
   *
   * @param unit plural, for people
   * @param unlimitedWord looser than every number, or null where there is no such word
   * @param largerIsStricter true for lengths, false for minutes
   * @param max the largest number taken
   */
  record Numbers(
      String unit, @Nullable Rung unlimitedWord, boolean largerIsStricter, int max, String zero)
      implements Scale {
    @Override
    public Value parse(@Nullable Object plain) {
      if (unlimitedWord != null && unlimitedWord.word().equals(plain)) {
        return new Value.Amount(Value.Amount.UNLIMITED);
      }
      if (plain instanceof Number number
          && number.doubleValue() == Math.rint(number.doubleValue())
          && number.doubleValue() >= 0
          && number.doubleValue() <= max) {
        return new Value.Amount(number.intValue());
      }
      throw new InvalidValueException(plain, allowed());
    }

    @Override
    public Object plain(Value value) {
      int number = ((Value.Amount) value).number();
      return unlimitedWord != null && number == Value.Amount.UNLIMITED
          ? unlimitedWord.word()
          : (Object) number;
    }

    @Override
    public boolean within(Value value, Value limit) {
      int number = ((Value.Amount) value).number();
      int bar = ((Value.Amount) limit).number();
      return largerIsStricter ? number >= bar : number <= bar;
    }

    @Override
    public Value loosest() {
      return new Value.Amount(largerIsStricter ? 0 : Value.Amount.UNLIMITED);
    }

    @Override
    public String allowed() {
      String numbers = "a whole number of " + unit + " from 0 to " + max;
      return unlimitedWord == null ? numbers : unlimitedWord.word() + " or " + numbers;
    }
  }

  /**
   * Sets of names; a subset is stricter.
   *
   * @param emptyIsAll the empty set stands for everything and is the loosest
   * @param universe every name there is, or null where any name of the pattern will do
   */
  record Sets(boolean emptyIsAll, @Nullable Set<String> universe, String what) implements Scale {
    private static final Pattern NAME = Pattern.compile("[A-Za-z0-9][A-Za-z0-9._-]{0,39}");
    private static final Set<String> COUNTRIES = Set.of(Locale.getISOCountries());

    static Sets countries() {
      return new Sets(true, COUNTRIES, "ISO 3166 country codes");
    }

    @Override
    public Value parse(@Nullable Object plain) {
      if (!(plain instanceof List<?> members)) {
        throw new InvalidValueException(plain, allowed());
      }
      List<String> names = new ArrayList<>();
      for (Object member : members) {
        boolean known =
            member instanceof String name
                && (universe == null ? NAME.matcher(name).matches() : universe.contains(name));
        if (!known) {
          throw new InvalidValueException(member, allowed());
        }
        names.add((String) member);
      }
      return new Value.Names(names);
    }

    @Override
    public Object plain(Value value) {
      return ((Value.Names) value).members();
    }

    @Override
    public boolean within(Value value, Value limit) {
      List<String> names = ((Value.Names) value).members();
      List<String> bar = ((Value.Names) limit).members();
      if (emptyIsAll && bar.isEmpty()) {
        return true;
      }
      return !(emptyIsAll && names.isEmpty()) && bar.containsAll(names);
    }

    @Override
    public Value loosest() {
      return emptyIsAll || universe == null
          ? new Value.Names(List.of())
          : new Value.Names(List.copyOf(universe));
    }

    @Override
    public String allowed() {
      return "a list of " + what + (emptyIsAll ? ", empty for all" : "");
    }
  }
}
