package app.uprightwarden.server.register;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertNotEquals;
import static org.testng.Assert.assertThrows;
import static org.testng.Assert.assertTrue;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.Arrays;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.Test;

/** Passcodes at rest. */
public class PasscodeVaultTest {
  private Path file;
  private PasscodeVault vault;

  @BeforeMethod
  public void makeVault() throws IOException {
    file = Files.createTempDirectory("vault").resolve("deep").resolve("secret.key");
    vault = new PasscodeVault(new SecretProperties(file, false, 0));
  }

  @Test
  public void whatIsSealedOpensAgainEvenAfterAStart() {
    byte[] sealed = vault.seal("m-1", "kelp-Rudder-41");
    assertEquals(vault.open("m-1", sealed), "kelp-Rudder-41");
    PasscodeVault again = new PasscodeVault(new SecretProperties(file, false, 0));
    assertEquals(again.open("m-1", sealed), "kelp-Rudder-41");
    assertEquals(again.fingerprint("x"), vault.fingerprint("x"));
  }

  @Test
  public void sealingTwiceLooksDifferentAndShowsNothing() {
    byte[] first = vault.seal("m-1", "kelp-Rudder-41");
    byte[] second = vault.seal("m-1", "kelp-Rudder-41");
    assertFalse(Arrays.equals(first, second));
    assertFalse(new String(first, StandardCharsets.ISO_8859_1).contains("kelp"));
  }

  @Test
  public void aSealIsGoodForItsMeetingAndUntouchedOnly() {
    byte[] sealed = vault.seal("m-1", "kelp-Rudder-41");
    assertThrows(IllegalStateException.class, () -> vault.open("m-2", sealed));
    sealed[sealed.length - 1] ^= 1;
    assertThrows(IllegalStateException.class, () -> vault.open("m-1", sealed));
  }

  @Test
  public void anotherKeyOpensNothingAndPrintsOtherwise() throws IOException {
    Path elsewhere = Files.createTempDirectory("vault").resolve("secret.key");
    PasscodeVault other = new PasscodeVault(new SecretProperties(elsewhere, false, 0));
    byte[] sealed = vault.seal("m-1", "kelp-Rudder-41");
    assertThrows(IllegalStateException.class, () -> other.open("m-1", sealed));
    assertNotEquals(other.fingerprint("x"), vault.fingerprint("x"));
    assertNotEquals(vault.fingerprint("x"), vault.fingerprint("y"));
    assertEquals(vault.fingerprint("x").length(), 43);
  }

  @Test
  public void theKeyIsForItsOwnerAloneAndAFaultyOneIsSaid() throws IOException {
    assertEquals(PosixFilePermissions.toString(Files.getPosixFilePermissions(file)), "rw-------");
    Files.writeString(file, "c2hvcnQ=");
    IllegalStateException told =
        org.testng.Assert.expectThrows(
            IllegalStateException.class,
            () -> new PasscodeVault(new SecretProperties(file, false, 0)));
    assertTrue(told.getMessage().contains("32 bytes"), told.getMessage());
  }

  @Test
  public void aMeetingOnItsWayNeverShowsItsPasscode() {
    Scheduled scheduled =
        new Scheduled(MeetingsForTests.plain("m-1"), Details.NONE, "kelp-Rudder-41");
    assertFalse(scheduled.toString().contains("kelp"));
  }
}
