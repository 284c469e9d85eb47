package app.uprightwarden.server.ledger;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.dao.DataAccessException;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;
import org.springframework.transaction.TransactionException;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * Keeps the chain's sealed end outside the database, in a file that the operator names: whoever has
 * the database alone can put an older one in its place, with its own right seal, but not here.
 */
@Component
class LedgerAnchors {
  private static final Logger LOG = LoggerFactory.getLogger(LedgerAnchors.class);

  /** The newest are read; older ones stay in the file. */
  private static final int MAX_READ = 20_000;

  private static final int LONGEST_LINE = 1000;

  private final @Nullable Path file;
  private final LedgerChain chain;
  private final JsonMapper json;
  private final Clock clock;
  private long told = -1;
  private boolean isInTrouble;

  LedgerAnchors(
      @Value("${warden.ledger.anchors:}") String file,
      LedgerChain chain,
      JsonMapper json,
      Clock clock) {
    this.file = file.isBlank() ? null : Path.of(file).toAbsolutePath();
    this.chain = chain;
    this.json = json;
    this.clock = clock;
  }

  /** Where the chain ends, sealed; kept elsewhere, it shows later whether anything was lost. */
  record LedgerEnd(long seq, String hash, Instant at, int key, String seal) {}

  /** The sealed end of the chain, for whoever keeps it. */
  LedgerEnd signed() {
    LedgerChain.Head head = chain.head();
    return new LedgerEnd(
        head.seq(),
        head.hash(),
        clock.instant(),
        Objects.requireNonNullElse(head.keyNo(), 0),
        String.valueOf(head.mac()));
  }

  @EventListener(ApplicationReadyEvent.class)
  void first() {
    tell();
  }

  /** Writes the end down where it has moved. */
  @Scheduled(fixedDelay = 60_000, initialDelay = 60_000)
  synchronized void tell() {
    if (file == null) {
      return;
    }
    try {
      LedgerEnd line = signed();
      if (line.seq() != told) {
        Files.writeString(
            file,
            json.writeValueAsString(line) + "\n",
            StandardCharsets.UTF_8,
            StandardOpenOption.CREATE,
            StandardOpenOption.APPEND,
            StandardOpenOption.SYNC);
        told = line.seq();
      }
      isInTrouble = false;
    } catch (IOException | DataAccessException | TransactionException e) {
      if (!isInTrouble) {
        LOG.error("the ledger's end cannot be kept in {}: {}", file, e.getMessage());
      }
      isInTrouble = true;
    }
  }

  /** The ends that were kept, the oldest first. */
  List<LedgerVerification.Held> held() {
    List<LedgerVerification.Held> held = new ArrayList<>();
    if (file == null || !Files.exists(file)) {
      return held;
    }
    try {
      List<String> lines = Files.readAllLines(file);
      for (String line : lines.subList(Math.max(0, lines.size() - MAX_READ), lines.size())) {
        if (line.length() <= LONGEST_LINE && !line.isBlank()) {
          JsonNode one = json.readTree(line);
          held.add(
              new LedgerVerification.Held(
                  one.path("seq").longValue(-1), one.path("hash").stringValue("")));
        }
      }
    } catch (IOException | JacksonException e) {
      LOG.error("the ends kept in {} cannot be read: {}", file, e.getMessage());
    }
    return held;
  }
}
