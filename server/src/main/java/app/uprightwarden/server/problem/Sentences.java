package app.uprightwarden.server.problem;

import app.uprightwarden.core.audit.Auditor;
import app.uprightwarden.core.audit.Check;
import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.Scale;
import app.uprightwarden.core.people.Persona;
import app.uprightwarden.core.people.Right;
import app.uprightwarden.core.people.Role;
import app.uprightwarden.core.rulebook.Level;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.function.Predicate;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.json.JsonMapper;

/**
 * What the server says, in another language than English.
 *
 * <p>English sentences stand in the code where they are said, and are what is kept: in the ledger,
 * of a job, of an import. Here a sentence is found again by what it says, as translators of
 * programs have it since the gettext of old: {@code wording/sentences_LANGUAGE.json} has the
 * English sentence, with <code>{}</code> for each value in it, and the other one, with <code>{1}
 * </code> where the first value goes and <code>{1!}</code> where the value is of our words too, or
 * a date. So also what was said before the language was known is read in it. What is not found
 * stays as it is.
 */
public final class Sentences {
  /** A longer line is no sentence of ours. */
  private static final int MAX_LENGTH = 4000;

  private static final int MAX_DEPTH = 4;

  /** A longer text is no word that is declared. */
  private static final int MAX_WORD = 80;

  /** Between several of which any is meant. */
  private static final String OR = " or ";

  private static final Pattern PLACE = Pattern.compile("\\{(\\d+)(!?)}");

  /** Before an item of a list: a dash, or its number. */
  private static final Pattern BEFORE = Pattern.compile("^(?:- |\\d{1,3}\\. )\\s*");

  private static final Pattern SENTENCE_END = Pattern.compile("(?<=[.!?])(?=\\s)");

  private static final Map<Locale, Sentences> OTHERS =
      Languages.ALL.stream()
          .filter(language -> !language.equals(Locale.ENGLISH))
          .collect(Collectors.toMap(language -> language, Sentences::new));

  /** Texts without values, English → other. */
  private final Map<String, String> whole = new HashMap<>();

  /** Texts that others go on after, as an opening quotation mark. */
  private final List<String> openings;

  /** Texts with values, by their first two characters; those that begin with a value under "". */
  private final Map<String, List<Shape>> shapes = new HashMap<>();

  private final Map<String, String> words;
  private final DateWords dates;

  private Sentences(Locale language) {
    Map<String, String> texts = texts(language);
    texts.forEach(
        (english, other) -> {
          if (english.contains("{}")) {
            Shape shape = Shape.of(english, other);
            shapes.computeIfAbsent(shape.key(), key -> new ArrayList<>()).add(shape);
          } else {
            whole.put(english, other);
          }
        });
    // what says more of itself is the one that is meant
    shapes.values().forEach(some -> some.sort(Comparator.comparingInt(Shape::letters).reversed()));
    openings = whole.keySet().stream().filter(text -> text.endsWith("“")).toList();
    words = words(language);
    dates = new DateWords(language);
  }

