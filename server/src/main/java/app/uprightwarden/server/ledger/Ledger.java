package app.uprightwarden.server.ledger;

import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.TreeSet;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionSynchronization;
import org.springframework.transaction.support.TransactionSynchronizationManager;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * Writes down what is done, in the transaction that does it. What a request does is known from the
 * request ({@link LedgerActions}); services add what changed, before and after. The entry is
 * chained when the transaction is about to be committed, so that the chain's end is locked for that
 * moment only.
 */
@Component
public class Ledger {
  private static final int MAX_IN_FULL = 300;

  /** Beyond these it is said how many more there were; what each of them was, the links say. */
  private static final int MAX_NAMED = 5_000;

  private static final int LONGEST = 60_000;
  private static final ThreadLocal<@Nullable RequestAuditContext> IN_HAND = new ThreadLocal<>();

  private final LedgerChain chain;
  private final JsonMapper json;
  private final Clock clock;

  Ledger(LedgerChain chain, JsonMapper json, Clock clock) {
    this.chain = chain;
    this.json = json;
    this.clock = clock;
  }

  /** What one transaction changed. */
  private record Changed(
      String object,
      String id,
      String title,
      @Nullable JsonNode before,
      @Nullable JsonNode after) {}

  /**
   * Adds what changed to the entry of this transaction.
   *
   * @param by who did it, where no request did
   * @param before null where there was nothing; {@code after} likewise. Of an act on very many
   *     things the first are written in full, and of the others that they changed
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public void changed(
      String object,
      String id,
      String title,
      @Nullable Supplier<?> before,
      @Nullable Supplier<?> after,
      String by) {
    Writing writing = writing();
    boolean inFull = writing.changed.size() < MAX_IN_FULL;
    writing.changed.add(
        new Changed(
            object,
            id,
            title,
            before == null || !inFull ? null : tree(before.get()),
            after == null || !inFull ? null : tree(after.get())));
    writing.by = by;
  }

  private JsonNode tree(Object value) {
    return Secrets.masked(json.valueToTree(value));
  }

  static void begin(RequestAuditContext act) {
    IN_HAND.set(act);
  }

  static @Nullable RequestAuditContext inHand() {
    return IN_HAND.get();
  }

  static void end() {
    IN_HAND.remove();
  }

  /** A transaction has begun that may change something. */
  void watch() {
    RequestAuditContext act = IN_HAND.get();
    if (act != null && !act.written) {
      writing();
    }
  }

  /** For an act that needed no transaction of its own. */
  @Transactional
  public void alone() {
    writing();
  }

  private Writing writing() {
    Writing writing = (Writing) TransactionSynchronizationManager.getResource(this);
    if (writing == null) {
      writing = new Writing();
      TransactionSynchronizationManager.bindResource(this, writing);
      TransactionSynchronizationManager.registerSynchronization(writing);
    }
    return writing;
  }

  /** Gathers what a transaction changes and writes it down as it ends. */
  private final class Writing implements TransactionSynchronization {
    private final List<Changed> changed = new ArrayList<>();
    private String by = "upright-warden";
    private boolean wrote;

    @Override
    public void suspend() {
      TransactionSynchronizationManager.unbindResource(Ledger.this);
    }

    @Override
    public void resume() {
      TransactionSynchronizationManager.bindResource(Ledger.this, this);
    }

    @Override
    public void beforeCommit(boolean readOnly) {
      RequestAuditContext act = IN_HAND.get();
      boolean isFirst = act != null && !act.written;
      if (readOnly || !isFirst && changed.isEmpty()) {
        return;
      }
      chain.append(act == null ? background() : asked(act, isFirst), touched());
      if (act != null) {
        act.written = true;
        wrote = true;
      }
    }

    @Override
    public void afterCompletion(int status) {
      TransactionSynchronizationManager.unbindResourceIfPossible(Ledger.this);
      RequestAuditContext act = IN_HAND.get();
      if (wrote && act != null && status != STATUS_COMMITTED) {
        act.written = false; // it may be tried again
      }
    }

