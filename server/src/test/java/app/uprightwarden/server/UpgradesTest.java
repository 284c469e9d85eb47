package app.uprightwarden.server;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertTrue;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import java.util.Properties;
import org.flywaydb.core.Flyway;
import org.hibernate.id.IdentifierGeneratorHelper;
import org.hibernate.id.IntegralDataTypeHolder;
import org.hibernate.id.enhanced.AccessCallback;
import org.hibernate.id.enhanced.OptimizerFactory;
import org.hibernate.id.enhanced.StandardOptimizerDescriptor;
import org.jspecify.annotations.Nullable;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/**
 * From every schema that there ever was, with data in it, to the newest: nothing is lost. Hibernate
 * validates what comes out when a server starts on it, which the other tests do.
 */
public class UpgradesTest {
  private static final int NEWEST = 28;

  @DataProvider
  public Object[][] earlier() {
    Object[][] all = new Object[NEWEST - 1][];
    for (int version = 1; version < NEWEST; version++) {
      all[version - 1] = new Object[] {version};
    }
    return all;
  }

  private static Connection connect(String schema) throws SQLException {
    return DriverManager.getConnection(
        ServerTest.url(schema),
        System.getenv("WARDEN_TEST_DB_USER"),
        System.getenv("WARDEN_TEST_DB_PASSWORD"));
  }

  private static void migrate(String schema, String target) {
    Flyway.configure()
        .dataSource(
            ServerTest.url(schema),
            System.getenv("WARDEN_TEST_DB_USER"),
            System.getenv("WARDEN_TEST_DB_PASSWORD"))
        .locations("classpath:db/migration")
        .target(target)
        .load()
        .migrate();
  }

