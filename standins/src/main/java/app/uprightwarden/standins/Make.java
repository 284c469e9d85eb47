package app.uprightwarden.standins;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.Scale;
import app.uprightwarden.core.control.Value;
import java.time.Duration;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** The two makes: one that holds everything, and a poor one. */
public enum Make {
  /** Holds everything, everywhere. */
  REDSHANK("Redshank", 200, null),
  /** Has fewer values, no settings of single dates, and forgets up to where it was read. */
  CURLEW("Curlew", 10, Duration.ofHours(1));

  private static final Set<Control> NOT_IN_CURLEW = EnumSet.of(Control.PHONE_BYPASS);
  private static final Map<Control, List<Object>> IN_CURLEW =
      Map.of(
          Control.LOBBY_BYPASS, List.of("anyone", "guests", "members", "hosts"),
          Control.EARLY_ENTRY, List.of(0, "any-time"),
          Control.PRESENTER_ROLE, List.of("everyone", "hosts"),
          Control.CHAT, List.of("always", "off"));

  private final String title;
  private final int perSecond;
  private final @Nullable Duration markerLives;

  Make(String title, int perSecond, @Nullable Duration markerLives) {
    this.title = title;
    this.perSecond = perSecond;
    this.markerLives = markerLives;
  }

  /** What it is called. */
  public String title() {
    return title;
  }

  /** How many requests it takes a second. */
  public int perSecond() {
    return perSecond;
  }

  /** For how long it knows up to where somebody has read; null for ever. */
  @Nullable Duration markerLives() {
    return markerLives;
  }

  /** Whether it tells by itself that there is something new. */
  boolean hasHooks() {
    return this == REDSHANK;
  }

  /** Whether a control is to be had at all. */
  boolean has(Control control) {
    return this == REDSHANK || !NOT_IN_CURLEW.contains(control);
  }

  /** The values of a control that it has, loosest first; null for all there are. */
  @Nullable List<Object> values(Control control) {
    return this == REDSHANK ? null : IN_CURLEW.get(control);
  }

  /** Whether it can hold a value. */
  boolean holds(Control control, Object plain) {
    List<Object> values = values(control);
    if (!has(control) || values != null && !values.contains(plain)) {
      return false;
    }
    try {
      control.parse(plain);
      return true;
    } catch (IllegalArgumentException e) {
      return false;
    }
  }

  /** What it says that it can hold, in the shape of the interface. */
  Map<String, Object> means() {
    Map<String, Object> means = new LinkedHashMap<>();
    List<String> places =
        this == REDSHANK
            ? List.of("default", "lock", "meeting", "occurrence", "session")
            : List.of("default", "lock", "meeting", "session");
    for (Control control : Control.all()) {
      if (has(control)) {
        Map<String, Object> of = new LinkedHashMap<>();
        List<Object> values = values(control);
        if (values != null) {
          of.put("values", values);
          of.put("instead", instead(control, values));
        }
        of.put("read", places);
        of.put("write", places);
        means.put(control.id(), of);
      }
    }
    return means;
  }

  /** For a word that it has not, the next stricter one that it has. */
  private static Map<String, Object> instead(Control control, List<Object> values) {
    Map<String, Object> instead = new LinkedHashMap<>();
    if (control.scale() instanceof Scale.Words words) {
      List<Object> order = new ArrayList<>();
      for (Value value : words.values()) {
        order.add(control.plain(value));
      }
      for (Object word : order) {
        if (!values.contains(word)) {
          order.stream()
              .skip(order.indexOf(word))
              .filter(values::contains)
              .findFirst()
              .ifPresent(stricter -> instead.put(String.valueOf(word), stricter));
        }
      }
    } else if (control == Control.EARLY_ENTRY) {
      for (int minutes : List.of(5, 10, 15, 30, 60)) {
        instead.put(String.valueOf(minutes), 0);
      }
    }
    return instead;
  }

  /** What a new meeting has where nothing is said. */
  Object usual(Control control) {
    List<Object> values = values(control);
    return values == null ? control.plain(control.loosest()) : values.get(0);
  }
}
