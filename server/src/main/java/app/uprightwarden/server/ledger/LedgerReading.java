package app.uprightwarden.server.ledger;

import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Reads entries, the newest first. */
@Component
class LedgerReading {
  private final JdbcClient jdbc;
  private final LedgerChain chain;

  LedgerReading(JdbcClient jdbc, LedgerChain chain) {
    this.jdbc = jdbc;
    this.chain = chain;
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

  private record Where(String sql, List<Object> parameters) {}

  private static Where where(LedgerFilter f) {
    StringBuilder sql = new StringBuilder("where true");
    List<Object> parameters = new ArrayList<>();
    if (isGiven(f.who())) {
      sql.append(" and e.who = ?");
      parameters.add(f.who());
    }
    if (isGiven(f.act())) {
      sql.append(" and (e.act = ? or e.act like ?)");
      parameters.add(f.act());
      parameters.add(escaped(f.act()) + ".%");
    }
    if (isGiven(f.object()) && isGiven(f.objectId())) {
      sql.append(
          " and (e.object = ? and e.object_id = ? or e.seq in (select t.seq from ledger_touched t"
              + " where t.object = ? and t.object_id = ?))");
      parameters.addAll(List.of(f.object(), f.objectId(), f.object(), f.objectId()));
    } else if (isGiven(f.object())) {
      sql.append(" and e.object = ?");
      parameters.add(f.object());
    }
    if (f.from() != null) {
      sql.append(" and e.at >= ?");
      parameters.add(LocalDateTime.ofInstant(f.from(), ZoneOffset.UTC));
    }
    if (f.to() != null) {
      sql.append(" and e.at < ?");
      parameters.add(LocalDateTime.ofInstant(f.to(), ZoneOffset.UTC));
    }
    String text = f.text();
    if (text != null && !text.isBlank()) {
      sql.append(" and (e.title like ? or e.object_id like ? or e.details like ?)");
      String like = "%" + escaped(text.strip()) + "%";
      parameters.addAll(List.of(like, like, like));
    }
    return new Where(sql.toString(), parameters);
  }

  private static boolean isGiven(@Nullable String text) {
    return text != null && !text.isBlank();
  }

  private static String escaped(@Nullable String text) {
    return String.valueOf(text).replaceAll("([%_\\\\])", "\\\\$1");
  }

  @Transactional(readOnly = true)
  public EntryPage page(LedgerFilter filter, int page, int size) {
    Where where = where(filter);
    int total =
        jdbc.sql("select count(*) from ledger_entry e " + where.sql())
            .params(where.parameters())
            .query(Integer.class)
            .single();
    List<Object> parameters = new ArrayList<>(where.parameters());
    parameters.add(size);
    parameters.add((long) page * size);
    List<LedgerChain.Entry> items =
        jdbc.sql(
                "select e.* from ledger_entry e "
                    + where.sql()
                    + " order by e.seq desc limit ? offset ?")
            .params(parameters)
            .query(LedgerChain::entry)
            .list();
    return new EntryPage(items, page, size, total);
  }

  void each(LedgerFilter filter, Consumer<LedgerChain.Entry> consumer) {
    Where where = where(filter);
    chain.each(where.sql(), where.parameters(), consumer);
  }

  /** Everybody who is in the ledger, and every act that is. */
  record Known(List<String> people, List<String> acts) {}

  @Transactional(readOnly = true)
  public Known known() {
    return new Known(
        jdbc.sql("select distinct who from ledger_entry order by who limit 500")
            .query(String.class)
            .list(),
        jdbc.sql("select distinct act from ledger_entry order by act").query(String.class).list());
  }
}
