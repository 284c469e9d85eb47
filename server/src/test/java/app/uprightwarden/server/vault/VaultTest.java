package app.uprightwarden.server.vault;

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

/** Secrets at rest. */
public class VaultTest {
  private Path file;
  private Vault vault;

  @BeforeMethod
  public void makeVault() throws IOException {
    file = Files.createTempDirectory("vault").resolve("deep").resolve("secret.key");
    vault = new Vault(new SecretProperties(file, false, 0));
  }

  @Test
  public void whatIsSealedOpensAgainEvenAfterAStart() {
    byte[] sealed = vault.seal("m-1", "kelp-Rudder-41");
    assertEquals(vault.open("m-1", sealed), "kelp-Rudder-41");
    Vault again = new Vault(new SecretProperties(file, false, 0));
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
    Vault other = new Vault(new SecretProperties(elsewhere, false, 0));
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
            IllegalStateException.class, () -> new Vault(new SecretProperties(file, false, 0)));
    assertTrue(told.getMessage().contains("32 bytes"), told.getMessage());
  }

  @Test
  public void withANewKeyWhatTheOldOneSealedStillOpens() {
    byte[] old = vault.seal("m-1", "kelp-Rudder-41");
    String print = vault.fingerprint("x");
    assertEquals(vault.addKey(), 2);
    byte[] anew = vault.seal("m-1", "kelp-Rudder-41");
    assertEquals(Vault.keyOf(old), 1);
    assertEquals(Vault.keyOf(anew), 2);
    assertEquals(vault.open("m-1", old), "kelp-Rudder-41");
    assertEquals(vault.open("m-1", anew), "kelp-Rudder-41");
    assertNotEquals(vault.fingerprint("x"), print);
    vault.forgetOld();
    assertEquals(vault.numbers(), java.util.List.of(2));
    assertThrows(IllegalStateException.class, () -> vault.open("m-1", old));
    assertEquals(vault.open("m-1", anew), "kelp-Rudder-41");
  }

  @Test
  public void anotherServerOnTheSameFileNoticesTheNewKey() {
    Vault other = new Vault(new SecretProperties(file, false, 0));
    vault.addKey();
    byte[] anew = vault.seal("m-1", "kelp-Rudder-41");
    assertEquals(other.open("m-1", anew), "kelp-Rudder-41");
    assertEquals(Vault.keyOf(other.seal("m-1", "x")), 2);
  }

  @Test
  public void theFirstVersionsFileIsKeyOne() throws IOException {
    String first = Files.readString(file).strip().split(" ")[1];
    Files.writeString(file, first + "\n");
    assertEquals(new Vault(new SecretProperties(file, false, 0)).numbers(), java.util.List.of(1));
  }

  /** Two who change keys at once: the second builds on what the first wrote. */
  @Test
  public void twoWhoAddAKeyAtOnceLoseNone() throws Exception {
    Vault other = new Vault(new SecretProperties(file, false, 0));
    int before = vault.numbers().size();
    byte[] sealed = vault.seal("x", "kept").clone();
    var both = java.util.concurrent.Executors.newFixedThreadPool(2);
    try {
      java.util.List<java.util.concurrent.Callable<Integer>> adding =
          java.util.List.of(vault::addKey, other::addKey, vault::addKey, other::addKey);
      for (var added : both.invokeAll(adding)) {
        added.get();
      }
    } finally {
      both.shutdown();
    }
    Vault third = new Vault(new SecretProperties(file, false, 0));
    assertEquals(third.numbers().size(), before + 4);
    assertEquals(third.numbers().stream().distinct().count(), before + 4);
    assertEquals(third.open("x", sealed), "kept");
  }

  @Test
  public void theFileIsNeverHalfWritten() throws IOException {
    vault.addKey();
    vault.addKey();
    try (var files = Files.list(file.getParent())) {
      assertEquals(
          files.filter(f -> !f.toString().endsWith(".lock")).toList(),
          java.util.List.of(file),
          "nothing is left beside it");
    }
    assertEquals(PosixFilePermissions.toString(Files.getPosixFilePermissions(file)), "rw-------");
    assertEquals(Files.readAllLines(file).size(), 3);
  }
}
