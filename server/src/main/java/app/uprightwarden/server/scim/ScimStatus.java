package app.uprightwarden.server.scim;

import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** What the directory elsewhere has done here. */
@Service
class ScimStatus {
  private final ScimRecordRepository rows;
  private final ScimGroups groups;

  ScimStatus(ScimRecordRepository rows, ScimGroups groups) {
    this.rows = rows;
    this.groups = groups;
  }

  @Transactional(readOnly = true)
  public DirectoryLinkController.DirectoryLink link() {
    return new DirectoryLinkController.DirectoryLink(
        ScimIds.BASE,
        rows.lastChange().orElse(null),
        rows.count(ScimUsers.SORT),
        rows.count(ScimGroups.SORT),
        groups.circles());
  }
}
