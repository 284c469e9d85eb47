package app.uprightwarden.server.judging;

import app.uprightwarden.core.audit.FactsBuilder;
import app.uprightwarden.core.audit.MeetingFacts;
import app.uprightwarden.core.people.Directory;
import app.uprightwarden.core.rulebook.Rulebook;
import app.uprightwarden.server.people.Organisation;
import java.util.stream.Collectors;

/** Making the core's builder of facts from what is stored or given. */
public final class Judging {
  private Judging() {}

  public static FactsBuilder builder(
      Organisation organisation, Directory directory, Rulebook rulebook) {
    return new FactsBuilder(
        directory,
        rulebook,
        organisation.kinds().stream()
            .filter(Organisation.Kind::confidential)
            .map(Organisation.Kind::id)
            .collect(Collectors.toSet()),
        new MeetingFacts.Plan(
            organisation.plan().maxParticipants(), organisation.plan().maxMinutes()));
  }
}
