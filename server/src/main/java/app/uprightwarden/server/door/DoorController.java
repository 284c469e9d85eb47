package app.uprightwarden.server.door;

import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.schema.Plain;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Pattern;
import jakarta.validation.constraints.Size;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.security.access.prepost.PreAuthorize;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** Rehearsals of a meeting's door. Nothing is stored. */
@RestController
@RequestMapping("/api/door")
class DoorController {
  private final DoorService door;

  DoorController(DoorService door) {
    this.door = door;
  }

  /**
   * Which meeting, when, and what is changed in pencil.
   *
   * @param meeting its id; null for one that is not saved yet, which begins with the rulebook's
   *     starts for its host and kind
   * @param host of one that is not saved yet; null takes whoever asks
   * @param occurrence the original local start of one of the series, or null
   * @param pencil control → value, in place of the meeting's own
   * @param people addresses of real people to send to the door beside the personas
   */
  record RehearsalAsked(
      @Nullable @Size(max = 64) String meeting,
      @Nullable @Size(max = 254) String host,
      @Nullable @Size(max = 64) String kind,
      @Nullable @Size(max = 19) String occurrence,
      @NotNull @Valid MomentAsked moment,
      @Plain @NotNull @Size(max = 200) Map<String, Object> pencil,
      @NotNull @Size(max = 20) List<@NotNull @Size(max = 254) String> people) {}

  /** A moment between half an hour before the start and an hour after. */
  record MomentAsked(@Min(-30) @Max(60) int minutesFromStart, boolean hostIn, boolean locked) {}

  /**
   * Somebody of a rehearsal, and what is wanted.
   *
   * @param who a persona's id or an address
   */
  record AdmissionAsked(
      @NotNull @Valid RehearsalAsked rehearsal,
      @NotNull @Size(max = 254) String who,
      @NotNull @Pattern(regexp = "in|not-in|refused") String goal) {}

  /** Hosts rehearse their own meetings. */
  @PostMapping("/rehearsal")
  @PreAuthorize("isAuthenticated()")
  DoorView rehearse(
      @RequestBody @Valid RehearsalAsked asked, @AuthenticationPrincipal SignedIn who) {
    return door.rehearse(asked, who);
  }

  /** What it would take to let somebody in, or to keep them out. */
  @PostMapping("/admission")
  @PreAuthorize("isAuthenticated()")
  DoorView.Admission admission(
      @RequestBody @Valid AdmissionAsked asked, @AuthenticationPrincipal SignedIn who) {
    return door.admission(asked, who);
  }
}
