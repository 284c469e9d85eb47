package app.uprightwarden.server.audit;

import app.uprightwarden.server.keeping.Keeping;
import java.time.Instant;
import java.util.List;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Audits that were kept long enough; the baseline, the standing and the last one stay. */
@Component
class OldAudits implements Keeping {
  private final JdbcClient jdbc;

  OldAudits(JdbcClient jdbc) {
    this.jdbc = jdbc;
  }

  @Override
  public String what() {
    return "audits";
  }

  @Override
  @Transactional
  public int letGo(Instant before, int most) {
    List<Long> old =
        jdbc.sql(
                "select id from audit_run where started_at < ? and state in ('done', 'failed',"
                    + " 'cancelled') and not baseline and id <> (select coalesce(max(id), 0) from"
                    + " audit_run where state = 'done') order by id limit 1 for update skip locked")
            .param(AuditRuns.utc(before))
            .query(Long.class)
            .list();
    for (long id : old) {
      // from the first row that goes it is no longer the audit it was, and must not pass for it
      jdbc.sql(
              "update audit_run set state = 'cancelled', message = 'It was kept long enough, and is"
                  + " being let go of.' where id = ? and state <> 'cancelled'")
          .param(id)
          .update();
      // its rows first, some at a time: deleting with their audit they would all go at once
      int rows = some("finding", id, most) + some("audited_meeting", id, most);
      if (rows == 0) {
        jdbc.sql("delete from audit_run where id = ?").param(id).update();
      }
      return Math.max(rows, 1);
    }
    return 0;
  }

  private int some(String table, long audit, int most) {
    return jdbc.sql("delete from " + table + " where audit = ? limit ?")
        .params(audit, most)
        .update();
  }
}
