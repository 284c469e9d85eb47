package app.uprightwarden.server.ledger;

import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.time.temporal.ChronoUnit;
import java.util.HashSet;
import java.util.HexFormat;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.core.RowCallbackHandler;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/**
 * The chain itself. An entry's hash is SHA-256 (FIPS 180-4) over the hash of the one before and the
 * entry's fields, each with its length before it, so that no two entries read alike.
 */
@Component
class LedgerChain {
  private static final int ROWS_AT_ONCE = 1000;

  private final JdbcClient jdbc;
  private final JdbcTemplate batches;

  LedgerChain(JdbcClient jdbc, JdbcTemplate batches) {
    this.jdbc = jdbc;
    this.batches = batches;
  }

  /** What an entry is called that says that the chain was cut at its beginning. */
  static final String CUT = "ledger.cut";

  static String cutDetails(long seq, String hash) {
    return "{\"upTo\":%d,\"hash\":\"%s\"}".formatted(seq, hash);
  }

  /** An entry that has no place in the chain yet. */
  record Draft(
      Instant at,
      String who,
      String via,
      String address,
      String act,
      String object,
      String objectId,
      String title,
      String details) {
    Draft {
      at = at.truncatedTo(ChronoUnit.MILLIS);
      title = title.length() > 500 ? title.substring(0, 500) : title;
    }
  }

  /** Something that an entry changed. */
  record Touched(String object, String id) {}

  /** An entry as it is stored. */
  record Entry(long seq, Draft of, String previous, String hash) {}

  /** Where the chain ends, and behind which entry it begins. */
  record Head(long seq, String hash, long fromSeq, String fromHash) {}

  @Transactional(propagation = Propagation.MANDATORY)
  public void append(Draft draft, List<Touched> touched) {
    Head head =
        jdbc.sql("select * from ledger_head where id = 1 for update")
            .query((r, n) -> head(r))
            .single();
    long seq = head.seq() + 1;
    String hash = hash(seq, draft, head.hash());
    jdbc.sql(
            "insert into ledger_entry (seq, at, who, via, address, act, object, object_id, title,"
                + " details, prev_hash, hash) values (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)")
        .params(
            seq,
            LocalDateTime.ofInstant(draft.at(), ZoneOffset.UTC),
            draft.who(),
            draft.via(),
            draft.address(),
            draft.act(),
            draft.object(),
            draft.objectId(),
            draft.title(),
            draft.details(),
            head.hash(),
            hash)
        .update();
    batches.batchUpdate(
        "insert into ledger_touched (seq, object, object_id) values (?, ?, ?)",
        touched.stream().map(t -> new Object[] {seq, t.object(), t.id()}).toList());
    jdbc.sql("update ledger_head set seq = ?, hash = ? where id = 1").params(seq, hash).update();
  }

  Head head() {
    return jdbc.sql("select * from ledger_head where id = 1").query((r, n) -> head(r)).single();
  }

  private static Head head(ResultSet r) throws SQLException {
    return new Head(
        r.getLong("seq"), r.getString("hash"), r.getLong("from_seq"), r.getString("from_hash"));
  }

  /** Every entry in the chain's order, without holding them all. */
  @Transactional(readOnly = true)
  public void each(String where, List<Object> parameters, Consumer<Entry> consumer) {
    JdbcTemplate streaming = new JdbcTemplate(Objects.requireNonNull(batches.getDataSource()));
    streaming.setFetchSize(ROWS_AT_ONCE);
    streaming.query(
        "select * from ledger_entry e " + where + " order by seq",
        (RowCallbackHandler) r -> consumer.accept(entry(r, 0)),
        parameters.toArray());
  }

  static Entry entry(ResultSet r, int n) throws SQLException {
    return new Entry(
        r.getLong("seq"),
        new Draft(
            r.getObject("at", LocalDateTime.class).toInstant(ZoneOffset.UTC),
            r.getString("who"),
            r.getString("via"),
            r.getString("address"),
            r.getString("act"),
            r.getString("object"),
            r.getString("object_id"),
            r.getString("title"),
            r.getString("details")),
        r.getString("prev_hash"),
        r.getString("hash"));
  }

