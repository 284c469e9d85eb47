package app.uprightwarden.server.drafting;

import app.uprightwarden.core.drafting.BaselineFindings;
import app.uprightwarden.core.drafting.GuaranteeStudy;
import app.uprightwarden.core.drafting.Impact;
import app.uprightwarden.core.drafting.ImpactStudy;
import app.uprightwarden.core.drafting.Layers;
import app.uprightwarden.core.drafting.Remark;
import app.uprightwarden.core.drafting.RulebookLinter;
import app.uprightwarden.core.people.Directory;
import app.uprightwarden.core.people.Person;
import app.uprightwarden.core.rulebook.Guarantee;
import app.uprightwarden.core.rulebook.ResolvedRulebook;
import app.uprightwarden.core.rulebook.Rulebook;
import app.uprightwarden.core.rulebook.Scope;
import app.uprightwarden.server.people.Organisation;
import app.uprightwarden.server.people.OrganisationService;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.register.RegisterService;
import app.uprightwarden.server.register.RegisterSnapshot;
import app.uprightwarden.server.register.StoredMeeting;
import app.uprightwarden.server.rulebook.RulebookService;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;

/** Holds a draft against the register and the edition in force. */
@Service
class DraftImpactService {
  private final RegisterSnapshot snapshot;
  private final RegisterService register;
  private final RulebookService rulebook;
  private final OrganisationService organisation;
  private volatile @Nullable Ground ground;

  DraftImpactService(
      RegisterSnapshot snapshot,
      RegisterService register,
      RulebookService rulebook,
      OrganisationService organisation) {
    this.snapshot = snapshot;
    this.register = register;
    this.rulebook = rulebook;
    this.organisation = organisation;
  }

  /** What the edition in force finds, kept while neither it nor the directory changes. */
  private record Ground(int edition, long directoryRevision, BaselineFindings baseline) {}

  /**
   * An impact, with the meetings it lists.
   *
   * @param edition the one in force it was held against
   */
  record Foreseen(
      int edition, Impact impact, Map<Long, StoredMeeting> meetings, Directory directory) {}

  /** Holds a draft against the whole register. */
  Foreseen impact(Rulebook draft, ImpactStudy.Page page) {
    RegisterSnapshot.View view = snapshot.current();
    Ground now = ground(view);
    Impact impact =
        ImpactStudy.of(
            view.index(), now.baseline(), new Layers(draft, view.directory()::unitPath), page);
    List<Long> rows = impact.worst().stream().map(Impact.Meeting::row).toList();
    return new Foreseen(now.edition(), impact, register.rows(rows), view.directory());
  }

  private Ground ground(RegisterSnapshot.View view) {
    RulebookService.Edition inForce = rulebook.inForce();
    Ground known = ground;
    if (known == null
        || known.edition() != inForce.number()
        || known.directoryRevision() != view.directoryRevision()) {
      Layers layers = new Layers(rulebook.rulebook(inForce), view.directory()::unitPath);
      known = new Ground(inForce.number(), view.directoryRevision(), new BaselineFindings(layers));
      ground = known;
    }
    return known;
  }

  /** Which meetings break a guarantee under a draft, and what could keep it. */
  record Held(GuaranteeStudy study, Map<Long, StoredMeeting> meetings, Directory directory) {}

  Held guarantee(Rulebook draft, Scope layer, String id, int most) {
    Guarantee guarantee =
        draft.layers().stream()
            .filter(l -> l.scope().equals(layer))
            .flatMap(l -> l.guarantees().stream())
            .filter(g -> g.id().equals(id))
            .findFirst()
            .orElseThrow(
                () -> ProblemException.notFound("The draft has no guarantee " + id + " there."));
    RegisterSnapshot.View view = snapshot.current();
    GuaranteeStudy study =
        GuaranteeStudy.of(
            view.index(), new Layers(draft, view.directory()::unitPath), layer, guarantee, most);
    return new Held(study, register.rows(study.rows()), view.directory());
  }

  /** Whom a rulebook is to be resolved for. A person stands for their unit. */
  record Whom(@Nullable String unit, @Nullable String kind, @Nullable String person) {}

  /** A rulebook resolved for somebody. */
  record Applied(@Nullable String unit, @Nullable String kind, ResolvedRulebook rules) {}

  Applied applied(Rulebook book, Whom whom) {
    Directory directory = organisation.directory();
    String unit = whom.unit();
    if (whom.person() != null) {
      Person person = directory.find(whom.person());
      if (person == null) {
        throw ProblemException.notFound(
            "The directory has nobody with the address " + whom.person() + ".");
      }
      unit = person.unit();
    }
    return new Applied(
        unit, whom.kind(), new Layers(book, directory::unitPath).of(unit, whom.kind()));
  }

  /** What is to be said about a draft by itself. */
  List<Remark> remarks(Rulebook draft) {
    Organisation all = organisation.organisation();
    Directory directory = organisation.directory();
    Names names = new Names(all);
    List<String> units = new ArrayList<>();
    all.units().forEach(u -> units.add(u.id()));
    return RulebookLinter.remarks(
        draft,
        units,
        all.kinds().stream().map(Organisation.Kind::id).toList(),
        new Layers(draft, directory::unitPath),
        names::of);
  }
}
