package app.uprightwarden.core.service;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.rulebook.Mode;
import app.uprightwarden.core.rulebook.ResolvedRule;
import java.util.EnumMap;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * What a conference service can hold: per control, which of our values it has, where it holds them,
 * and what stands for a value that it has not. A control that is not among them it does not have.
 */
public record Means(Map<Control, Holds> controls) {
  /** Where a service can hold a value. */
  public enum Place {
    /** The account's default for new meetings. */
    DEFAULT,
    /** A lock on the account that no meeting goes beyond. */
    LOCK,
    /** A meeting or series. */
    MEETING,
    /** One date of a series. */
    OCCURRENCE,
    /** A session that is running. */
    SESSION;

    /** As it is written, in lower case. */
    public String id() {
      return name().toLowerCase(java.util.Locale.ROOT);
    }
  }

  /**
   * What a service can hold of one control.
   *
   * @param values the values it has; null for all there are
   * @param instead for a value that it has not, the one of its own that stands for it
   * @param readable where it tells what it holds
   * @param writable where it takes a value from us
   */
  public record Holds(
      @Nullable Set<Value> values,
      Map<Value, Value> instead,
      Set<Place> readable,
      Set<Place> writable) {
    /** Takes copies. */
    public Holds {
      values = values == null ? null : Set.copyOf(values);
      instead = Map.copyOf(instead);
      readable = readable.isEmpty() ? Set.of() : EnumSet.copyOf(readable);
      writable = writable.isEmpty() ? Set.of() : EnumSet.copyOf(writable);
    }
  }

  /** How well a service carries a value that is wanted. */
  public enum Carrying {
    /** It holds the very value. */
    CARRIED,
    /** It holds a stricter one. */
    STRICTER,
    /** It holds a looser one, or none. */
    CANNOT;

    /** As it is written, in lower case. */
    public String id() {
      return name().toLowerCase(java.util.Locale.ROOT);
    }
  }

  /** Takes a copy. */
  public Means {
    controls = controls.isEmpty() ? Map.of() : Map.copyOf(new EnumMap<>(controls));
  }

  /** Whether a meeting there can have this value. */
  public boolean has(Control control, Value value) {
    Holds holds = controls.get(control);
    return holds != null && (holds.values() == null || holds.values().contains(value));
  }

  /** The value that a meeting there has for one that is wanted, or null where there is none. */
  public @Nullable Value valueFor(Control control, Value wanted) {
    Holds holds = controls.get(control);
    if (holds == null) {
      return null;
    }
    return has(control, wanted) ? wanted : holds.instead().get(wanted);
  }

  /** Whether a service takes values of a control from us in a place. */
  public boolean takes(Control control, Place place) {
    Holds holds = controls.get(control);
    return holds != null && holds.writable().contains(place);
  }

  /** How well a value is carried by what stands for it. */
  public Carrying carrying(Control control, Value wanted) {
    Value stands = valueFor(control, wanted);
    if (stands == null) {
      return Carrying.CANNOT;
    }
    if (stands.equals(wanted)) {
      return Carrying.CARRIED;
    }
    return control.within(stands, wanted) ? Carrying.STRICTER : Carrying.CANNOT;
  }

  /**
   * Whether a meeting there can keep a rule: it has the very value that is fixed, or some value
   * that is strict enough. A rule that binds nobody is kept by all.
   */
  public boolean canKeep(ResolvedRule rule) {
    Value limit = rule.limit();
    if (limit == null) {
      return true;
    }
    Control control = rule.control();
    if (rule.mode() != Mode.FIX && control.within(control.loosest(), limit)) {
      return true; // whatever a service has is within it
    }
    Holds holds = controls.get(control);
    if (holds == null) {
      return false;
    }
    Set<Value> values = holds.values();
    return values == null
        || (rule.mode() == Mode.FIX
            ? values.contains(limit)
            : values.stream().anyMatch(v -> control.within(v, limit)));
  }

  /** Whether a meeting there can be given a value by us. */
  public boolean canSet(Control control, Value value) {
    return takes(control, Place.MEETING) && has(control, value);
  }

  /**
   * What a meeting there can be set to so that a rule's limit is kept: the value that stands for
   * the limit, where it is strict enough; null where there is none.
   */
  public @Nullable Value keeping(ResolvedRule rule) {
    Value limit = rule.limit();
    if (limit == null || !takes(rule.control(), Place.MEETING)) {
      return null;
    }
    Value stands = valueFor(rule.control(), limit);
    boolean isKept =
        stands != null
            && (rule.mode() == Mode.FIX
                ? stands.equals(limit)
                : rule.control().within(stands, limit));
    return isKept ? stands : null;
  }

  /** The values of a control that a service has, in the table's order; all where it has all. */
  public List<Value> among(Control control, List<? extends Value> some) {
    return some.stream().filter(value -> has(control, value)).map(Value.class::cast).toList();
  }
}