  /** What each version added is filled with a row or two, of what there was then. */
  private static final List<List<String>> DATA =
      List.of(
          List.of(
              "insert into account (email, name, role, password_hash, created_at) values"
                  + " ('a@x.example', 'A', 'warden', 'h', '2026-01-01'), ('h@x.example', 'H',"
                  + " 'host', 'h', '2026-01-01')",
              "insert into access_token (token_hash, purpose, role, acts_as, issued_by, issued_at,"
                  + " expires_at) values (repeat('a', 64), 'old', 'warden', 'a@x.example',"
                  + " 'a@x.example', '2026-01-01', '2027-01-01')",
              "insert into organisation values (1, 'House', '[]', '[]', 300, 1440)",
              "insert into unit (id, name, parent) values ('harbour', 'Harbour', null)",
              "insert into person (email, folded, name, standing, unit, active) values"
                  + " ('H@x.example', 'h@x.example', 'H', 'member', 'harbour', 1)",
              "insert into edition values (1, '2026-01-01', 'a@x.example', 'first',"
                  + " '{\"layers\":[]}')",
              "insert into control_set (digest, document) values (repeat('c', 64), '{}')",
              "insert into meeting (public_id, title, description, host, starts_at, zone, minutes,"
                  + " ex_dates, r_dates, lists, passcode_cipher, passcode_fingerprint,"
                  + " passcode_length, passcode_makeup, passcode_weakness, passcode_leaked,"
                  + " control_set, changed_by, changed_at, version) values ('m-1', 'Weir', '',"
                  + " 'H@x.example', '2026-02-01', 'Europe/Dublin', 30, '[]', '[]', '[]',"
                  + " x'0102030405060708090a0b0c0d', repeat('f', 43), 6, 'digits', 'none', 0, 1,"
                  + " 'a@x.example', '2026-01-02', 3)",
              "insert into audit_run (state, edition, window_from, window_to, started_by,"
                  + " started_at, meetings, judged, occurrences, findings) values ('done', 1,"
                  + " '2026-01-01', '2026-02-01', 'a@x.example', '2026-01-03', 1, 1, 1, 0)"),
          List.of(
              "insert into outbox_message (recipient, subject, about, body, raw, written_by,"
                  + " written_at) values ('h@x.example', 'Invitation', 'meeting:m-1', 'Passcode: "
                  + " kelp-41', 'raw', 'a@x.example', '2026-01-04')"),
          List.of(
              "insert into meeting_version (meeting, version, title, host, at, changed_by, act,"
                  + " passcode_cipher) values ('m-1', 2, 'Weir', 'H@x.example', '2026-01-02',"
                  + " 'a@x.example', 'changed', x'0d0c0b')"),
          List.of(),
          List.of(),
          List.of(
              "insert into ledger_entry values (1, '2026-01-05', 'a@x.example', 'session',"
                  + " '127.0.0.1', 'x', 'x', 'x', 'x', '{}', repeat('0', 64), repeat('1', 64))",
              "update ledger_head set seq = 1, hash = repeat('1', 64)"),
          List.of("insert into floor_event values ('s-1', 1, '{}')"),
          List.of("update account set second_factor = x'01ff' where email = 'a@x.example'"),
          List.of("update keeping_rule set days = 44 where what = 'audits'"),
          List.of("update access_token set acts_as = ' Mixed@Case.Example'"),
          List.of(),
          List.of(
              "insert into finding (id, audit, meeting, occurrence, check_id, subject, family,"
                  + " severity, invited, detail) values (4711, 1, 'm-1', '', 'beyond-bound',"
                  + " 'chat', 'chat', 3, 0, '{}')"),
          List.of(),
          List.of(
              "insert into import_job (id, what, name, by_whom, zone, host, state, made_at) values ('i-1',"
                  + " 'take', 'one', 'a@x.example', 'UTC', 'a@x.example', 'done', '2026-01-06')"),
          List.of(
              "insert into job (task_name, task_instance, execution_time) values ('mail', '1',"
                  + " '2026-01-07')"),
          List.of(
              "insert into meeting_line (meeting, title, host, host_name, changed_at) values"
                  + " ('m-9', 'T', 'h@x.example', 'H', '2026-01-08')"),
          List.of(
              "insert into conference_service (name, address, level, about, state, state_since,"
                  + " added_by, added_at) values ('S', 'https://s.example', 'read', '{}',"
                  + " 'in-touch', '2026-01-09', 'a@x.example', '2026-01-09')",
              "insert into meeting_held (meeting, service, there, revision, read_at, dial_in,"
                  + " decided, notes, writing) select 'm-1', id, 's-1', '1', '2026-01-09', '[]',"
                  + " '{}', '{}', 'none' from conference_service"),
          List.of("insert into service_home select 'harbour', id from conference_service"),
          List.of(
              "insert into floor_allowance (session, control, value, reason, by_whom, at) values"
                  + " ('s-1', 'chat', 'always', 'r', 'a@x.example', '2026-01-10')"),
          List.of(
              "insert into meeting_registration (meeting, service, there, address, name, state)"
                  + " select 'm-1', id, 'r-1', 'asks@x.example', 'Asks', 'asked' from"
                  + " conference_service"),
          List.of("insert into phone_passcode values ('m-1', x'0102030405')"),
          List.of(
              "insert into calendar_source (name, kind, purpose, address, person, zone, minutes,"
                  + " state_since, next_at, added_by, added_at) values ('C', 'caldav', 'busy',"
                  + " 'https://c.example', 'h@x.example', 'UTC', 60, '2026-01-11', '2026-01-11',"
                  + " 'a@x.example', '2026-01-11')"),
          List.of(
              "insert into audit_schedule (name, days, at_time, zone, scope, window_days,"
                  + " recipients, next_at, made_by) values ('W', 'MO', '06:30', 'UTC', '{}', 90,"
                  + " '[]', '2026-01-12', 'a@x.example')"),
          List.of("update audit_schedule set window_days = 91"),
          List.of(
              "insert into audited_meeting (audit, meeting, title, host, exposure, intrusion,"
                  + " disruption, invited, findings, worst, waived) values (1, 'm-1', 'Weir',"
                  + " 'H@x.example', 1, 1, 1, 0, 0, 0, 0)"),
          List.of("update account set language = 'de' where email = 'a@x.example'"),
          List.of("update meeting_line set search_text = 'weir'"));

