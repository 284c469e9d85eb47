package app.uprightwarden.server.access;

import static org.testng.Assert.assertFalse;

import org.testng.annotations.Test;

/** Whoever guesses at an address must not see by the time it takes whether there is an account. */
public class NobodysPasswordTest {
  private final Passwords passwords = new Passwords(new SecurityConfig().passwordEncoder());

  /** What cannot be read as a hash would be refused at once, without the work of a check. */
  @Test
  public void itIsAHashOfTodaysCost() {
    assertFalse(passwords.isOutdated(Passwords.NOBODYS_HASH));
  }

  @Test
  public void noPasswordIsNobodys() {
    assertFalse(passwords.matches("", ""));
    assertFalse(passwords.matches("nobody has this password", ""));
  }
}