    private LedgerChain.Draft asked(RequestAuditContext act, boolean isFirst) {
      Changed only = changed.size() == 1 ? changed.get(0) : null;
      boolean isNamed = !act.objectId.isEmpty();
      boolean takes = !isNamed && only != null;
      JsonNode body = isFirst && act.asked != null ? tree(act.asked) : null;
      String who = act.who;
      if (who == null || act.isSignIn()) {
        who = body == null ? "nobody" : body.path("email").stringValue("nobody");
      }
      if (act.act.equals("password.set-by-link") && only != null) {
        who = only.id(); // whoever holds the link is who it is for; who made it is in the details
      }
      return new LedgerChain.Draft(
          act.at,
          who,
          act.via,
          act.address,
          act.act,
          takes ? Objects.requireNonNull(only).object() : act.object,
          takes ? Objects.requireNonNull(only).id() : act.objectId,
          only == null ? "" : only.title(),
          details(body));
    }

    private LedgerChain.Draft background() {
      Changed first = changed.get(0);
      return new LedgerChain.Draft(
          clock.instant(),
          by,
          "background",
          "",
          first.object() + ".changed",
          first.object(),
          changed.size() == 1 ? first.id() : "",
          changed.size() == 1 ? first.title() : changed.size() + " changed",
          details(null));
    }

    private String details(@Nullable JsonNode body) {
      Map<String, @Nullable Object> details = new LinkedHashMap<>();
      if (body != null) {
        String text = json.writeValueAsString(body);
        details.put("asked", text.length() > LONGEST ? "too long to keep" : body);
      }
      List<Map<String, @Nullable Object>> all = new ArrayList<>();
      for (Changed each : changed.subList(0, Math.min(changed.size(), MAX_NAMED))) {
        Map<String, @Nullable Object> one = new LinkedHashMap<>();
        one.put("object", each.object());
        one.put("id", each.id());
        one.put("title", each.title());
        one.putAll(difference(each.before(), each.after()));
        all.add(one);
      }
      if (!all.isEmpty()) {
        details.put("changed", all);
      }
      if (changed.size() > MAX_NAMED) {
        details.put("more", changed.size() - MAX_NAMED);
      }
      return json.writeValueAsString(details);
    }

    private List<LedgerChain.Touched> touched() {
      return changed.stream()
          .map(each -> new LedgerChain.Touched(each.object(), each.id()))
          .distinct()
          .toList();
    }
  }

  /** What is in one and not the same in the other, of two objects; else both as they are. */
  private static Map<String, @Nullable Object> difference(
      @Nullable JsonNode before, @Nullable JsonNode after) {
    Map<String, @Nullable Object> difference = new LinkedHashMap<>();
    if (before == null || after == null || !before.isObject() || !after.isObject()) {
      if (before != null) {
        difference.put("before", before);
      }
      if (after != null) {
        difference.put("after", after);
      }
      return difference;
    }
    Map<String, @Nullable Object> was = new LinkedHashMap<>();
    Map<String, @Nullable Object> is = new LinkedHashMap<>();
    TreeSet<String> names = new TreeSet<>(before.propertyNames());
    names.addAll(after.propertyNames());
    for (String name : names) {
      JsonNode one = before.path(name);
      JsonNode other = after.path(name);
      if (!one.equals(other)) {
        boolean nested = one.isObject() && other.isObject();
        Map<String, @Nullable Object> within = nested ? difference(one, other) : Map.of();
        was.put(name, nested ? within.get("before") : one.isMissingNode() ? null : one);
        is.put(name, nested ? within.get("after") : other.isMissingNode() ? null : other);
      }
    }
    difference.put("before", was);
    difference.put("after", is);
    return difference;
  }

  Instant now() {
    return clock.instant();
  }
}
