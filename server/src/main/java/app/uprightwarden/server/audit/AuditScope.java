package app.uprightwarden.server.audit;

import app.uprightwarden.core.people.Directory;
import jakarta.validation.constraints.Size;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * The meetings that an audit looks at; null filters nothing.
 *
 * @param unit the host's unit or one above it
 * @param host by address
 */
public record AuditScope(
    @Nullable @Size(max = 64) String unit,
    @Nullable @Size(max = 64) String kind,
    @Nullable @Size(max = 254) String host) {
  public static final AuditScope ALL = new AuditScope(null, null, null);

  boolean isAll() {
    return equals(ALL);
  }

  /** Whether a meeting belongs to it. */
  boolean has(String ofHost, @Nullable String ofKind, List<String> units) {
    return (host == null || Directory.fold(host).equals(Directory.fold(ofHost)))
        && (kind == null || kind.equals(ofKind))
        && (unit == null || units.contains(unit));
  }
}
