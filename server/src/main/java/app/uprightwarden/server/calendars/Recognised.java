package app.uprightwarden.server.calendars;

import app.uprightwarden.server.problem.Texts;
import java.net.URLDecoder;
import java.nio.charset.StandardCharsets;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * What a text that invites people gives away: a passcode, a number, a link that holds the passcode.
 *
 * @param inText the passcode stands in the text for itself
 * @param inLink a link holds it
 */
record Recognised(
    @Nullable String passcode, @Nullable String number, boolean inText, boolean inLink) {
  static final Recognised NOTHING = new Recognised(null, null, false, false);

  private static final int MOST_TEXT = 100_000;
  private static final Pattern LINK =
      Pattern.compile(
          "https?://[^\\s<>\"]{1,400}?[?&#](?:passcode|password|pwd|pin|code)=([^\\s<>\"&#]{1,128})",
          Pattern.CASE_INSENSITIVE);
  private static final Pattern SAID =
      Pattern.compile(
          "\\b(?:passcode|password|access code|entry code|pin)\\b[ \\t]{0,3}(?::|=|is\\b)[ \\t]{0,3}(\\S{3,128})",
          Pattern.CASE_INSENSITIVE);
  private static final Pattern NUMBER =
      Pattern.compile(
          "\\b(?:meeting (?:number|id)|number|conference id)\\b[ \\t]{0,3}[:=]?[ \\t]{0,3}([0-9](?:[ -]?[0-9]){7,13})",
          Pattern.CASE_INSENSITIVE);
  private static final Pattern NUMBER_IN_LINK =
      Pattern.compile("https?://[^\\s<>\"/]{1,200}/(?:[a-z]{1,20}/){0,3}([0-9]{8,12})(?![0-9])");

  /** Looks through a text; only its first hundred thousand characters. */
  static Recognised in(String whole) {
    String text = Texts.cut(whole, MOST_TEXT);
    Matcher link = LINK.matcher(text);
    String fromLink = link.find() ? decoded(link.group(1)) : null;
    Matcher said = SAID.matcher(text);
    String fromText = said.find() ? bare(said.group(1)) : null;
    if (fromText != null && fromText.isEmpty()) {
      fromText = null;
    }
    Matcher number = NUMBER.matcher(text);
    Matcher inLink = NUMBER_IN_LINK.matcher(text);
    String digits = number.find() ? number.group(1) : inLink.find() ? inLink.group(1) : null;
    return new Recognised(
        fromText == null ? fromLink : fromText,
        digits == null ? null : grouped(digits),
        fromText != null,
        fromLink != null);
  }

  Recognised or(Recognised other) {
    return new Recognised(
        passcode == null ? other.passcode : passcode,
        number == null ? other.number : number,
        inText || other.inText,
        inLink || other.inLink);
  }

  private static String decoded(String value) {
    try {
      return URLDecoder.decode(value, StandardCharsets.UTF_8);
    } catch (IllegalArgumentException e) {
      return value; // a stray percent sign
    }
  }

  /** Without what closes a sentence. */
  private static String bare(String word) {
    return word.replaceAll("[.,;:)\\]]{1,5}$", "");
  }

  /** In groups of three, as numbers are written here. */
  private static String grouped(String digits) {
    return digits.replaceAll("[ -]", "").replaceAll("(?<=\\d)(?=(?:\\d{3})+$)", " ");
  }
}