  /** An entry's hash after the one before it. */
  static String hash(long seq, Draft d, String previous) {
    try {
      MessageDigest digest = MessageDigest.getInstance("SHA-256");
      for (String field :
          List.of(
              previous,
              Long.toString(seq),
              d.at().toString(),
              d.who(),
              d.via(),
              d.address(),
              d.act(),
              d.object(),
              d.objectId(),
              d.title(),
              d.details())) {
        byte[] bytes = field.getBytes(StandardCharsets.UTF_8);
        digest.update((bytes.length + ":").getBytes(StandardCharsets.UTF_8));
        digest.update(bytes);
      }
      return HexFormat.of().formatHex(digest.digest());
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException(e);
    }
  }

  /**
   * What verification found.
   *
   * @param entries how many were read
   * @param brokenAt the first entry that is not as it was written, or that is missing; null where
   *     all are
   * @param how {@code altered}, {@code missing}, {@code reordered} or {@code cut-off}
   */
  record Verified(
      boolean whole, long entries, @Nullable Long brokenAt, @Nullable String how, String words) {}

  /** Reads the whole chain and tells the first place where it does not hold. */
  Verified verify() {
    Head head = head();
    Walk walk = new Walk(head);
    each("where seq <= ?", List.of(head.seq()), walk::step);
    if (walk.broken == null && walk.last < head.seq()) {
      walk.breaks(
          walk.last + 1,
          "cut-off",
          "The entries from " + (walk.last + 1) + " to " + head.seq() + " are missing at the end.");
    }
    if (walk.broken == null && !walk.hash.equals(head.hash())) {
      walk.breaks(
          head.seq(), "altered", "Entry " + head.seq() + " is not the one the chain ends with.");
    }
    if (walk.broken == null && head.fromSeq() > 0 && !walk.cuts.contains(cut(head))) {
      walk.breaks(
          head.fromSeq(),
          "cut-off",
          "The entries up to " + head.fromSeq() + " are missing, and no entry says why.");
    }
    return walk.broken == null
        ? new Verified(true, walk.read, null, null, "Every entry is as it was written.")
        : walk.broken;
  }

  private static String cut(Head head) {
    return cutDetails(head.fromSeq(), head.fromHash());
  }

  private static final class Walk {
    private final long end;
    private final Set<String> cuts = new HashSet<>();
    private long last;
    private long read;
    private String hash;
    private @Nullable Verified broken;

    Walk(Head head) {
      end = head.seq();
      last = head.fromSeq();
      hash = head.fromHash();
    }

    void step(Entry entry) {
      read++;
      if (broken != null) {
        return;
      }
      if (entry.seq() != last + 1) {
        boolean isOne = entry.seq() == last + 2;
        breaks(
            last + 1,
            "missing",
            isOne
                ? "Entry " + (last + 1) + " is missing."
                : "The entries from " + (last + 1) + " to " + (entry.seq() - 1) + " are missing.");
        return;
      }
      boolean isItself = hash(entry.seq(), entry.of(), entry.previous()).equals(entry.hash());
      boolean follows = entry.previous().equals(hash);
      if (!isItself) {
        breaks(entry.seq(), "altered", "Entry " + entry.seq() + " is not as it was written.");
      } else if (!follows) {
        breaks(
            entry.seq(),
            "reordered",
            "Entry "
                + entry.seq()
                + " does not follow the one before it: they were put in another order, or one was"
                + " written anew.");
      }
      last = entry.seq();
      hash = entry.hash();
      if (entry.of().act().equals(CUT)) {
        cuts.add(entry.of().details());
      }
    }

    void breaks(long seq, String how, String words) {
      broken = new Verified(false, Math.min(end, read), seq, how, words);
    }
  }
}
