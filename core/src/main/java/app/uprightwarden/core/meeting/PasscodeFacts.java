package app.uprightwarden.core.meeting;

import app.uprightwarden.core.control.Value;

/**
 * What the audit knows of a passcode, without the passcode.
 *
 * @param length in characters
 * @param makeup a value of the control {@code passcode-makeup}
 * @param leaked whether title or description hold it
 * @param fingerprint equal for equal passcodes, and of no other use
 */
public record PasscodeFacts(
    int length, Value makeup, Weakness weakness, boolean leaked, String fingerprint) {

  /** The same, weak for another reason. */
  public PasscodeFacts withWeakness(Weakness weakness) {
    return new PasscodeFacts(length, makeup, weakness, leaked, fingerprint);
  }
}
