package app.uprightwarden.server.ledger;

import app.uprightwarden.server.problem.Texts;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.core.RowCallbackHandler;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** The chain itself: each entry carries the hash of the one before ({@link LedgerSeal}). */
@Component
class LedgerChain {
  private static final Logger LOG = LoggerFactory.getLogger(LedgerChain.class);
  private static final int ROWS_AT_ONCE = 1000;
  private static final String HEAD =
      "select seq, hash, from_seq, from_hash, key_no, keyed_from, mac from ledger_head where id = 1";

  private final LedgerSeal seal;
  private final JdbcClient jdbc;
  private final JdbcTemplate batches;

  LedgerChain(LedgerSeal seal, JdbcClient jdbc, JdbcTemplate batches) {
    this.seal = seal;
    this.jdbc = jdbc;
    this.batches = batches;
  }

  /** What an entry is called that says that the chain was cut at its beginning. */
  static final String CUT = "ledger.cut";

  static String cutDetails(long seq, String hash) {
    return "{\"upTo\":%d,\"hash\":\"%s\"}".formatted(seq, hash);
  }

  /**
   * An entry that has no place in the chain yet. Its texts are as they will be stored: well-formed,
   * and no longer than their columns, or what is hashed would not be what is kept.
   */
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
      who = kept(who, 254);
      via = kept(via, 12);
      address = kept(address, 64);
      act = kept(act, 40);
      object = kept(object, 24);
      objectId = kept(objectId, 254);
      title = kept(title, 500);
      details = Texts.wellFormed(details);
    }
  }

  private static String kept(String text, int most) {
    return Texts.cut(Texts.wellFormed(text), most);
  }

  /** Something that an entry changed. */
  record Touched(String object, String id) {
    static final Comparator<Touched> ORDER =
        Comparator.comparing(Touched::object).thenComparing(Touched::id);

    Touched {
      object = kept(object, 24);
      id = kept(id, 254);
    }
  }

  /**
   * An entry as it is stored.
   *
   * @param key the number of the key of its hash; null from before there was one
   */
  record Entry(long seq, Draft of, String previous, String hash, @Nullable Integer key) {}

  /**
   * Where the chain ends, and behind which entry it begins.
   *
   * @param keyNo the number of the key of its seal; null before there was one
   * @param keyedFrom the first entry whose hash has a key
   * @param mac the seal
   */
  record Head(
      long seq,
      String hash,
      long fromSeq,
      String fromHash,
      @Nullable Integer keyNo,
      @Nullable Long keyedFrom,
      @Nullable String mac) {}

  @Transactional(propagation = Propagation.MANDATORY)
  public void append(Draft draft, List<Touched> touched) {
    Head head = jdbc.sql(HEAD + " for update").query((r, n) -> head(r)).single();
    // an end that is not ours stays so: a seal put on it now would make what was done to it good
    boolean isOurs = head.mac() == null ? !seal.hasBegun() : seal.isSealed(head);
    if (!isOurs) {
      LOG.error("the ledger's end is not the one that was sealed; its verification says where");
    }
    long seq = head.seq() + 1;
    int key = seal.current();
    List<Touched> distinct = touched.stream().distinct().toList();
    String hash = seal.hash(seq, key, draft, distinct, head.hash());
    jdbc.sql(
            "insert into ledger_entry (seq, at, who, via, address, act, object, object_id, title,"
                + " details, prev_hash, hash, key_no) values (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?,"
                + " ?)")
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
            hash,
            key)
        .update();
    batches.batchUpdate(
        "insert into ledger_touched (seq, object, object_id) values (?, ?, ?)",
        distinct.stream().map(t -> new Object[] {seq, t.object(), t.id()}).toList());
    Long keyedFrom = head.keyedFrom() == null ? Long.valueOf(seq) : head.keyedFrom();
    write(
        new Head(seq, hash, head.fromSeq(), head.fromHash(), key, keyedFrom, null),
        isOurs ? null : String.valueOf(head.mac()));
  }

  /** Writes where the chain ends, sealed unless the seal it had was not ours. */
  private void write(Head head, @Nullable String notOurs) {
    int key = Objects.requireNonNull(head.keyNo());
    jdbc.sql(
            "update ledger_head set seq = ?, hash = ?, from_seq = ?, from_hash = ?, key_no = ?,"
                + " keyed_from = ?, mac = ? where id = 1")
        .params(
            head.seq(),
            head.hash(),
            head.fromSeq(),
            head.fromHash(),
            key,
            Objects.requireNonNull(head.keyedFrom()),
            notOurs == null ? seal.head(key, head) : notOurs)
        .update();
  }

  /** The chain begins behind this entry from now on. The caller has let go what was before. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void cutTo(long seq, String hash) {
    Head head = jdbc.sql(HEAD + " for update").query((r, n) -> head(r)).single();
    boolean isOurs = seal.isSealed(head);
    long keyedFrom = Objects.requireNonNullElse(head.keyedFrom(), seq + 1);
    write(
        new Head(head.seq(), head.hash(), seq, hash, seal.current(), keyedFrom, null),
        isOurs ? null : String.valueOf(head.mac()));
  }

  Head head() {
    return jdbc.sql(HEAD).query((r, n) -> head(r)).single();
  }

  private static Head head(ResultSet r) throws SQLException {
    return new Head(
        r.getLong("seq"),
        r.getString("hash"),
        r.getLong("from_seq"),
        r.getString("from_hash"),
        r.getObject("key_no", Integer.class),
        r.getObject("keyed_from", Long.class),
        r.getString("mac"));
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

  /** The next entries behind one, in the chain's order. */
  List<Entry> after(long seq) {
    return jdbc.sql("select * from ledger_entry where seq > ? order by seq limit ?")
        .params(seq, ROWS_AT_ONCE)
        .query(LedgerChain::entry)
        .list();
  }

  /** Whether an entry has this hash. */
  boolean hasHash(long seq, String hash) {
    return jdbc.sql("select count(*) from ledger_entry where seq = ? and hash = ?")
            .params(seq, hash)
            .query(Integer.class)
            .single()
        == 1;
  }

  /** What the entries of a stretch touched, by entry. */
  Map<Long, List<Touched>> touched(long from, long to) {
    Map<Long, List<Touched>> found = new HashMap<>();
    jdbc.sql("select seq, object, object_id from ledger_touched where seq between ? and ?")
        .params(from, to)
        .query(
            (RowCallbackHandler)
                r ->
                    found
                        .computeIfAbsent(r.getLong(1), s -> new ArrayList<>())
                        .add(new Touched(r.getString(2), r.getString(3))));
    return found;
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
        r.getString("hash"),
        r.getObject("key_no", Integer.class));
  }
}
