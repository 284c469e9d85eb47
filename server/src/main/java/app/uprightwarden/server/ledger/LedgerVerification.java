package app.uprightwarden.server.ledger;

import app.uprightwarden.server.problem.Worded;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Reads the whole chain and names every place where it does not hold. */
@Component
class LedgerVerification {
  /** The places that are named; more are counted. */
  private static final int MAX_NAMED = 1000;

  private final LedgerChain chain;
  private final LedgerSeal seal;
  private final LedgerAnchors anchors;

  LedgerVerification(LedgerChain chain, LedgerSeal seal, LedgerAnchors anchors) {
    this.chain = chain;
    this.seal = seal;
    this.anchors = anchors;
  }

  /**
   * A place where the chain does not hold.
   *
   * @param seq the entry that is not as it was written, or the first that is missing
   * @param how {@code altered}, {@code missing}, {@code reordered}, {@code cut-off}, {@code added},
   *     {@code unsealed} or {@code rolled-back}
   */
  record Break(long seq, String how, @Worded String words) {}

  /**
   * What verification found.
   *
   * @param entries how many were read
   * @param brokenAt the first place where it does not hold; null where it does everywhere
   * @param how what is wrong there
   * @param words the same as a sentence
   * @param breaks every such place, in order; the first thousand
   * @param count how many there are in all
   */
  record Verified(
      boolean whole,
      long entries,
      @Nullable Long brokenAt,
      @Nullable String how,
      @Worded String words,
      List<Break> breaks,
      long count) {}

  /** An end of the chain as it was once told and kept elsewhere. */
  record Held(long seq, String hash) {}

  /**
   * Verifies.
   *
   * @param held an earlier end of the chain that somebody kept elsewhere, or null
   */
  @Transactional(readOnly = true)
  Verified verify(@Nullable Held held) {
    // first: what is kept while this reads is of an end that it does not see
    List<Held> all = new ArrayList<>(anchors.held());
    LedgerChain.Head head = chain.head();
    Walk walk = new Walk(head);
    walk.sealed();
    List<LedgerChain.Entry> next = chain.after(0);
    while (!next.isEmpty()) {
      long first = next.get(0).seq();
      long last = next.get(next.size() - 1).seq();
      Map<Long, List<LedgerChain.Touched>> touched = chain.touched(first, last);
      next.forEach(entry -> walk.step(entry, touched.getOrDefault(entry.seq(), List.of())));
      next = chain.after(last);
    }
    walk.end();
    if (held != null) {
      all.add(held);
    }
    all.forEach(walk::consistent);
    return walk.verified();
  }

  private final class Walk {
    private final LedgerChain.Head head;
    private final Set<String> cuts = new HashSet<>();
    private final List<Break> breaks = new ArrayList<>();
    private long count;
    private long last;
    private long read;
    private String hash;

    Walk(LedgerChain.Head head) {
      this.head = head;
      last = head.fromSeq();
      hash = head.fromHash();
    }

    void sealed() {
      if (!seal.isSealed(head)) {
        breaks(
            head.seq(),
            "unsealed",
            "The end of the chain does not carry our seal: it was written by somebody else.");
      }
    }

    void step(LedgerChain.Entry entry, List<LedgerChain.Touched> touched) {
      read++;
      if (entry.seq() > head.seq()) {
        breaks(
            entry.seq(),
            "added",
            "Entry " + entry.seq() + " stands behind the end of the chain: it was put there.");
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
      }
      boolean follows = entry.previous().equals(hash) || entry.seq() != last + 1;
      if (!isItself(entry, touched)) {
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
      if (entry.of().act().equals(LedgerChain.CUT)) {
        cuts.add(entry.of().details());
      }
    }

    private boolean isItself(LedgerChain.Entry entry, List<LedgerChain.Touched> touched) {
      Long keyedFrom = head.keyedFrom();
      boolean shouldHaveKey = keyedFrom != null && entry.seq() >= keyedFrom;
      return shouldHaveKey == (entry.key() != null)
          && seal.hash(entry.seq(), entry.key(), entry.of(), touched, entry.previous())
              .equals(entry.hash());
    }

    void end() {
      if (last < head.seq()) {
        breaks(
            last + 1,
            "cut-off",
            "The entries from " + (last + 1) + " to " + head.seq() + " are missing at the end.");
      } else if (!hash.equals(head.hash())) {
        breaks(
            head.seq(), "altered", "Entry " + head.seq() + " is not the one the chain ends with.");
      }
      if (head.fromSeq() > 0
          && !cuts.contains(LedgerChain.cutDetails(head.fromSeq(), head.fromHash()))) {
        breaks(
            head.fromSeq(),
            "cut-off",
            "The entries up to " + head.fromSeq() + " are missing, and no entry says why.");
      }
    }

    /** Whether an earlier end is still part of the chain. */
    void consistent(Held held) {
      boolean isKept = held.seq() > head.fromSeq();
      if (isKept && (held.seq() > head.seq() || !chain.hasHash(held.seq(), held.hash()))) {
        breaks(
            held.seq(),
            "rolled-back",
            "Entry "
                + held.seq()
                + " is not the one that was kept elsewhere: the chain was put back or written"
                + " anew since.");
      }
    }

    private void breaks(long seq, String how, String words) {
      count++;
      if (breaks.size() < MAX_NAMED) {
        breaks.add(new Break(seq, how, words));
      }
    }

    Verified verified() {
      if (breaks.isEmpty()) {
        return new Verified(
            true, read, null, null, "Every entry is as it was written.", List.of(), 0);
      }
      breaks.sort(java.util.Comparator.comparingLong(Break::seq));
      Break first = breaks.get(0);
      return new Verified(
          false, read, first.seq(), first.how(), first.words(), List.copyOf(breaks), count);
    }
  }
}
