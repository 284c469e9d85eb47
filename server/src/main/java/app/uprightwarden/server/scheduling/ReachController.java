package app.uprightwarden.server.scheduling;

import app.uprightwarden.core.people.Directory;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.people.OrganisationService;
import app.uprightwarden.server.problem.Fault;
import app.uprightwarden.server.problem.ProblemException;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.Size;
import org.springframework.security.access.prepost.PreAuthorize;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** A person's page: what they host, where they are, what they can get into. */
@RestController
@RequestMapping("/api/people")
class ReachController {
  private final ReachService reach;
  private final BulkMeetings many;
  private final OrganisationService organisation;

  ReachController(ReachService reach, BulkMeetings many, OrganisationService organisation) {
    this.reach = reach;
    this.many = many;
    this.organisation = organisation;
  }

  /** Of any address, known or not: wardens and auditors. */
  @GetMapping("/{email}/page")
  @PreAuthorize("hasAnyRole('WARDEN', 'AUDITOR')")
  ReachService.PersonPage page(@PathVariable String email) {
    return reach.of(email);
  }

  /** Who takes over. */
  record Successor(@NotBlank @Size(max = 254) String to) {}

  /** Everything somebody hosts becomes another's, in one step. */
  @PostMapping("/{email}/hand-over")
  @PreAuthorize("hasRole('WARDEN')")
  BulkMeetings.ManyDone handOver(
      @PathVariable String email,
      @RequestBody @Valid Successor successor,
      @AuthenticationPrincipal SignedIn who) {
    var person = organisation.directory().find(successor.to());
    if (person == null || !person.active()) {
      throw ProblemException.invalid(
          "Meetings go to somebody in the directory who is active. Nothing was changed.",
          java.util.List.of(new Fault("/to", successor.to())));
    }
    if (Directory.fold(email).equals(Directory.fold(successor.to()))) {
      throw ProblemException.invalid(
          "Choose somebody else to take over. Nothing was changed.",
          java.util.List.of(new Fault("/to", successor.to())));
    }
    return many.handOverAll(email, person.email(), who);
  }
}
