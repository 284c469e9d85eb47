package app.uprightwarden.server.calendars;

import app.uprightwarden.server.problem.ProblemException;
import com.github.mangstadt.vinnie.VObjectProperty;
import com.github.mangstadt.vinnie.io.Context;
import com.github.mangstadt.vinnie.io.SyntaxRules;
import com.github.mangstadt.vinnie.io.VObjectDataListener;
import com.github.mangstadt.vinnie.io.VObjectPropertyValues;
import com.github.mangstadt.vinnie.io.VObjectReader;
import com.github.mangstadt.vinnie.io.Warning;
import java.io.IOException;
import java.io.StringReader;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** A calendar's text as nested components and their lines, before anything is made of them. */
final class CalendarText {
  private static final int MAX_LINES = 1_500_000;
  private static final int MAX_EVENTS = 50_000;
  private static final int DEEPEST = 20;

  private CalendarText() {}

  /**
   * One content line.
   *
   * @param number where it begins in the file, from 1
   * @param whole the line as it stood, unfolded
   */
  record Line(
      String name, Map<String, List<String>> parameters, String value, int number, String whole) {
    @Nullable String parameter(String key) {
      List<String> values = parameters.get(key);
      return values == null || values.isEmpty() ? null : values.get(0);
    }

    /** The value as text, with its escapes undone (section 3.3.11). */
    String text() {
      return VObjectPropertyValues.unescape(value);
    }
  }

  /** A component such as VEVENT. */
  record Component(String name, int number, List<Line> lines, List<Component> inside) {
    @Nullable Line first(String name) {
      return all(name).findFirst().orElse(null);
    }

    Stream<Line> all(String name) {
      return lines.stream().filter(line -> line.name().equals(name));
    }
  }

  /**
   * A calendar file, which may hold several calendars.
   *
   * @param busy its VFREEBUSY components
   * @param troubles lines that could not be read at all
   * @param cutOff the component that was open where the file ends, or null
   */
  record Document(
      @Nullable String method,
      List<Component> zones,
      List<Component> events,
      List<Component> busy,
      List<String> troubles,
      @Nullable Component cutOff) {}

  /**
   * Reads a file.
   *
   * @throws ProblemException 400 where it is no calendar; 413 where it holds too much
   */
  static Document read(String text) {
    Collector collector = new Collector();
    try (VObjectReader reader =
        new VObjectReader(new StringReader(text), SyntaxRules.iCalendar())) {
      reader.setCaretDecodingEnabled(true);
      reader.parse(collector);
    } catch (IOException e) {
      throw new java.io.UncheckedIOException("a text cannot fail to be read", e);
    }
    if (!collector.isCalendar) {
      throw ProblemException.unreadable(
          "This is no calendar: no line says BEGIN:VCALENDAR. Give an iCalendar file (.ics).",
          List.of());
    }
    return collector.document();
  }

  private static final class Collector implements VObjectDataListener {
    private final Deque<Component> open = new ArrayDeque<>();
    private final List<Component> zones = new ArrayList<>();
    private final List<Component> events = new ArrayList<>();
    private final List<Component> busy = new ArrayList<>();
    private final List<String> troubles = new ArrayList<>();
    private @Nullable String method;
    private boolean isCalendar;
    private int lines;

    @Override
    public void onComponentBegin(@Nullable String name, @Nullable Context context) {
      Context at = Objects.requireNonNull(context);
      String upper = Objects.requireNonNull(name).toUpperCase(Locale.ROOT);
      isCalendar |= upper.equals("VCALENDAR");
      if (open.size() >= DEEPEST) {
        throw ProblemException.unreadable(
            "Line " + at.getLineNumber() + ": components lie more than " + DEEPEST + " deep.",
            List.of());
      }
      open.push(new Component(upper, at.getLineNumber(), new ArrayList<>(), new ArrayList<>()));
    }

    @Override
    public void onComponentEnd(@Nullable String name, @Nullable Context context) {
      if (open.isEmpty()) {
        return;
      }
      Component done = open.pop();
      switch (done.name()) {
        case "VEVENT" -> events.add(done);
        case "VTIMEZONE" -> zones.add(done);
        case "VFREEBUSY" -> busy.add(done);
        default -> {
          Component parent = open.peek();
          if (parent != null && !parent.name().equals("VCALENDAR")) {
            parent.inside().add(done);
          }
        }
      }
      if (events.size() + busy.size() > MAX_EVENTS) {
        throw ProblemException.tooLarge(
            "The calendar has more than " + MAX_EVENTS + " events. Split it by year.");
      }
    }

    @Override
    public void onProperty(@Nullable VObjectProperty property, @Nullable Context context) {
      if (++lines > MAX_LINES) {
        throw ProblemException.tooLarge(
            "The calendar has more than " + MAX_LINES + " lines. Split it by year.");
      }
      VObjectProperty of = Objects.requireNonNull(property);
      Context at = Objects.requireNonNull(context);
      Component in = open.peek();
      if (in == null) {
        return;
      }
      String name = of.getName().toUpperCase(Locale.ROOT);
      if (in.name().equals("VCALENDAR")) {
        method = name.equals("METHOD") ? of.getValue().strip().toUpperCase(Locale.ROOT) : method;
        return;
      }
      in.lines()
          .add(
              new Line(
                  name,
                  of.getParameters().getMap(),
                  of.getValue(),
                  at.getLineNumber(),
                  at.getUnfoldedLine()));
    }

    @Override
    public void onVersion(@Nullable String value, @Nullable Context context) {}

    @Override
    public void onWarning(
        @Nullable Warning warning,
        @Nullable VObjectProperty property,
        @Nullable Exception thrown,
        @Nullable Context context) {
      Context at = Objects.requireNonNull(context);
      if (!at.getUnfoldedLine().isBlank() && troubles.size() < 200) {
        troubles.add(
            "Line "
                + at.getLineNumber()
                + " cannot be read and is left out: "
                + Objects.requireNonNull(warning).getMessage());
      }
    }

    Document document() {
      Component inner = open.peek();
      return new Document(method, zones, events, busy, troubles, inner);
    }
  }
}
