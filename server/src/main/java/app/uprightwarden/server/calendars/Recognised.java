package app.uprightwarden.server.calendars;

import app.uprightwarden.server.problem.Texts;
import java.net.URLDecoder;
import java.nio.charset.StandardCharsets;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * What a text that invites people gives away: a passcode, a number, a link that holds the passcode.
 * How makers of invitations write them follows no standard; the words are common practice. In doubt
 * nothing is recognised, and that is said: a passcode that is made up hides what should be found.
 *
 * @param inText the passcode stands in the text for itself
 * @param inLink a link holds it
 * @param doubts what may be a passcode and may be none
 */
record Recognised(
    @Nullable String passcode,
    @Nullable String number,
    boolean inText,
    boolean inLink,
    List<String> doubts) {
  static final Recognised NOTHING = new Recognised(null, null, false, false, List.of());

  private static final int MAX_TEXT = 100_000;
  private static final int ANY_CASE = Pattern.CASE_INSENSITIVE | Pattern.UNICODE_CASE;
  private static final Pattern LINK =
      Pattern.compile(
          "https?://[^\\s<>\"]{1,400}?[?&#](?:passcode|password|pwd|pin|code)=([^\\s<>\"&#]{1,128})",
          ANY_CASE);

  /** A passcode's names, in the languages of those whose invitations come here. */
  private static final String WORDS =
      String.join(
          "|",
          "(?:meeting |access |entry |join(?:ing)? )?(?:passcode|password|pass code)",
          "(?:access|entry|security|meeting) code|pin(?: code)?",
          "(?:meeting-?)?(?:passwort|kennwort|kenncode|zugangscode|zugriffscode)",
          "mot de passe(?: de la réunion)?|code (?:secret|d[’']accès)",
          "contraseña(?: de la reunión)?|código de (?:acceso|acesso)|clave de acceso",
          "codice d[’'i] ?accesso|passcode della riunione",
          "senha(?: da reunião)?|palavra-passe",
          "wachtwoord|toegangscode|lösenord|åtkomstkod|adgangskode|passord|tilgangskode",
          "salasana|tunnuskoodi|hasło|kod dostępu|heslo|přístupový kód|jelszó|parola|şifre",
          "пароль|код доступа|код доступу|κωδικός(?: πρόσβασης)?|pasfhocal",
          "كلمة المرور|רמز|סיסמה|סיסמא");

  private static final String CJK_WORDS = "パスコード|パスワード|会议密码|會議密碼|密码|密碼|암호|비밀번호";

  private static final String IS = "is|ist|est|es|è|é|är|er|on|jest|to|je";

  private static final WordFinder SAID =
      new WordFinder(
          "(?:" + WORDS + ")(?![\\p{L}\\p{N}_-])",
          CJK_WORDS,
          "(?:\\h{0,3}\\([^()\\n]{0,40}\\))?"
              + "(?:\\h{0,3}(?<sign>[:=：])\\h{0,3}(?:\\R\\h{0,8}){0,2}"
              + "|\\h{1,3}(?:"
              + IS
              + ")\\h{0,2}:?\\h{1,3}|\\h{0,3}(?<next>\\R)\\h{0,8})"
              + "(?<value>\\S{3,128})(?<rest>[^\\n]{0,200})",
          ANY_CASE);

  /** What stands where a passcode would and is none. */
  private static final Set<String> NO_PASSCODES =
      Set.of(
          "required",
          "none",
          "needed",
          "not",
          "the",
          "see",
          "sent",
          "will",
          "follows",
          "below",
          "above",
          "tba",
          "tbd",
          "n/a",
          "protected",
          "optional",
          "off",
          "on",
          "yes",
          "no",
          "same",
          "separately",
          "shared",
          "given",
          "from",
          "for",
          "request",
          "ask",
          "available",
          "provided",
          "erforderlich",
          "benötigt",
          "keines",
          "keins",
          "folgt",
          "siehe",
          "wird",
          "requis",
          "obligatoire",
          "aucun",
          "voir",
          "requerida",
          "requerido",
          "ninguna",
          "ninguno",
          "richiesta",
          "richiesto",
          "nessuna",
          "obrigatória",
          "nenhuma",
          "vereist",
          "geen",
          "krävs",
          "ingen",
          "kræves",
          "kreves",
          "vaaditaan",
          "wymagane",
          "brak",
          "требуется",
          "нет",
          "necessary",
          "mandatory",
          "meeting",
          "join",
          "your",
          "this",
          "that",
          "please",
          "and",
          "or",
          "to",
          "as");

  private static final WordFinder NUMBER =
      new WordFinder(
          "meeting (?:number|id|no\\.?)|conference id|"
              + "besprechungs-?(?:id|nummer)|meeting-?(?:id|nummer)|"
              + "id de (?:la )?(?:réunion|reunión)|id (?:riunione|da reunião)|vergader-?id|"
              + "numéro de (?:la )?réunion|número de (?:la )?reunión",
          "ミーティング\\s?ID|会议号",
          "\\h{0,3}[:=：]?\\h{0,3}(?:\\R\\h{0,8})?([0-9](?:[ \\u00a0-]?[0-9]){7,13})(?![0-9])",
          ANY_CASE);
  private static final Pattern NUMBER_IN_LINK =
      Pattern.compile("https?://[^\\s<>\"/]{1,200}/(?:[a-z]{1,20}/){0,3}([0-9]{8,12})(?![0-9])");

  /** Looks through an event's description and the places where links stand. */
  static Recognised in(CalendarText.Component event, String description) {
    Recognised found = in(description);
    for (CalendarText.Line line : event.all("X-ALT-DESC").toList()) {
      found = found.or(in(line.text()));
    }
    for (String name : List.of("CONFERENCE", "LOCATION", "URL")) {
      for (CalendarText.Line line : event.all(name).toList()) {
        found = found.or(in(name.equals("LOCATION") ? line.text() : line.value()));
      }
    }
    return found;
  }

  /** Looks through a text; only its first hundred thousand characters. */
  static Recognised in(String whole) {
    String text = HtmlText.of(Texts.cut(whole, MAX_TEXT)).replace('\u00a0', ' ');
    Matcher link = LINK.matcher(text);
    String fromLink = link.find() ? decoded(link.group(1)) : null;
    Set<String> certain = new LinkedHashSet<>();
    Set<String> doubts = new LinkedHashSet<>();
    Matcher said = SAID.in(text);
    for (int from = 0; SAID.find(said, text, from); ) {
      String value = bare(said.group("value"));
      boolean byPhone = isByPhone(text, said.start());
      if (!byPhone && isCertain(value, said)) {
        certain.add(value);
      } else if (!byPhone && mayBe(value)) {
        doubts.add("“" + shown(said.group()) + "” may give a passcode; it counts as not known");
      }
      from = Math.max(said.start("value"), from + 1);
    }
    if (certain.size() > 1 && !(fromLink != null && certain.contains(fromLink))) {
      doubts.add("the text gives " + certain.size() + " passcodes; which one counts is not known");
      certain.clear();
    }
    String fromText =
        certain.isEmpty()
            ? null
            : fromLink != null && certain.contains(fromLink) ? fromLink : certain.iterator().next();
    Matcher number = NUMBER.in(text);
    Matcher inLink = NUMBER_IN_LINK.matcher(text);
    String digits =
        NUMBER.find(number, text, 0) ? number.group(1) : inLink.find() ? inLink.group(1) : null;
    return new Recognised(
        fromText == null ? fromLink : fromText,
        digits == null ? null : grouped(digits),
        fromText != null,
        fromLink != null,
        fromText == null && fromLink == null ? List.copyOf(doubts) : List.of());
  }

  Recognised or(Recognised other) {
    boolean known = passcode != null || other.passcode != null;
    Set<String> both = new LinkedHashSet<>(doubts);
    both.addAll(other.doubts);
    return new Recognised(
        passcode == null ? other.passcode : passcode,
        number == null ? other.number : number,
        inText || other.inText,
        inLink || other.inLink,
        known ? List.of() : List.copyOf(both));
  }

  Recognised withoutDoubts() {
    return new Recognised(passcode, number, inText, inLink, List.of());
  }

  /** A code by its looks: it has a digit or a sign, or letters of both cases. */
  private static boolean isCertain(String value, Matcher said) {
    if (!mayBe(value)) {
      return false;
    }
    boolean hasDigitOrSign = value.matches(".*[0-9].*|.*[^\\p{L}\\p{M}].*[^\\p{L}\\p{M}.,;:!?].*");
    boolean isMixed = value.matches("\\p{Lu}?\\p{Ll}+\\p{Lu}.*|.*\\p{L}[-_#+*].*\\p{L}.*");
    // a plain word counts where it alone stands behind a colon
    boolean isAlone = said.group("sign") != null && said.group("rest").isBlank();
    return hasDigitOrSign || isMixed || isAlone;
  }

  private static boolean mayBe(String value) {
    String word = value.toLowerCase(Locale.ROOT);
    return value.length() >= 3
        && value.codePoints().anyMatch(Character::isLetterOrDigit)
        && !NO_PASSCODES.contains(word)
        && !word.startsWith("http")
        && !word.contains("@")
        && !word.contains("…")
        && !word.endsWith(":");
  }

  /** A passcode for the telephone is another than the meeting's. */
  private static boolean isByPhone(String text, int at) {
    String before = text.substring(Math.max(0, at - 24), at).toLowerCase(Locale.ROOT);
    String line = before.substring(before.lastIndexOf('\n') + 1);
    return line.matches(
        ".*(?:phone|telephone|dial-?in|audio|numeric|telefon|téléphone|teléfono)\\h*");
  }

  private static String shown(String text) {
    String line = text.replaceAll("\\s+", " ").strip();
    return line.length() > 60 ? Texts.cut(line, 60) + "…" : line;
  }

  private static String decoded(String value) {
    try {
      return URLDecoder.decode(value, StandardCharsets.UTF_8);
    } catch (IllegalArgumentException e) {
      return value; // a stray percent sign
    }
  }

  /** Without the quotes around it and what closes a sentence. */
  private static String bare(String word) {
    return word.replaceAll("^[\"'“”„«‘’(\\[]{1,3}", "").replaceAll("[\"'“”»‘’.,;:)\\]]{1,5}$", "");
  }

  /** In groups of three, as numbers are written here. */
  private static String grouped(String digits) {
    return digits.replaceAll("[^0-9]", "").replaceAll("(?<=\\d)(?=(?:\\d{3})+$)", " ");
  }
}
