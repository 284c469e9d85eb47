package app.uprightwarden.server.register;

import java.util.Collection;
import java.util.List;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/**
 * The meetings that have yet to be looked at again. A row is written with what changed a meeting,
 * so that none is missed; whoever looks takes it away with what they found.
 */
@Service
public class RegisterChanges {
  private final JdbcClient jdbc;
  private final JdbcTemplate batches;
  private final ApplicationEventPublisher events;

  RegisterChanges(JdbcClient jdbc, JdbcTemplate batches, ApplicationEventPublisher events) {
    this.jdbc = jdbc;
    this.batches = batches;
    this.events = events;
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
    jdbc.sql("insert into meeting_due (meeting) values (?)").param(meeting).update();
    events.publishEvent(new SomethingDue(List.of(meeting)));
  }

  @Transactional(propagation = Propagation.MANDATORY)
  public void touch(Collection<String> meetings) {
    if (!meetings.isEmpty()) {
      batches.batchUpdate(
          "insert into meeting_due (meeting) values (?)",
          meetings.stream().map(m -> new Object[] {m}).toList());
      events.publishEvent(new SomethingDue(List.copyOf(meetings)));
    }
  }

  /** Meetings of hosts by their folded addresses. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void touchHosts(Collection<String> hosts) {
    if (!hosts.isEmpty()) {
      jdbc.sql(
              "insert into meeting_due (meeting) select public_id from meeting where host_folded in"
                  + " (:hosts)")
          .param("hosts", hosts)
          .update();
      events.publishEvent(new SomethingDue(List.of()));
    }
  }

  /** What was first written first. */
  @Transactional(propagation = Propagation.MANDATORY)
  public List<Due> next(int most) {
    return jdbc.sql("select id, meeting from meeting_due order by id limit ?")
        .param(most)
        .query((r, n) -> new Due(r.getLong(1), r.getString(2)))
        .list();
  }

  @Transactional(propagation = Propagation.MANDATORY)
  public void done(List<Due> some) {
    for (int i = 0; i < some.size(); i += 1000) {
      jdbc.sql("delete from meeting_due where id in (:ids)")
          .param(
              "ids",
              some.subList(i, Math.min(i + 1000, some.size())).stream().map(Due::id).toList())
          .update();
    }
  }

  /** How much there is to look at, counted no further than needed. */
  @Transactional(readOnly = true)
  public int count(int most) {
    return jdbc.sql("select count(*) from (select 1 from meeting_due limit ?) due")
        .param(most)
        .query(Integer.class)
        .single();
  }
}
