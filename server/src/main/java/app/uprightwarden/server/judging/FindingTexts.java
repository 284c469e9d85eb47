package app.uprightwarden.server.judging;

import app.uprightwarden.core.audit.Check;
import app.uprightwarden.core.audit.FindingArguments;
import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.door.DoorReason;
import app.uprightwarden.core.exposure.Matrix;
import app.uprightwarden.core.meeting.Weakness;
import app.uprightwarden.core.rulebook.TraceStep;
import app.uprightwarden.server.problem.Languages;
import app.uprightwarden.server.problem.Sentences;
import app.uprightwarden.server.problem.Wording;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * What is found, in the language of the request in hand. English sentences stand with each check;
 * the patterns of others in {@code wording/findings_LANGUAGE.properties}.
 */
final class FindingTexts {
  private static final Map<Locale, FindingTexts> OTHERS =
      Languages.ALL.stream()
          .filter(language -> !language.equals(Locale.ENGLISH))
          .collect(Collectors.toUnmodifiableMap(language -> language, FindingTexts::new));
  private static final String NONE = "none";

  private final DeclaredTexts declared;
  private final Wording patterns;
  private final DateTimeFormatter time;

  private FindingTexts(Locale language) {
    declared = new DeclaredTexts(language);
    patterns = Wording.of("findings", language);
    time =
        DateTimeFormatter.ofPattern("d. MMMM uuuu, HH:mm 'UTC'", language).withZone(ZoneOffset.UTC);
  }

  private static @Nullable FindingTexts current() {
    return OTHERS.get(Languages.current());
  }

  static String of(Check check, FindingArguments found) {
    FindingTexts texts = current();
    return texts == null ? check.text(found) : texts.say(check, found);
  }

  static String of(DoorReason reason) {
    FindingTexts texts = current();
    return texts == null ? reason.words() : texts.patterns.text("reason." + reason.id());
  }

  static String of(TraceStep.Said said) {
    FindingTexts texts = current();
    return texts == null ? said.words() : texts.say(said);
  }

  /** With the layer by a name that people know. */
  static String of(TraceStep.Said said, String where) {
    FindingTexts texts = current();
    return texts == null ? said.words(where) : texts.say(said, where);
  }

  private String say(Check check, FindingArguments found) {
    List<Object> values = new ArrayList<>();
    Control control = found.control();
    if (control != null) {
      values.addAll(List.of("title", declared.title(control), "risk", declared.risk(control)));
      values.addAll(List.of("value", label(control, found.value())));
      values.addAll(List.of("allowed", label(control, found.allowed())));
    }
    Matrix.Cell worst = found.worst();
    if (worst != null) {
      String persona = worst.persona().id();
      String right = worst.right().id();
      String level = worst.level().id();
      values.addAll(
          List.of(
              "persona", declared.text("persona." + persona, worst.persona().phrase()),
              "right", declared.text("right." + right, worst.right().phrase()),
              "level", declared.text("level." + level, worst.level().phrase())));
    }
    FindingArguments.There there = found.there();
    if (there != null) {
      values.addAll(
          List.of(
              "service",
              there.service(),
              "by",
              orNone(there.by()),
              "at",
              there.at() == null ? NONE : time.format(Instant.parse(there.at())),
              "why",
              there.why() == null ? NONE : Sentences.said(there.why())));
    }
    String plain = joined(found.value());
    values.addAll(
        List.of(
            "fix",
            found.isFix() ? "yes" : "no",
            "titles",
            found.defeatedBy().stream().map(declared::title).collect(Collectors.joining(", ")),
            "found",
            plain,
            "most",
            joined(found.allowed()),
            "count",
            found.value() instanceof Number number ? number : 0,
            "weakness",
            weakness(plain)));
    return patterns.say(check.id(), values.toArray());
  }

  private static String orNone(@Nullable String text) {
    return text == null || text.isEmpty() ? NONE : text;
  }

  private static String joined(@Nullable Object value) {
    return value instanceof List<?> list
        ? list.stream().map(String::valueOf).collect(Collectors.joining(", "))
        : String.valueOf(value);
  }

  private String label(Control control, @Nullable Object plain) {
    return plain == null ? patterns.text("not-known") : declared.label(control, plain);
  }

  /** A passcode's weakness is stored by what it is called in English. */
  private String weakness(String phrase) {
    return Stream.of(Weakness.values())
        .filter(w -> w != Weakness.NONE && w.phrase().equals(phrase))
        .map(w -> patterns.text("weak." + w.id()))
        .findFirst()
        .orElse(phrase);
  }

  private String say(TraceStep.Said said) {
    String layer = said.layer().level().name().toLowerCase(Locale.ROOT);
    String where =
        patterns.say("layer." + layer, "id", Objects.requireNonNullElse(said.layer().id(), ""));
    return say(said, where);
  }

  private String say(TraceStep.Said said, String where) {
    Control control = said.control();
    String label =
        said.value() == null
            ? ""
            : declared.label(control, Objects.requireNonNull(control.plain(said.value())));
    String mode = said.mode().name().toLowerCase(Locale.ROOT);
    return patterns.say("rule." + mode, "where", where, "label", label)
        + patterns.say("became." + said.action().id(), "sealed", said.sealed() ? "yes" : "no")
        + ".";
  }
}
