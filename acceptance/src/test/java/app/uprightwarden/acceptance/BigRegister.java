package app.uprightwarden.acceptance;

import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;

/**
 * A large register, made in the database out of a small one that a server has loaded: quicker than
 * importing it. No server may run on it meanwhile.
 */
final class BigRegister {
  /** How many series the small one is loaded with. */
  static final int MIXTURE = 2000;

  private static final int MAX_STAFFS = 400;
  private static final int BLOCKS_AT_ONCE = 25;
  private static final String OF_BASE = " and m.id <= (select max(id) from bench_base)";

  private final String schema;

  /**
   * @param schema the database, as {@link RunningWarden} names it
   */
  BigRegister(String schema) {
    this.schema = schema;
  }

  Connection connect() throws SQLException {
    return DriverManager.getConnection(
        RunningWarden.environment("WARDEN_TEST_DB_URL").replaceAll("/warden$", "/" + schema),
        RunningWarden.environment("WARDEN_TEST_DB_USER"),
        RunningWarden.environment("WARDEN_TEST_DB_PASSWORD"));
  }

  /** The one number that a question answers. */
  long number(String sql) throws SQLException {
    try (Connection connection = connect();
        ResultSet r = connection.createStatement().executeQuery(sql)) {
      r.next();
      return r.getLong(1);
    }
  }

  /** Lets somebody in by a token whose text is known. */
  void issue(String token, String role, String as) throws SQLException {
    try (Connection connection = connect()) {
      Tokens.issue(connection, token, role, as);
    }
  }

  /**
   * The mixture again under other names, until there are enough; each time with a staff of its own,
   * so that a host has no more meetings than before.
   *
   * @return how many staffs there are besides the first: {@code m.okafor.0@…}, {@code m.okafor.1@…}
   */
  int grow(int series) throws SQLException {
    long blocks = (series - 1) / number("select count(*) from meeting");
    int staffs = (int) Math.min(blocks, MAX_STAFFS);
    try (Connection connection = connect()) {
      hire(connection, staffs);
      List<String> columns = columns(connection, "meeting");
      columns.remove("id");
      String values =
          String.join(", ", columns)
              .replace("public_id", "concat(public_id, '-x', seq)")
              .replaceFirst("\\bhost\\b", renamed("host", staffs))
              .replaceFirst("\\bnumber\\b", "left(concat(number, '-x', seq), 40)")
              .replace("passcode_fingerprint", "left(concat(seq, '.', passcode_fingerprint), 43)");
      var statement = connection.createStatement();
      statement.execute("create table bench_base as select max(id) id from meeting");
      for (long from = 1; from <= blocks; from += BLOCKS_AT_ONCE) {
        long to = Math.min(from + BLOCKS_AT_ONCE - 1, blocks);
        String seq = " join seq_%d_to_%d s".formatted(from, to);
        String copied =
            OF_BASE + seq + " join meeting n on n.public_id = concat(m.public_id, '-x', seq)";
        statement.execute(
            ("insert into meeting (id, %s) select (select max(id) from meeting) + row_number() over"
                    + " (order by seq, m.id), %s from meeting m%s where true%s")
                .formatted(String.join(", ", columns), values, seq, OF_BASE));
        statement.execute(
            "insert into meeting_person (meeting, part, position, email, need) select n.id, p.part,"
                + " p.position, "
                + renamed("p.email", staffs)
                + ", p.need from meeting_person p join meeting m on m.id = p.meeting"
                + copied);
        statement.execute(
            "insert into meeting_change (meeting, position, at, starts_at, minutes, control_set)"
                + " select n.id, p.position, p.at, p.starts_at, p.minutes, p.control_set from"
                + " meeting_change p join meeting m on m.id = p.meeting"
                + copied);
      }
      statement.execute(
          "insert into meeting_line (meeting, title, host, host_name, unit, kind, changed_at,"
              + " search_text)"
              + " select m.public_id, m.title, m.host, coalesce(p.name, m.host), p.unit, m.kind,"
              + " m.changed_at, lower(concat(m.title, '\\n', coalesce(p.name, m.host), '\\n',"
              + " m.host)) from meeting m left join person p on p.folded = m.host_folded"
              + " where m.id > (select max(id) from bench_base)");
      statement.execute("drop table bench_base");
      statement.execute(
          "do setval(meeting_seq, " + (number("select max(id) from meeting") + 1000) + ", 0)");
      worsen(connection);
      statement.execute(
          "update audit_run set directory = null, renewed_at = null where state = 'standing'");
    }
    return staffs;
  }

