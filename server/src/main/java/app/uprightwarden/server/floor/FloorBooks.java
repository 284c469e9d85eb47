package app.uprightwarden.server.floor;

import app.uprightwarden.core.audit.FactsBuilder;
import app.uprightwarden.core.rulebook.ResolvedRulebook;
import app.uprightwarden.core.session.Guard;
import app.uprightwarden.core.session.SessionBook;
import app.uprightwarden.core.session.SessionEvent;
import app.uprightwarden.server.judging.Judging;
import app.uprightwarden.server.people.OrganisationService;
import app.uprightwarden.server.rulebook.RulebookService;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/**
 * Books of sessions, kept in memory and brought up to what is stored when somebody looks. What is
 * stored is the truth: several servers may each have a book of the same session.
 */
@Component
class FloorBooks {
  private static final int MAX_KEPT = 500;
  private static final int PAGE = 5_000;
  private static final Duration RULES_KEPT = Duration.ofMinutes(1);

  private final FloorStore store;
  private final OrganisationService organisation;
  private final RulebookService rulebook;
  private final Clock clock;
  private final Map<String, Kept> books =
      new LinkedHashMap<>(16, 0.75f, true) {
        private static final long serialVersionUID = 1;

        @Override
        protected boolean removeEldestEntry(Map.Entry<String, Kept> eldest) {
          return size() > MAX_KEPT;
        }
      };
  private @Nullable Rules rules;

  FloorBooks(
      FloorStore store, OrganisationService organisation, RulebookService rulebook, Clock clock) {
    this.store = store;
    this.organisation = organisation;
    this.rulebook = rulebook;
    this.clock = clock;
  }

  /** A book and the guard that reads along; used by one thread at a time. */
  static final class Kept {
    final Guard guard;
    final ResolvedRulebook rules;
    SessionBook book;

    Kept(Guard guard, ResolvedRulebook rules, SessionBook book) {
      this.guard = guard;
      this.rules = rules;
      this.book = book;
    }
  }

  private record Rules(int edition, Instant until, FactsBuilder builder) {}

  /** The rules that applied to a session's meeting. */
  private ResolvedRulebook rulesOf(FloorSession session) {
    return builder(session.edition()).rulesFor(session.host(), session.kind());
  }

  private synchronized FactsBuilder builder(int edition) {
    Rules now = rules;
    if (now == null || now.edition() != edition || now.until().isBefore(clock.instant())) {
      RulebookService.Edition of = edition == 0 ? rulebook.inForce() : rulebook.edition(edition);
      now =
          new Rules(
              edition,
              clock.instant().plus(RULES_KEPT),
              Judging.builder(
                  organisation.organisation(), organisation.directory(), rulebook.rulebook(of)));
      rules = now;
    }
    return now.builder();
  }

  private Kept kept(FloorSession session) {
    synchronized (books) {
      Kept kept = books.get(session.id());
      if (kept != null) {
        return kept;
      }
    }
    ResolvedRulebook of = rulesOf(session);
    Kept made = new Kept(new Guard(of, session.ends()), of, anew(session));
    synchronized (books) {
      Kept already = books.putIfAbsent(session.id(), made);
      return already == null ? made : already;
    }
  }

  private static SessionBook anew(FloorSession session) {
    return new SessionBook(session.starts(), session.controls());
  }

  /**
   * Does something with a session's book as it is stored; nobody else reads or writes meanwhile.
   */
  <T> T with(FloorSession session, Function<Kept, T> use) {
    Kept kept = kept(session);
    synchronized (kept) {
      if (kept.book.seq() > session.folded()) {
        // a transaction was taken back, or the row was read before another came further: read anew
        FloorSession now = store.find(session.id()).orElse(session);
        if (kept.book.seq() > now.folded()) {
          kept.book = anew(session);
        }
      }
      bringUp(kept.book, session);
      return use.apply(kept);
    }
  }

  private void bringUp(SessionBook book, FloorSession session) {
    while (book.seq() < session.folded()) {
      List<SessionEvent> page = store.events(session.id(), book.seq(), session.folded(), PAGE);
      if (page.isEmpty()) {
        throw new IllegalStateException(
            "event " + (book.seq() + 1) + " of " + session.id() + " is not in the database");
      }
      page.forEach(book::take);
    }
  }

  /** Forgets a book whose last events were taken back. */
  void forget(String session) {
    synchronized (books) {
      books.remove(session);
    }
  }
}
