package app.uprightwarden.server.vault;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.attribute.FileTime;
import java.nio.file.attribute.PosixFilePermissions;
import java.security.SecureRandom;
import java.util.ArrayList;
import java.util.Base64;
import java.util.List;

/**
 * The file of keys: a line each, a number from 1 to 255 and 32 bytes in Base64; the last is the
 * current one. A line without a number, as the first version wrote it, is key 1. It is replaced as
 * a whole or not at all, so that an interruption never leaves half a key.
 */
final class KeyFile {
  static final int KEY_BYTES = 32;
  static final int MOST = 255;

  private final Path file;
  private final SecureRandom random = new SecureRandom();

  KeyFile(Path file) {
    this.file = file.toAbsolutePath();
  }

  /** A key and its number. */
  @SuppressWarnings("ArrayRecordComponent") // never compared, never printed
  record Numbered(int number, byte[] key) {
    @Override
    public String toString() {
      return "key " + number;
    }
  }

  /** When it was last written; two servers can share it. */
  FileTime written() {
    try {
      return Files.getLastModifiedTime(file);
    } catch (IOException e) {
      throw new UncheckedIOException("the key file " + file + " is not there any more", e);
    }
  }

  List<Numbered> readOrMake() {
    try {
      if (!Files.exists(file)) {
        Files.createDirectories(file.getParent());
        write(List.of(fresh(1)), false);
      }
      return read();
    } catch (FileAlreadyExistsException e) {
      return read(); // another server was quicker
    } catch (IOException e) {
      throw new UncheckedIOException("cannot make the key file " + file, e);
    }
  }

  private List<Numbered> read() {
    List<Numbered> keys = new ArrayList<>();
    try {
      for (String line : Files.readAllLines(file)) {
        String[] parts = line.strip().split("\\s+");
        if (!parts[0].isEmpty() && parts.length <= 2) {
          int number = parts.length == 1 ? 1 : Integer.parseInt(parts[0]);
          keys.add(new Numbered(number, Base64.getDecoder().decode(parts[parts.length - 1])));
        }
      }
    } catch (IOException e) {
      throw new UncheckedIOException("cannot read the key file " + file, e);
    } catch (IllegalArgumentException e) {
      throw faulty(e);
    }
    boolean areGood =
        !keys.isEmpty()
            && keys.stream()
                .allMatch(
                    k -> k.key().length == KEY_BYTES && k.number() >= 1 && k.number() <= MOST);
    if (!areGood) {
      throw faulty(null);
    }
    return keys;
  }

  private IllegalStateException faulty(@org.jspecify.annotations.Nullable Exception why) {
    return new IllegalStateException(
        file + " does not hold keys of " + KEY_BYTES + " bytes; put the right one back", why);
  }

  Numbered fresh(int number) {
    byte[] key = new byte[KEY_BYTES];
    random.nextBytes(key);
    return new Numbered(number, key);
  }

  /** Puts these keys in the place of those that are there. */
  void replace(List<Numbered> keys) {
    try {
      write(keys, true);
    } catch (IOException e) {
      throw new UncheckedIOException("cannot write the key file " + file, e);
    }
  }

  private void write(List<Numbered> keys, boolean over) throws IOException {
    StringBuilder text = new StringBuilder();
    for (Numbered key : keys) {
      text.append(key.number())
          .append(' ')
          .append(Base64.getEncoder().encodeToString(key.key()))
          .append('\n');
    }
    Path half =
        Files.createTempFile(
            file.getParent(),
            "key",
            ".new",
            PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString("rw-------")));
    try {
      Files.writeString(half, text);
      if (over) {
        Files.move(half, file, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
      } else {
        Files.createLink(file, half); // fails where there is one by now
      }
    } finally {
      Files.deleteIfExists(half);
    }
  }
}
