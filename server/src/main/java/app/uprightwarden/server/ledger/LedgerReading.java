package app.uprightwarden.server.ledger;

import app.uprightwarden.server.persistence.AsRead;
import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Reads entries, the newest first. */
@Component
class LedgerReading {
  private final LedgerRepository ledger;

  LedgerReading(LedgerRepository ledger) {
    this.ledger = ledger;
  }

  /**
   * What to show; null takes all.
   *
   * @param act an act, or the first part of some, such as {@code meeting}
   * @param objectId with {@code object}: one thing's history, also where an act on many touched it
   */
  record LedgerFilter(
      @Nullable String who,
      @Nullable String act,
      @Nullable String object,
      @Nullable String objectId,
      @Nullable Instant from,
      @Nullable Instant to,
      @Nullable String text) {}

  /** A page of entries. */
  record EntryPage(List<LedgerChain.Entry> items, int page, int size, int total) {}

  private record Where(String hql, Map<String, Object> parameters) {}

  private static Where where(LedgerFilter f) {
    StringBuilder hql = new StringBuilder("1 = 1");
    Map<String, Object> parameters = new LinkedHashMap<>();
    if (isGiven(f.who())) {
      hql.append(" and e.who = :who");
      parameters.put("who", f.who());
    }
    if (isGiven(f.act())) {
      hql.append(" and (e.act = :act or e.act like :acts escape '!')");
      parameters.put("act", f.act());
      parameters.put("acts", escaped(f.act()) + ".%");
    }
    if (isGiven(f.object())) {
      parameters.put("object", f.object());
      if (isGiven(f.objectId())) {
        hql.append(
            " and (e.object = :object and e.objectId = :id or e.seq in (select t.seq from"
                + " LedgerTouchedEntity t where t.object = :object and t.objectId = :id))");
        parameters.put("id", f.objectId());
      } else {
        hql.append(" and e.object = :object");
      }
    }
    if (f.from() != null) {
      hql.append(" and e.at >= :first");
      parameters.put("first", f.from());
    }
    if (f.to() != null) {
      hql.append(" and e.at < :end");
      parameters.put("end", f.to());
    }
    String text = f.text();
    if (text != null && !text.isBlank()) {
      hql.append(
          " and (%s like :text escape '!' or %s like :text escape '!' or %s like :text escape '!')"
              .formatted(
                  AsRead.of("e.title"), AsRead.of("e.objectId"), AsRead.ofLong("e.details")));
      parameters.put("text", AsRead.having(text));
    }
    return new Where(hql.toString(), parameters);
  }

  private static boolean isGiven(@Nullable String text) {
    return text != null && !text.isBlank();
  }

  private static String escaped(@Nullable String text) {
    return String.valueOf(text).replaceAll("([!%_])", "!$1");
  }

  @Transactional(readOnly = true)
  public EntryPage page(LedgerFilter filter, int page, int size) {
    Where where = where(filter);
    int total = Math.toIntExact(ledger.count(where.hql(), where.parameters()));
    List<LedgerChain.Entry> items =
        ledger.page(where.hql(), where.parameters(), (long) page * size, size).stream()
            .map(LedgerChain::entry)
            .toList();
    return new EntryPage(items, page, size, total);
  }

  /** Every such entry in the chain's order, without holding them all. */
  @Transactional(readOnly = true)
  public void each(LedgerFilter filter, Consumer<LedgerChain.Entry> consumer) {
    Where where = where(filter);
    ledger.each(where.hql(), where.parameters(), row -> consumer.accept(LedgerChain.entry(row)));
  }

  /** Everybody who is in the ledger, and every act that is. */
  record Known(List<String> people, List<String> acts) {}

  @Transactional(readOnly = true)
  public Known known() {
    return new Known(ledger.people(), ledger.acts());
  }
}
