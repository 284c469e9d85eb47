package app.uprightwarden.server.register;

import java.time.LocalDateTime;
import java.time.ZoneOffset;
import org.jspecify.annotations.Nullable;

/**
 * How a line is judged, as the statement that writes many of them reads it.
 *
 * @param next when the next occurrence begins, in UTC
 */
record JudgedLine(
    String meeting,
    String hostName,
    @Nullable String unit,
    @Nullable String text,
    @Nullable String next,
    @Nullable Integer occurrences,
    @Nullable Integer exposure,
    int findings,
    int worst,
    int invited) {
  /** The lines that still are there; their list stands first, so that each is found by its key. */
  static final String UPDATE =
      """
      update json_table(:lines, '$[*]' columns (
          meeting varchar(64) character set utf8mb4 collate utf8mb4_bin path '$.meeting',
          host_name varchar(254) character set utf8mb4 path '$.hostName',
          unit varchar(64) character set utf8mb4 path '$.unit',
          search_text varchar(3040) character set utf8mb4 path '$.text',
          next_start datetime(3) path '$.next',
          occurrences int path '$.occurrences',
          exposure smallint path '$.exposure',
          findings int path '$.findings',
          worst tinyint path '$.worst',
          invited int path '$.invited')) j
        straight_join meeting_line l on l.meeting = j.meeting
        set l.host_name = j.host_name, l.unit = j.unit, l.search_text = j.search_text,
          l.next_start = j.next_start, l.occurrences = j.occurrences, l.exposure = j.exposure,
          l.findings = j.findings, l.worst = j.worst, l.invited = j.invited
      """;

  static JudgedLine of(MeetingLineEntity line) {
    return new JudgedLine(
        line.meeting,
        line.hostName,
        line.unit,
        line.searchText,
        line.nextStart == null
            ? null
            : LocalDateTime.ofInstant(line.nextStart, ZoneOffset.UTC).toString(),
        line.occurrences,
        line.exposure,
        line.findings,
        line.worst,
        line.invited);
  }
}
