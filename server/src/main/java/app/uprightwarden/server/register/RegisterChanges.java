package app.uprightwarden.server.register;

import app.uprightwarden.server.live.Signals;
import java.util.Collection;
import java.util.List;
import java.util.Set;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionSynchronization;
import org.springframework.transaction.support.TransactionSynchronizationManager;

/**
 * The meetings that have yet to be looked at again. A row is written with what changed a meeting,
 * so that none is missed; whoever looks takes it away with what they found.
 */
@Service
public class RegisterChanges {
  private final MeetingDueRepository due;
  private final ApplicationEventPublisher events;
  private final Signals signals;

  RegisterChanges(MeetingDueRepository due, ApplicationEventPublisher events, Signals signals) {
    this.due = due;
    this.events = events;
    this.signals = signals;
  }

  /**
   * Said once a change is committed: there is something to look at.
   *
   * @param meetings those that changed themselves, not only what they are judged by
   */
  public record SomethingDue(Collection<String> meetings) {}

  /** A meeting to look at. */
  public record Due(long id, String meeting) {}

  @Transactional(propagation = Propagation.MANDATORY)
  public void touch(String meeting) {
    due.insert(new MeetingDueEntity(meeting));
    tell(List.of(meeting));
  }

  @Transactional(propagation = Propagation.MANDATORY)
  public void touch(Collection<String> meetings) {
    if (meetings.size() == 1) {
      touch(meetings.iterator().next());
    } else if (!meetings.isEmpty()) {
      if (due.addStored(meetings) < meetings.size()) {
        Set<String> stored = Set.copyOf(due.stored(meetings));
        meetings.stream()
            .filter(meeting -> !stored.contains(meeting))
            .forEach(meeting -> due.insert(new MeetingDueEntity(meeting)));
      }
      tell(List.copyOf(meetings));
    }
  }

  /** Meetings of hosts by their folded addresses. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void touchHosts(Collection<String> hosts) {
    if (!hosts.isEmpty()) {
      due.addOfHosts(hosts);
      tell(List.of());
    }
  }

  private void tell(Collection<String> meetings) {
    events.publishEvent(new SomethingDue(meetings));
    // once is enough for a transaction
    if (TransactionSynchronizationManager.getSynchronizations().stream()
        .noneMatch(Signalled.class::isInstance)) {
      TransactionSynchronizationManager.registerSynchronization(new Signalled());
      signals.send(Signals.Topic.REGISTER);
    }
  }

  /** That the transaction under way has signalled. */
  private static final class Signalled implements TransactionSynchronization {}

  /** What was first written first. */
  @Transactional(propagation = Propagation.MANDATORY)
  public List<Due> next(int most) {
    return due.next(most);
  }

  @Transactional(propagation = Propagation.MANDATORY)
  public void done(List<Due> some) {
    for (int i = 0; i < some.size(); i += 1000) {
      due.delete(some.subList(i, Math.min(i + 1000, some.size())).stream().map(Due::id).toList());
    }
  }

  /**
   * What is to be looked at among the next meetings in the order in which they were stored. Whoever
   * reads these meetings after this looks at them with it.
   */
  @Transactional(readOnly = true)
  public List<Due> ofRows(long after, int most) {
    List<Long> rows = due.rows(after, most);
    return rows.isEmpty() ? List.of() : due.ofRows(after, rows.get(rows.size() - 1));
  }

  /** Takes all there is: everything is going to be looked at. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void doneAll() {
    due.last().ifPresent(due::deleteUpTo);
  }

  /** How much there is to look at, counted no further than needed. */
  @Transactional(readOnly = true)
  public int count(int most) {
    return due.some(most).size();
  }

  /** How much there is to look at. */
  @Transactional(readOnly = true)
  public long count() {
    return due.count();
  }

  /** Those of some meetings that are still to be looked at. */
  @Transactional(readOnly = true)
  public Set<String> among(Collection<String> meetings) {
    return meetings.isEmpty() ? Set.of() : Set.copyOf(due.among(meetings));
  }
}
