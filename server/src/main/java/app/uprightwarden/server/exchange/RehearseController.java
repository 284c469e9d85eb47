package app.uprightwarden.server.exchange;

import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.door.Door;
import app.uprightwarden.core.door.Moment;
import app.uprightwarden.core.door.Passage;
import app.uprightwarden.core.door.Roles;
import app.uprightwarden.core.people.Joiner;
import app.uprightwarden.core.people.Right;
import app.uprightwarden.core.people.Role;
import app.uprightwarden.core.people.Route;
import app.uprightwarden.core.people.Standing;
import app.uprightwarden.core.people.Tie;
import app.uprightwarden.server.judging.FindingView;
import app.uprightwarden.server.problem.Fault;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.register.ControlsJson;
import app.uprightwarden.server.schema.BundleSchema;
import app.uprightwarden.server.schema.Plain;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Pattern;
import jakarta.validation.constraints.Size;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.security.access.prepost.PreAuthorize;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Asking the door about anybody at any moment, for everybody signed in. Stores nothing. */
@RestController
class RehearseController {
  private final BundleSchema schema;
  private final JsonMapper json;

  RehearseController(BundleSchema schema, JsonMapper json) {
    this.schema = schema;
    this.json = json;
  }

  /** Controls as in a meeting, who comes, and when. */
  record Rehearsal(
      @Plain @NotNull @Size(max = 200) Map<String, Object> controls,
      @NotNull @Valid JoinerView joiner,
      @NotNull @Valid MomentView moment) {}

  /** Somebody at the door; {@code region} is null where not known. */
  record JoinerView(
      @NotNull @Pattern(regexp = "member|guest|partner|outsider|unknown") String standing,
      @NotNull @Pattern(regexp = "host|co-host|named|listed|forwarded|none") String tie,
      @NotNull @Pattern(regexp = "app|phone") String route,
      boolean holdsPasscode,
      boolean removed,
      @Nullable @Pattern(regexp = "[A-Z]{2}") String region,
      boolean listedPresenter) {}

  /** A moment of the session; minutes are negative before the start. */
  record MomentView(
      @Min(-100_000) @Max(100_000) int minutesFromStart, boolean hostIn, boolean locked) {}

  /**
   * The door's answer.
   *
   * @param step where refused or held; null where in
   * @param role once in, or null
   * @param rights held inside; empty unless in
   */
  record Answer(
      String outcome,
      @Nullable String step,
      @Nullable String role,
      List<String> rights,
      List<FindingView.TrailStep> trail) {}

  @PostMapping("/api/rehearse")
  @PreAuthorize("isAuthenticated()")
  Answer rehearse(@RequestBody @Valid Rehearsal wanted) {
    ControlValues values = controls(wanted.controls());
    Joiner joiner = joiner(wanted.joiner());
    MomentView at = wanted.moment();
    Passage passage =
        Door.pass(values, joiner, new Moment(at.minutesFromStart(), at.hostIn(), at.locked()));
    Role role = passage.role();
    return new Answer(
        passage.outcome().id(),
        passage.step() == null ? null : passage.step().id(),
        role == null ? null : role.id(),
        role == null
            ? List.of()
            : Roles.list(Roles.rights(values, role, joiner.route())).stream()
                .map(Right::id)
                .toList(),
        FindingView.steps(passage));
  }

  private ControlValues controls(Map<String, Object> given) {
    JsonNode node = json.valueToTree(given);
    List<Fault> faults = new ArrayList<>();
    for (Fault fault : schema.controlsFaults(node)) {
      faults.add(new Fault("/controls" + fault.pointer(), fault.message()));
    }
    ControlValues values =
        faults.isEmpty() ? ControlsJson.read(node, "/controls", faults) : ControlValues.NONE;
    if (!faults.isEmpty()) {
      throw ProblemException.invalid("Some controls are wrong.", faults);
    }
    return values;
  }

  private static Joiner joiner(JoinerView view) {
    return new Joiner(
        Standing.valueOf(view.standing().toUpperCase(Locale.ROOT)),
        Tie.valueOf(view.tie().toUpperCase(Locale.ROOT).replace('-', '_')),
        Route.valueOf(view.route().toUpperCase(Locale.ROOT)),
        view.holdsPasscode(),
        view.removed(),
        view.region(),
        view.listedPresenter());
  }
}
