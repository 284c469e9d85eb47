package app.uprightwarden.server.reports;

import app.uprightwarden.server.audit.AuditRun;
import java.io.IOException;
import java.io.OutputStream;
import java.util.List;
import java.util.Locale;

/**
 * One way to take an audit away. A further one is one more component: the menu and what is answered
 * follow from those there are.
 */
interface ReportFormat {
  /** What it is asked for by: small letters. */
  String id();

  /** What it is called where one chooses, in English. */
  String title();

  /** Of what is written (RFC 9110, section 8.3). */
  String mediaType();

  /** How the name of its file ends, with the dot. */
  String ending();

  /** Where it stands among the others, the first one having the smallest number. */
  int place();

  /** What it can be printed on; empty for what is not printed. */
  default List<String> papers() {
    return List.of();
  }

  /** Writes the audit; leaves the stream open. */
  void write(AuditRun run, Wish wish, OutputStream out) throws IOException;

  /** The name of its file. */
  default String fileName(AuditRun run) {
    String which = run.state().equals("standing") ? "now" : String.valueOf(run.id());
    return "audit-" + which + ending();
  }

  /**
   * What somebody wishes.
   *
   * @param paper {@code a4} or {@code letter}
   * @param language of what is printed; files for programs are the same for all
   */
  record Wish(String paper, Locale language) {}
}