  /** The English texts of a language's bundle, each with the other one. */
  static Map<String, String> texts(Locale language) {
    String name = "/wording/sentences_" + language.getLanguage() + ".json";
    try (InputStream in = Sentences.class.getResourceAsStream(name)) {
      return JsonMapper.shared().readValue(in, new TypeReference<>() {});
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  /** The text in the language of the request in hand. */
  public static String said(String english) {
    return said(english, Languages.current());
  }

  /**
   * The text in a language.
   *
   * @param english one sentence or several, with line breaks or without
   */
  public static String said(String english, Locale language) {
    Sentences sentences = OTHERS.get(language);
    return sentences == null ? english : sentences.of(english);
  }

  private String of(String text) {
    if (text.indexOf('\n') >= 0) {
      return text.lines().map(this::of).collect(Collectors.joining("\n"))
          + (text.endsWith("\n") ? "\n" : "");
    }
    if (text.length() > MAX_LENGTH) {
      return text;
    }
    String[] some = SENTENCE_END.split(text);
    String whole = found(text, 0, some.length > 1);
    if (whole != null || some.length < 2) {
      return whole == null ? text : whole;
    }
    StringBuilder made = new StringBuilder();
    int missing = 0;
    for (String each : some) {
      String other = found(each, 0, false);
      missing += other == null ? 1 : 0;
      made.append(other == null ? each : other);
    }
    // a value of several sentences, such as what somebody else said
    String loose = missing == 0 ? null : found(text, 0, false);
    return loose == null ? made.toString() : loose;
  }

  /**
   * The other text of a whole one, with the space about it; null where there is none.
   *
   * @param strict whether no value may hold the end of a sentence
   */
  private @Nullable String found(String text, int depth, boolean strict) {
    String bare = BEFORE.matcher(text.strip()).replaceFirst("");
    if (bare.isEmpty() || depth > MAX_DEPTH) {
      return null;
    }
    String other = bareFound(bare, depth, strict);
    if (other == null) {
      return null;
    }
    int at = text.indexOf(bare);
    return text.substring(0, at) + other + text.substring(at + bare.length());
  }

  private @Nullable String bareFound(String text, int depth, boolean strict) {
    String known = whole.get(text);
    if (known != null) {
      return known;
    }
    if (depth > 0 && words.containsKey(text)) {
      return words.get(text);
    }
    String label = depth > 0 ? whole.get(text + ":") : null;
    if (label != null) {
      return label.substring(0, label.length() - 1);
    }
    for (String key : List.of(text.substring(0, Math.min(2, text.length())), "")) {
      for (Shape shape : shapes.getOrDefault(key, List.of())) {
        List<String> values = shape.values(text, words::containsKey);
        if (values != null
            && !(strict && values.stream().anyMatch(v -> SENTENCE_END.matcher(v).find()))) {
          return filled(shape.other(), values, depth);
        }
      }
    }
    for (String opening : openings) {
      if (text.startsWith(opening)) {
        return whole.get(opening) + ours(text.substring(opening.length()), depth);
      }
    }
    return null;
  }

  private String filled(String other, List<String> values, int depth) {
    return PLACE
        .matcher(other)
        .replaceAll(
            place -> {
              String value = values.get(Integer.parseInt(place.group(1)) - 1);
              return Matcher.quoteReplacement(
                  place.group(2).isEmpty() ? value : ours(value, depth));
            });
  }

  private String ours(String value, int depth) {
    String found = found(value, depth + 1, false);
    if (found == null && value.contains(OR)) {
      found = any(value, depth);
    }
    String date = found == null ? dates.said(value) : null;
    return found != null ? found : Objects.requireNonNullElse(date, value);
  }

  /** Several of our words of which any is meant; null where one of them is not ours. */
  private @Nullable String any(String value, int depth) {
    List<String> others = new ArrayList<>();
    for (String each : value.split(OR)) {
      String other = found(each, depth + 1, false);
      if (other == null) {
        return null;
      }
      others.add(other);
    }
    return String.join(whole.getOrDefault(OR, OR), others);
  }

  /** What is declared in the core and stands within sentences, by its English. */
  private static Map<String, String> words(Locale language) {
    Wording catalogue = Wording.of("catalogue", language);
    Map<String, String> words = new HashMap<>();
    for (Check check : Auditor.catalogue()) {
      add(words, catalogue, "check." + check.id() + ".title", check.title());
    }
    for (Control control : Control.all()) {
      String key = "control." + control.id();
      add(words, catalogue, key + ".title", control.title());
      Scale scale = control.scale();
      if (scale instanceof Scale.Words some) {
        some.rungs().forEach(r -> add(words, catalogue, key + ".value." + r.word(), r.label()));
      }
    }
    for (Persona persona : Persona.all()) {
      add(words, catalogue, "persona." + persona.id(), persona.phrase());
    }
    for (Right right : Right.all()) {
      add(words, catalogue, "right." + right.id(), right.phrase());
    }
    for (Role role : Role.values()) {
      add(words, catalogue, "role." + role.id(), role.id());
    }
    for (Level level : Level.all()) {
      add(words, catalogue, "level." + level.id(), level.phrase());
    }
    return words;
  }

  private static void add(
      Map<String, String> words, Wording catalogue, String key, String english) {
    if (catalogue.has(key)) {
      words.putIfAbsent(english, catalogue.text(key));
    }
  }

  /**
   * A text with values in it.
   *
   * @param literals what stands before, between and after the values
   */
  private record Shape(List<String> literals, String other) {
    static Shape of(String english, String other) {
      return new Shape(List.of(english.split("\\{}", -1)), other);
    }

    String key() {
      String first = literals.get(0);
      return first.length() < 2 ? "" : first.substring(0, 2);
    }

    int letters() {
      return literals.stream().mapToInt(String::length).sum();
    }

    /**
     * The values of a text of this shape, found from the left in one go; null if it is another.
     *
     * @param isWord tells what is declared: of two values with no more than a space between them
     *     the first ends where it is that, if it ever is; else the first is a number and the other
     *     what is counted
     */
    @Nullable List<String> values(String text, Predicate<String> isWord) {
      String last = literals.get(literals.size() - 1);
      if (!text.startsWith(literals.get(0)) || !text.endsWith(last)) {
        return null;
      }
      int end = text.length() - last.length();
      int at = literals.get(0).length();
      List<String> values = new ArrayList<>();
      for (String literal : literals.subList(1, literals.size() - 1)) {
        int to =
            literal.isEmpty()
                ? joined(text, at, end, isWord)
                : literal.equals(" ") ? word(text, at, isWord) : text.indexOf(literal, at);
        if (to < 0) {
          return null;
        }
        values.add(text.substring(at, to));
        at = to + literal.length();
      }
      if (at > end) {
        return null;
      }
      values.add(text.substring(at, end));
      return values;
    }

    private static int word(String text, int from, Predicate<String> isWord) {
      for (int to = text.indexOf(' ', from); to >= 0; to = text.indexOf(' ', to + 1)) {
        if (isWord.test(text.substring(from, to))) {
          return to;
        }
      }
      return text.indexOf(' ', from);
    }

    private static int joined(String text, int from, int end, Predicate<String> isWord) {
      for (int to = Math.min(end, from + MAX_WORD); to > from; to--) {
        if (isWord.test(text.substring(from, to))) {
          return to;
        }
      }
      int to = from;
      while (to < text.length() && Character.isDigit(text.charAt(to))) {
        to++;
      }
      return to;
    }
  }
}
