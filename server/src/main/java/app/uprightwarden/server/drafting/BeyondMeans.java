package app.uprightwarden.server.drafting;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.Scale;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.drafting.Layers;
import app.uprightwarden.core.rulebook.ResolvedRule;
import app.uprightwarden.core.rulebook.Rulebook;
import app.uprightwarden.core.service.Means;
import app.uprightwarden.server.people.OrganisationService;
import app.uprightwarden.server.persistence.AnswerCache;
import app.uprightwarden.server.register.HeldMeetings;
import app.uprightwarden.server.register.ServiceMeans;
import app.uprightwarden.server.rulebook.RulebookService;
import app.uprightwarden.server.schema.Plain;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** How many meetings a draft puts beyond what their conference services can hold. */
@Component
class BeyondMeans {
  private final HeldMeetings held;
  private final ServiceMeans services;
  private final RulebookService rulebook;
  private final OrganisationService organisation;
  private final AnswerCache<String, List<HeldMeetings.HeldGroup>> groups = new AnswerCache<>();

  BeyondMeans(
      HeldMeetings held,
      ServiceMeans services,
      RulebookService rulebook,
      OrganisationService organisation) {
    this.held = held;
    this.services = services;
    this.rulebook = rulebook;
    this.organisation = organisation;
  }

  /**
   * A rule that a service cannot keep.
   *
   * @param before meetings there that are beyond its means under the edition in force, {@code
   *     after} under the draft
   * @param stricter the mildest value it has that is stricter than the rule asks; null where it has
   *     none
   */
  record BeyondLine(
      String service, String control, long before, long after, @Plain @Nullable Object stricter) {}

  /** What services cannot keep of the edition in force or of a draft. */
  List<BeyondLine> of(Rulebook draft) {
    var paths = organisation.directory();
    Layers before = new Layers(rulebook.rulebook(rulebook.inForce()), paths::unitPath);
    Layers after = new Layers(draft, paths::unitPath);
    Map<String, BeyondLine> lines = new TreeMap<>();
    Map<Long, ServiceMeans.Named> known = new HashMap<>();
    for (HeldMeetings.HeldGroup group : groups.get("", held::groups)) {
      ServiceMeans.Named service = known.computeIfAbsent(group.service(), services::service);
      if (service != null && !service.unlinked()) {
        add(lines, service, before, group, true);
        add(lines, service, after, group, false);
      }
    }
    return new ArrayList<>(lines.values());
  }

  private static void add(
      Map<String, BeyondLine> lines,
      ServiceMeans.Named service,
      Layers layers,
      HeldMeetings.HeldGroup group,
      boolean isBefore) {
    for (ResolvedRule rule : layers.of(group.unit(), group.kind()).rules()) {
      if (service.means().canKeep(rule)) {
        continue;
      }
      long meetings = group.meetings();
      BeyondLine line =
          new BeyondLine(
              service.name(),
              rule.control().id(),
              isBefore ? meetings : 0,
              isBefore ? 0 : meetings,
              isBefore ? null : stricter(service.means(), rule));
      lines.merge(
          service.name() + "|" + rule.control().id(),
          line,
          (one, other) ->
              new BeyondLine(
                  one.service(),
                  one.control(),
                  one.before() + other.before(),
                  one.after() + other.after(),
                  one.stricter() == null ? other.stricter() : one.stricter()));
    }
  }

  private static @Nullable Object stricter(Means means, ResolvedRule rule) {
    Control control = rule.control();
    Value limit = rule.limit();
    if (limit == null || !(control.scale() instanceof Scale.Words words)) {
      return null;
    }
    return words.values().stream()
        .filter(value -> means.has(control, value) && control.within(value, limit))
        .findFirst()
        .map(control::plain)
        .orElse(null);
  }
}
