package app.uprightwarden.server.drafting;

import app.uprightwarden.core.rulebook.Rulebook;
import app.uprightwarden.server.access.Role;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.rulebook.RulebookService;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.springframework.stereotype.Component;

/** Finds a rulebook by what it is called in addresses: an edition, a draft, the one in force. */
@Component
class RulebookSources {
  private static final Pattern NUMBERED = Pattern.compile("(edition|draft):(\\d{1,9})");

  private final RulebookService rulebook;
  private final DraftService drafts;

  RulebookSources(RulebookService rulebook, DraftService drafts) {
    this.rulebook = rulebook;
    this.drafts = drafts;
  }

  /**
   * A rulebook by name.
   *
   * @param id as in addresses
   * @param title as people read it
   */
  record Source(String id, String title, Rulebook rulebook) {}

  /**
   * @param id {@code in-force}, {@code starter}, {@code edition:4} or {@code draft:2}
   * @throws ProblemException 404 where there is none, 403 where a host asks for a draft
   */
  Source find(String id, SignedIn who) {
    if (id.equals("in-force")) {
      return edition(rulebook.inForce());
    }
    if (id.equals("starter")) {
      return new Source(id, "Starter rulebook", rulebook.parse(rulebook.starter()));
    }
    Matcher matcher = NUMBERED.matcher(id);
    if (!matcher.matches()) {
      throw ProblemException.notFound(
          "A rulebook is in-force, starter, edition:… or draft:…, not " + id + ".");
    }
    int number = Integer.parseInt(matcher.group(2));
    if (matcher.group(1).equals("edition")) {
      return edition(rulebook.edition(number));
    }
    if (who.isHost()) {
      throw ProblemException.forbidden("not-allowed", "Drafts are for wardens.");
    }
    Draft draft = drafts.get(number);
    if (who.role() == Role.UNIT_WARDEN && !draft.madeBy().equals(who.email())) {
      throw ProblemException.notFound("There is no draft " + number + " for you.");
    }
    return new Source(id, "Draft “" + draft.name() + "”", rulebook.parse(draft.document()));
  }

  private Source edition(RulebookService.Edition edition) {
    return new Source(
        "edition:" + edition.number(),
        edition.number() == 0 ? "No edition" : "Edition " + edition.number(),
        rulebook.rulebook(edition));
  }
}