  /** So many people, each in one of so many lists. No server may run on it meanwhile. */
  void hire(int people, int lists) throws SQLException {
    try (Connection connection = connect()) {
      var statement = connection.createStatement();
      statement.execute(
          ("insert into person (email, folded, name, standing, unit, active, zone) select"
                  + " concat('p', seq, '@saltmarsh.example'), concat('p', seq,"
                  + " '@saltmarsh.example'), concat(elt(1 + seq %% 7, 'Ada', 'Bela', 'Cem', 'Dunja',"
                  + " 'Emre', 'Fenna', 'Goran'), ' ', elt(1 + seq %% 11, 'Ashby', 'Brand',"
                  + " 'Corless', 'Dray', 'Eyot', 'Ford', 'Garth', 'Holm', 'Inch', 'Jetty',"
                  + " 'Keel'), ' ', seq), 'member', null, true, null from seq_1_to_%d")
              .formatted(people));
      int each = Math.max(1, people / lists);
      statement.execute("set session group_concat_max_len = 16000000");
      statement.execute(
          ("insert into gathering (id, sort, name, members) select concat('l-', n), 'list',"
                  + " concat('List ', n), concat('[', group_concat(concat('\"p', seq,"
                  + " '@saltmarsh.example\"')), ']') from (select seq, seq div %d as n from"
                  + " seq_1_to_%d) s group by n")
              .formatted(each, people));
    }
  }

  private static String renamed(String column, int staffs) {
    return "replace(%s, '@', concat('.', seq %% %d, '@'))".formatted(column, Math.max(1, staffs));
  }

  private static void hire(Connection connection, int staffs) throws SQLException {
    if (staffs > 0) {
      connection
          .createStatement()
          .execute(
              ("insert into person (email, folded, name, standing, unit, active, zone) select"
                      + " replace(email, '@', concat('.', seq, '@')), replace(folded, '@',"
                      + " concat('.', seq, '@')), concat(name, ' ', seq), standing, unit, active,"
                      + " zone from person join seq_0_to_%d order by seq, position")
                  .formatted(staffs - 1));
    }
  }

  /**
   * A fifth of the meetings get the values of the worst ones, so that there are about 3 findings.
   */
  private static void worsen(Connection connection) throws SQLException {
    List<String> sets = new ArrayList<>();
    try (ResultSet r =
        connection
            .createStatement()
            .executeQuery(
                "select m.control_set from meeting m join audited_meeting a on a.meeting ="
                    + " m.public_id join audit_run r on r.id = a.audit and r.state = 'standing'"
                    + " group by m.control_set order by max(a.findings) desc limit 8")) {
      while (r.next()) {
        sets.add(r.getString(1));
      }
    }
    connection
        .createStatement()
        .execute(
            "update meeting set control_set = elt(1 + id % 8, "
                + String.join(", ", sets)
                + "), version = version + 1 where id % 5 = 0");
  }

  /** A table's columns, without those that it makes itself. */
  static List<String> columns(Connection connection, String table) throws SQLException {
    List<String> columns = new ArrayList<>();
    try (PreparedStatement select =
        connection.prepareStatement(
            "select column_name from information_schema.columns where table_schema ="
                + " database() and table_name = ? and extra not like '%GENERATED%' order by"
                + " ordinal_position")) {
      select.setString(1, table);
      try (ResultSet r = select.executeQuery()) {
        while (r.next()) {
          columns.add(r.getString(1));
        }
      }
    }
    return columns;
  }
}
