package app.uprightwarden.server.ledger;

import app.uprightwarden.server.problem.Texts;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** The chain itself: each entry carries the hash of the one before ({@link LedgerSeal}). */
@Component
class LedgerChain {
  private static final Logger LOG = LoggerFactory.getLogger(LedgerChain.class);

  private final LedgerSeal seal;
  private final LedgerRepository ledger;

  LedgerChain(LedgerSeal seal, LedgerRepository ledger) {
    this.seal = seal;
    this.ledger = ledger;
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
    Head head = head(ledger.lockedHead());
    // an end that is not ours stays so: a seal put on it now would make what was done to it good
    boolean isOurs = head.mac() == null ? !seal.hasBegun() : seal.isSealed(head);
    if (!isOurs) {
      LOG.error("the ledger's end is not the one that was sealed; its verification says where");
    }
    long seq = head.seq() + 1;
    int key = seal.current();
    List<Touched> distinct = touched.stream().distinct().toList();
    String hash = seal.hash(seq, key, draft, distinct, head.hash());
    ledger.insert(row(seq, draft, head.hash(), hash, key));
    ledger.insert(distinct.stream().map(t -> touched(seq, t)).toList());
    Long keyedFrom = head.keyedFrom() == null ? Long.valueOf(seq) : head.keyedFrom();
    write(
        new Head(seq, hash, head.fromSeq(), head.fromHash(), key, keyedFrom, null),
        isOurs ? null : String.valueOf(head.mac()));
  }

  private static LedgerEntryEntity row(
      long seq, Draft draft, String previous, String hash, int key) {
    LedgerEntryEntity row = new LedgerEntryEntity();
    row.seq = seq;
    row.at = draft.at();
    row.who = draft.who();
    row.via = draft.via();
    row.address = draft.address();
    row.act = draft.act();
    row.object = draft.object();
    row.objectId = draft.objectId();
    row.title = draft.title();
    row.details = draft.details();
    row.prevHash = previous;
    row.hash = hash;
    row.keyNo = key;
    return row;
  }

  private static LedgerTouchedEntity touched(long seq, Touched touched) {
    LedgerTouchedEntity row = new LedgerTouchedEntity();
    row.seq = seq;
    row.object = touched.object();
    row.objectId = touched.id();
    return row;
  }

  /** Writes where the chain ends, sealed unless the seal it had was not ours. */
  private void write(Head head, @Nullable String notOurs) {
    int key = Objects.requireNonNull(head.keyNo());
    LedgerHeadEntity row = new LedgerHeadEntity();
    row.id = 1;
    row.seq = head.seq();
    row.hash = head.hash();
    row.fromSeq = head.fromSeq();
    row.fromHash = head.fromHash();
    row.keyNo = key;
    row.keyedFrom = Objects.requireNonNull(head.keyedFrom());
    row.mac = notOurs == null ? seal.head(key, head) : notOurs;
    ledger.update(row);
  }

  /** The chain begins behind this entry from now on. The caller has let go what was before. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void cutTo(long seq, String hash) {
    Head head = head(ledger.lockedHead());
    boolean isOurs = seal.isSealed(head);
    long keyedFrom = Objects.requireNonNullElse(head.keyedFrom(), seq + 1);
    write(
        new Head(head.seq(), head.hash(), seq, hash, seal.current(), keyedFrom, null),
        isOurs ? null : String.valueOf(head.mac()));
  }

  Head head() {
    return head(ledger.head());
  }

  /** Locks the chain's end before anything else, as whoever writes an entry does. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void lock() {
    ledger.lockedHead();
  }

  private static Head head(LedgerHeadEntity row) {
    return new Head(
        row.seq, row.hash, row.fromSeq, row.fromHash, row.keyNo, row.keyedFrom, row.mac);
  }

  /** The next entries behind one, in the chain's order. */
  List<Entry> after(long seq) {
    return ledger.after(seq, LedgerRepository.ROWS_AT_ONCE).stream()
        .map(LedgerChain::entry)
        .toList();
  }

  /** Whether an entry has this hash. */
  boolean hasHash(long seq, String hash) {
    return ledger.countWithHash(seq, hash) == 1;
  }

  /** What the entries of a stretch touched, by entry. */
  Map<Long, List<Touched>> touched(long from, long to) {
    Map<Long, List<Touched>> found = new HashMap<>();
    ledger
        .touched(from, to)
        .forEach(
            row ->
                found
                    .computeIfAbsent(row.seq, s -> new ArrayList<>())
                    .add(new Touched(row.object, row.objectId)));
    return found;
  }

  static Entry entry(LedgerEntryEntity row) {
    return new Entry(
        row.seq,
        new Draft(
            row.at,
            row.who,
            row.via,
            row.address,
            row.act,
            row.object,
            row.objectId,
            row.title,
            row.details),
        row.prevHash,
        row.hash,
        row.keyNo);
  }
}
