package app.uprightwarden.core.meeting;

import java.util.Locale;

/** Why a passcode is easily guessed. */
public enum Weakness {
  NONE(""),
  COMMON("is on the list of common passcodes"),
  RUN("is a run of neighbouring characters"),
  REPEAT("is one character repeated"),
  TITLE_WORD("is a word of the title"),
  HOST_WORD("is a word of the host's address"),
  PHONE("for telephones is common, a run of digits or one digit repeated");

  private final String phrase;

  Weakness(String phrase) {
    this.phrase = phrase;
  }

  /** As it is written in files and answers, stable for ever. */
  public String id() {
    return name().toLowerCase(Locale.ROOT).replace('_', '-');
  }

  /** To stand behind "the passcode". */
  public String phrase() {
    return phrase;
  }
}
