package app.uprightwarden.server.register;

import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.server.access.AccessHash;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionSynchronization;
import org.springframework.transaction.support.TransactionSynchronizationManager;
import tools.jackson.databind.json.JsonMapper;

/**
 * Sets of control values, each stored once and read once: rows never change, so that what has been
 * read may be kept. Only rows that were seen committed are remembered by their number.
 */
@Component
class ControlSets {
  private static final int MAX_REMEMBERED = 100_000;

  private final ControlSetRepository sets;
  private final JsonMapper json;
  private final Map<Long, ControlValues> byId = new ConcurrentHashMap<>();
  private final Map<String, Long> byDigest = new ConcurrentHashMap<>();

  ControlSets(ControlSetRepository sets, JsonMapper json) {
    this.sets = sets;
    this.json = json;
  }

  @Transactional(propagation = Propagation.MANDATORY)
  public long idOf(ControlValues values) {
    String document = json.writeValueAsString(ControlsJson.plain(values));
    String digest = AccessHash.sha256(document);
    Long known = byDigest.get(digest);
    if (known != null) {
      return known;
    }
    Used used = used();
    return used.ids.computeIfAbsent(
        digest,
        // looked for first: an insert that finds its row locks it, and many at once would lock
        // each other
        d ->
            find(d)
                .orElseGet(
                    () -> {
                      sets.add(d, document);
                      return find(d).orElseThrow();
                    }));
  }

  /** The sets that one transaction uses. What it makes may be undone, until it is committed. */
  private final class Used implements TransactionSynchronization {
    private final Map<String, Long> ids = new HashMap<>();

    @Override
    public void suspend() {
      TransactionSynchronizationManager.unbindResource(ControlSets.this);
    }

    @Override
    public void resume() {
      TransactionSynchronizationManager.bindResource(ControlSets.this, this);
    }

    @Override
    public void afterCommit() {
      if (byDigest.size() > MAX_REMEMBERED) {
        byDigest.clear();
      }
      byDigest.putAll(ids);
    }

    @Override
    public void afterCompletion(int status) {
      TransactionSynchronizationManager.unbindResourceIfPossible(ControlSets.this);
    }
  }

  private Used used() {
    Used used = (Used) TransactionSynchronizationManager.getResource(this);
    if (used == null) {
      used = new Used();
      TransactionSynchronizationManager.bindResource(this, used);
      TransactionSynchronizationManager.registerSynchronization(used);
    }
    return used;
  }

  private Optional<Long> find(String digest) {
    return sets.withDigest(digest).map(row -> row.id);
  }

  ControlValues values(long id) {
    ControlValues known = byId.get(id);
    if (known != null) {
      return known;
    }
    String document = sets.find(id).orElseThrow().document;
    ControlValues values = ControlsJson.read(json.readTree(document), "", new ArrayList<>());
    if (byId.size() > MAX_REMEMBERED) {
      byId.clear();
    }
    byId.put(id, values);
    return values;
  }

  /** The sets among these that some meetings have, read at once. */
  void warm(List<Long> ids) {
    List<Long> missing = ids.stream().distinct().filter(id -> !byId.containsKey(id)).toList();
    if (missing.isEmpty()) {
      return;
    }
    sets.among(missing)
        .forEach(
            row ->
                byId.put(
                    row.id, ControlsJson.read(json.readTree(row.document), "", new ArrayList<>())));
  }
}
