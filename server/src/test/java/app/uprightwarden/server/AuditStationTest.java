package app.uprightwarden.server;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.testng.annotations.BeforeMethod;
import tools.jackson.databind.JsonNode;

/** What tests of the audit station share: waiting for what goes on in the background. */
abstract class AuditStationTest extends ServerTest {
  @Autowired protected JdbcClient jdbc;

  protected int count(String sql, Object... parameters) {
    return jdbc.sql(sql).params(List.of(parameters)).query(Integer.class).single();
  }

  /** Waits until the standing audit has looked at everything. */
  @BeforeMethod
  public void settle() {
    until(
        "the standing audit settles",
        () ->
            count("select count(*) from meeting_due") == 0
                && count(
                        "select count(*) from audit_run r, house h where r.state = 'standing' and"
                            + " r.renewed_at is not null and r.directory = h.directory_revision")
                    == 1);
  }

  protected long audit(Map<String, Object> body) {
    long id = post(WARDEN, "/api/audits", body).is(202).json().get("id").longValue();
    done(id);
    return id;
  }

  protected JsonNode done(long id) {
    until(
        "audit " + id + " is done",
        () ->
            !Set.of("waiting", "running")
                .contains(get(WARDEN, "/api/audits/" + id).json().at("/run/state").stringValue()));
    JsonNode run = get(WARDEN, "/api/audits/" + id).is(200).json().get("run");
    org.testng.Assert.assertEquals(run.get("state").stringValue(), "done", run.toString());
    return run;
  }

  /** Identity and severity of each finding of an audit; 0 is the standing one. */
  protected Set<String> identities(long audit) {
    Set<String> all = new TreeSet<>();
    for (int page = 0; ; page++) {
      JsonNode items =
          get(WARDEN, "/api/audits/" + audit + "/findings?size=1000&page=" + page)
              .is(200)
              .json()
              .get("items");
      items.forEach(
          i ->
              all.add(
                  i.get("identity").stringValue()
                      + " "
                      + i.at("/finding/severity")
                      + " "
                      + i.at("/finding/value")
                      + " "
                      + i.path("waiver")));
      if (items.size() < 1000) {
        return all;
      }
    }
  }

  protected List<JsonNode> findings(long audit, String more) {
    return pages("/api/audits/" + audit + "/findings?size=1000" + more);
  }

  /** Everything behind an address that answers in pages of a thousand. */
  protected List<JsonNode> pages(String address) {
    List<JsonNode> all = new java.util.ArrayList<>();
    for (int page = 0; page * 1000 == all.size(); page++) {
      List<JsonNode> items =
          get(WARDEN, address + "&page=" + page).is(200).json().get("items").valueStream().toList();
      all.addAll(items);
      if (items.isEmpty()) {
        break;
      }
    }
    return all;
  }

  protected boolean isFound(String meeting, String check, String subject) {
    return findings(0, "&waived=false&meeting=" + meeting + "&check=" + check).stream()
        .anyMatch(
            f ->
                subject.equals(
                    f.at("/finding/control")
                        .stringValue(f.at("/finding/guarantee").stringValue(""))));
  }

  protected void setControl(String meeting, String control, Object value) {
    JsonNode now = get(WARDEN, "/api/meetings/" + meeting).is(200).json();
    Map<String, Object> controls = new HashMap<>();
    controls.put(control, value);
    send(
            WARDEN,
            "PATCH",
            "/api/meetings/" + meeting + "/controls",
            Map.of("version", now.get("version"), "controls", controls))
        .is(200);
  }

  protected Object control(String meeting, String control) {
    JsonNode value =
        get(WARDEN, "/api/meetings/" + meeting).is(200).json().get("controls").path(control);
    return value.isMissingNode() ? null : json.treeToValue(value, Object.class);
  }

  /** Applies a remedy and waits for its end; gives how its items stand. */
  protected JsonNode remedied(Object body) {
    long job = post(WARDEN, "/api/remedies", body).is(202).json().get("id").longValue();
    return ended(job);
  }

  protected JsonNode ended(long job) {
    until(
        "remedy " + job + " ends",
        () ->
            count(
                    "select count(*) from remedy_item where job = ? and state in ('waiting',"
                        + " 'sending')",
                    job)
                == 0);
    return get(WARDEN, "/api/remedies/" + job).is(200).json();
  }
}
