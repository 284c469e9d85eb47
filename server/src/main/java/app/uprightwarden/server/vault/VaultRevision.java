package app.uprightwarden.server.vault;

import org.springframework.stereotype.Component;

/** Counts up whenever fingerprints change without their meetings' changing. */
@Component
public class VaultRevision {
  private final VaultRevisionRepository rows;

  VaultRevision(VaultRevisionRepository rows) {
    this.rows = rows;
  }

  /** The count now: while it is the same, so are fingerprints. */
  public long now() {
    return rows.revision();
  }

  void next() {
    rows.next();
  }
}