  /** Walks through all versions once, and keeps what each has left. */
  @BeforeClass
  public void walk() throws SQLException {
    String walked = "warden_upgrade";
    for (int version = 1; version < NEWEST; version++) {
      migrate(walked, Integer.toString(version));
      try (Connection connection = connect(walked);
          Statement statement = connection.createStatement()) {
        for (String sql : DATA.get(version - 1)) {
          statement.execute(sql);
        }
      }
      DatabaseCopy.copy(walked, left(version));
    }
  }

  private static String left(int version) {
    return "warden_upgrade_" + version;
  }

  @Test(dataProvider = "earlier")
  public void whatWasThereIsThereAfterwards(int from) throws SQLException {
    String schema = left(from);
    migrate(schema, "latest");
    try (Connection connection = connect(schema)) {
      assertEquals(
          text(connection, "select count(*) from flyway_schema_history where success = 1"),
          Integer.toString(NEWEST));
      assertEquals(text(connection, "select count(*) from account"), "2");
      assertEquals(text(connection, "select title from meeting"), "Weir");
      assertEquals(text(connection, "select concat(title, host_name) from meeting_line"), "WeirH");
      assertEquals(text(connection, "select version from meeting"), "3", "nothing was changed");
      // what was sealed has the number of its key before it, whichever version sealed it
      assertEquals(
          text(connection, "select hex(passcode_cipher) from meeting"),
          "010102030405060708090A0B0C0D");
      assertEquals(text(connection, "select count(*) from audit_run"), "1");
      assertEquals(text(connection, "select purpose from access_token"), "old");
      if (from >= 2) {
        assertEquals(text(connection, "select subject from outbox_message"), "Invitation");
      }
      if (from >= 3) {
        assertEquals(
            text(connection, "select hex(passcode_cipher) from meeting_version"), "010D0C0B");
      }
      if (from >= 6) {
        assertEquals(text(connection, "select from_seq from ledger_head"), "0");
      }
      assertEquals(
          text(connection, "select mac is null from ledger_head"), "1", "sealed at a start");
      if (from >= 10) {
        assertEquals(text(connection, "select acts_as from access_token"), "mixed@case.example");
      }
      // new rows are numbered behind those that are there
      assertEquals(next(connection, "finding_seq"), from >= 12 ? 4712 : 1);
      assertEquals(next(connection, "meeting_seq"), 2);
      if (from >= 23) {
        assertEquals(text(connection, "select paper from audit_schedule"), "a4");
      }
      if (from >= 26) {
        assertEquals(text(connection, "select max(language) from account"), "de");
      }
      if (from >= 9) {
        assertEquals(text(connection, "select days from keeping_rule where what = 'audits'"), "44");
      }
    }
  }

  /** The first number that Hibernate gives a row from a sequence, a thousand at a time. */
  private static long next(Connection connection, String sequence) {
    AccessCallback numbers =
        new AccessCallback() {
          @Override
          public IntegralDataTypeHolder getNextValue() {
            try {
              return IdentifierGeneratorHelper.getIntegralDataTypeHolder(Long.class)
                  .initialize(Long.parseLong(text(connection, "select nextval(" + sequence + ")")));
            } catch (SQLException e) {
              throw new IllegalStateException(e);
            }
          }

          @Override
          public @Nullable String getTenantIdentifier() {
            return null;
          }
        };
    String how = OptimizerFactory.determineImplicitOptimizerName(1000, new Properties());
    return (Long)
        OptimizerFactory.buildOptimizer(
                StandardOptimizerDescriptor.fromExternalName(how), Long.class, 1000, 1)
            .generate(numbers);
  }

  private static String text(Connection connection, String sql) throws SQLException {
    try (Statement statement = connection.createStatement();
        ResultSet rows = statement.executeQuery(sql)) {
      assertTrue(rows.next(), sql);
      return String.valueOf(rows.getString(1));
    }
  }

  /** A migration that was released is never changed: databases that ran it would refuse. */
  @Test
  public void theNewestIsTheNewestHere() throws IOException {
    try (var files = Files.list(Path.of("src/main/resources/db/migration"))) {
      assertEquals(files.count(), NEWEST, "a new migration has to be walked over here too");
    }
  }
}
