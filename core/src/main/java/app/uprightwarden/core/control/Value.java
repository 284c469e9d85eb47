package app.uprightwarden.core.control;

import java.util.List;

/** One value of one control. Immutable; equal values are equal. */
public sealed interface Value {

  /**
   * A word of a ladder or of a neutral control.
   *
   * @param word as written in files
   * @param rank its place in the control's order, 0 = loosest
   */
  record Word(String word, int rank) implements Value {
    @Override
    public String toString() {
      return word;
    }
  }

  /**
   * A whole number, in the control's unit. {@link #UNLIMITED} is the word that is looser than every
   * number ({@code any-time}, {@code open}).
   */
  record Amount(int number) implements Value {
    public static final int UNLIMITED = Integer.MAX_VALUE;

    @Override
    public String toString() {
      return number == UNLIMITED ? "unlimited" : Integer.toString(number);
    }
  }

  /**
   * A set of names, kept sorted.
   *
   * @param members sorted, without repeats
   */
  record Names(List<String> members) implements Value {
    public Names {
      members = members.stream().distinct().sorted().toList();
    }

    @Override
    public String toString() {
      return String.join(", ", members);
    }
  }
}
