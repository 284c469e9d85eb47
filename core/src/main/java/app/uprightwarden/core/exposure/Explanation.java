package app.uprightwarden.core.exposure;

import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.door.Door;
import app.uprightwarden.core.door.Moment;
import app.uprightwarden.core.door.Passage;
import app.uprightwarden.core.door.Roles;
import app.uprightwarden.core.people.Joiner;
import app.uprightwarden.core.people.Persona;
import app.uprightwarden.core.people.Right;
import app.uprightwarden.core.people.Role;
import app.uprightwarden.core.rulebook.Level;

/**
 * How a level of the matrix came about.
 *
 * @param role the persona has once in
 * @param beforeTheStart the door's answer one minute before, with no host there
 * @param inSession the door's answer one minute after, with a host in
 * @param words one or two sentences
 */
public record Explanation(
    Persona persona,
    Right right,
    Level level,
    Role role,
    Passage beforeTheStart,
    Passage inSession,
    String words) {

  /** Why a persona holds a right as freely as they do under these values. */
  public static Explanation of(ControlValues values, Persona persona, Right right) {
    Joiner joiner = Matrix.joiner(persona, values);
    Level level = Matrix.of(values).level(persona, right);
    Role role = Roles.of(values, joiner);
    Passage before = Door.pass(values, joiner, Moment.UNATTENDED);
    Passage session = Door.pass(values, joiner, Moment.IN_SESSION);
    String words = words(persona, right, level, role, session);
    return new Explanation(persona, right, level, role, before, session, words);
  }

  private static String words(
      Persona persona, Right right, Level level, Role role, Passage session) {
    String who = "Someone who " + persona.phrase();
    if (level != Level.NEVER) {
      return who + " can " + right.phrase() + " " + level.phrase() + ", as " + role.id() + ".";
    }
    if (session.outcome() == Passage.Outcome.REFUSED && session.step() != null) {
      return who
          + " is refused at "
          + session.step().title()
          + ": "
          + session.trail().get(session.trail().size() - 1).words();
    }
    return who + " comes in as " + role.id() + ", which does not let them " + right.phrase() + ".";
  }
}
