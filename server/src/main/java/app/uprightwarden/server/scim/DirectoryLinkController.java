package app.uprightwarden.server.scim;

import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.security.access.prepost.PreAuthorize;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** How the directory elsewhere that keeps people up to date here is doing. */
@RestController
@RequestMapping("/api/directory-link")
class DirectoryLinkController {
  private final ScimStatus status;

  DirectoryLinkController(ScimStatus status) {
    this.status = status;
  }

  /**
   * What is known of it.
   *
   * @param path where it speaks with this server
   * @param lastChange when it last changed something; null where it never did
   * @param users how many people it has changed or made, and {@code groups} lists
   * @param circles groups that hold each other, as their names
   */
  record DirectoryLink(
      String path,
      @Nullable Instant lastChange,
      long users,
      long groups,
      List<List<String>> circles) {}

  @GetMapping
  @PreAuthorize("hasAnyRole('WARDEN', 'AUDITOR')")
  DirectoryLink link() {
    return status.link();
  }
}
