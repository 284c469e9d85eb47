package app.uprightwarden.core.control;

import java.util.Arrays;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * The values of one meeting's controls. Immutable, with value equality, so that equal meetings
 * share one instance and everything computed from it. A control without a value is not evidenced.
 */
public final class ControlValues {
  public static final ControlValues NONE = new ControlValues(new Value[Control.COUNT]);

  private final @Nullable Value[] values;
  private final int hash;

  private ControlValues(@Nullable Value[] values) {
    this.values = values;
    this.hash = Arrays.hashCode(values);
  }

  /** The values of a map; a control without one is not evidenced. */
  public static ControlValues of(Map<Control, Value> map) {
    @Nullable Value[] values = new Value[Control.COUNT];
    map.forEach((control, value) -> values[control.ordinal()] = value);
    return new ControlValues(values);
  }

  /** The value as found, or null where not evidenced. */
  public @Nullable Value get(Control control) {
    return values[control.ordinal()];
  }

  /** The value the exposure matrix counts with: the loosest where not evidenced. */
  public Value effective(Control control) {
    Value value = values[control.ordinal()];
    return value == null ? control.loosest() : value;
  }

  /** The rank of an effective word, 0 = loosest. */
  public int rank(Control control) {
    return ((Value.Word) effective(control)).rank();
  }

  /** Whether the effective value is this word. */
  public boolean is(Control control, String word) {
    return ((Value.Word) effective(control)).word().equals(word);
  }

  /** The same with another value of a control; null takes it away. */
  public ControlValues with(Control control, @Nullable Value value) {
    @Nullable Value[] copy = values.clone();
    copy[control.ordinal()] = value;
    return new ControlValues(copy);
  }

  /** These values with the other's laid over them, as an occurrence's lie over its series'. */
  public ControlValues overlaid(ControlValues over) {
    @Nullable Value[] copy = values.clone();
    for (int i = 0; i < copy.length; i++) {
      Value value = over.values[i];
      if (value != null) {
        copy[i] = value;
      }
    }
    return new ControlValues(copy);
  }

  /** The evidenced values in the table's order. */
  public Map<Control, Value> asMap() {
    Map<Control, Value> map = new LinkedHashMap<>();
    for (Control control : Control.all()) {
      Value value = values[control.ordinal()];
      if (value != null) {
        map.put(control, value);
      }
    }
    return Collections.unmodifiableMap(map);
  }

  @Override
  public boolean equals(@Nullable Object other) {
    return other == this
        || other instanceof ControlValues that
            && hash == that.hash
            && Arrays.equals(values, that.values);
  }

  @Override
  public int hashCode() {
    return hash;
  }

  @Override
  public String toString() {
    return asMap().toString();
  }
}
