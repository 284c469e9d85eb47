package app.uprightwarden.server.people;

import app.uprightwarden.server.access.WithoutFactor;
import java.util.List;
import org.springframework.security.access.prepost.PreAuthorize;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** The organisation, for everybody signed in: names of units and kinds are on every page. */
@RestController
@RequestMapping("/api/organisation")
@WithoutFactor
class OrganisationController {
  private final OrganisationService organisation;

  OrganisationController(OrganisationService organisation) {
    this.organisation = organisation;
  }

  /** A list or a space without its members; {@code members} is how many it reaches. */
  record GroupSummary(String id, String name, int members) {
    static GroupSummary of(Organisation.Gathering of) {
      return new GroupSummary(of.id(), of.name(), of.members().size());
    }
  }

  /**
   * The organisation without its people.
   *
   * @param facts what goes back with a change of its own facts, units and kinds, so that nobody
   *     overwrites what they have not seen
   */
  record Overview(
      String name,
      List<String> domains,
      List<Organisation.Partner> partners,
      Organisation.Plan plan,
      List<Organisation.Unit> units,
      List<Organisation.Kind> kinds,
      List<GroupSummary> spaces,
      List<GroupSummary> lists,
      List<Organisation.Room> rooms,
      String facts) {}

  @GetMapping
  @PreAuthorize("isAuthenticated()")
  Overview overview() {
    Organisation all = organisation.organisation();
    return new Overview(
        all.name(),
        all.domains(),
        all.partners(),
        all.plan(),
        all.units(),
        all.kinds(),
        all.spaces().stream().map(GroupSummary::of).toList(),
        all.lists().stream().map(GroupSummary::of).toList(),
        all.rooms(),
        organisation.mark(all));
  }
}
