package app.uprightwarden.server.vault;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.channels.FileChannel;
import java.nio.channels.FileLock;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.FileTime;
import java.nio.file.attribute.PosixFilePermissions;
import java.security.SecureRandom;
import java.util.ArrayList;
import java.util.Base64;
import java.util.List;
import java.util.function.Supplier;
import java.util.stream.Stream;

/**
 * The file of keys: a line each, a number from 1 to 255 and 32 bytes in Base64; the last is the
 * current one. A line without a number, as the first version wrote it, is key 1. Lines that begin
 * with {@code ledger} keep what the ledger needs of keys that were dropped, and that its chain has
 * a key at all, which the database must not be believed on. The file is replaced as a whole or not
 * at all, so that an interruption never leaves half a key.
 */
final class KeyFile {
  static final int KEY_BYTES = 32;
  static final int MAX = 255;
  private static final String LEDGER = "ledger";
  private static final String LEDGER_BEGAN = "ledger-began";

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

  /** All that the file holds: keys, the ledger's of dropped ones, and whether its chain began. */
  record Content(List<Numbered> keys, List<Numbered> ledger, boolean ledgerBegan) {}

  /** When it was last written; two servers can share it. */
  FileTime written() {
    try {
      return Files.getLastModifiedTime(file);
    } catch (IOException e) {
      throw new UncheckedIOException("the key file " + file + " is not there any more", e);
    }
  }

  Content readOrMake() {
    try {
      if (!Files.exists(file)) {
        Files.createDirectories(file.getParent());
        write(new Content(List.of(fresh(1)), List.of(), false), false);
      }
      return read();
    } catch (FileAlreadyExistsException e) {
      return read(); // another server was quicker
    } catch (IOException e) {
      throw new UncheckedIOException("cannot make the key file " + file, e);
    }
  }

  private Content read() {
    List<Numbered> keys = new ArrayList<>();
    List<Numbered> ledger = new ArrayList<>();
    boolean began = false;
    try {
      for (String line : Files.readAllLines(file)) {
        String[] parts = line.strip().split("\\s+");
        if (parts[0].equals(LEDGER_BEGAN)) {
          began = true;
        } else if (parts[0].equals(LEDGER) && parts.length == 3) {
          ledger.add(
              new Numbered(Integer.parseInt(parts[1]), Base64.getDecoder().decode(parts[2])));
        } else if (!parts[0].isEmpty() && parts.length <= 2) {
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
            && Stream.concat(keys.stream(), ledger.stream())
                .allMatch(k -> k.key().length == KEY_BYTES && k.number() >= 1 && k.number() <= MAX);
    if (!areGood) {
      throw faulty(null);
    }
    return new Content(List.copyOf(keys), List.copyOf(ledger), began);
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
  void replace(Content keys) {
    try {
      write(keys, true);
    } catch (IOException e) {
      throw new UncheckedIOException("cannot write the key file " + file, e);
    }
  }

  /**
   * Does something while no other server, thread or command changes the file: of two who add a key
   * at once, the second sees the first one's.
   */
  <T> T alone(Supplier<T> work) {
    Path lock = file.resolveSibling(file.getFileName() + ".lock");
    synchronized (KeyFile.class) {
      try (FileChannel channel =
              FileChannel.open(lock, StandardOpenOption.CREATE, StandardOpenOption.WRITE);
          FileLock held = channel.lock()) {
        if (!held.isValid()) {
          throw new IllegalStateException("the key file cannot be locked: " + file);
        }
        return work.get();
      } catch (IOException e) {
        throw new UncheckedIOException("cannot lock the key file " + file, e);
      }
    }
  }

  private void write(Content content, boolean over) throws IOException {
    StringBuilder text = new StringBuilder();
    if (content.ledgerBegan()) {
      text.append(LEDGER_BEGAN).append('\n');
    }
    for (Numbered key : content.ledger()) {
      text.append(LEDGER)
          .append(' ')
          .append(key.number())
          .append(' ')
          .append(Base64.getEncoder().encodeToString(key.key()))
          .append('\n');
    }
    for (Numbered key : content.keys()) {
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
