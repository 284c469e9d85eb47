package app.uprightwarden.server.scheduling;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.limits.Takes;
import app.uprightwarden.server.people.SettingsService;
import app.uprightwarden.server.problem.Fault;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.register.RegisterService;
import app.uprightwarden.server.register.StoredMeeting;
import io.swagger.v3.oas.annotations.media.Content;
import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Pattern;
import jakarta.validation.constraints.Size;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.time.DateTimeException;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.springframework.http.MediaType;
import org.springframework.security.access.prepost.PreAuthorize;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.validation.annotation.Validated;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.databind.json.JsonMapper;

/** What the scheduling page asks before it saves; nothing is stored here but answers fed in. */
@RestController
@RequestMapping("/api/scheduling")
@Validated
class SchedulingController {
  private static final int MAX_ANSWER_BYTES = 2 * 1024 * 1024;

  private final SchedulingPreviewService preview;
  private final AvailabilityService availability;
  private final ScheduleService schedule;
  private final Answers answers;
  private final MeetingForm forms;
  private final SettingsService settings;
  private final RegisterService register;
  private final JsonMapper json;

  SchedulingController(
      SchedulingPreviewService preview,
      AvailabilityService availability,
      ScheduleService schedule,
      Answers answers,
      MeetingForm forms,
      SettingsService settings,
      RegisterService register,
      JsonMapper json) {
    this.preview = preview;
    this.availability = availability;
    this.schedule = schedule;
    this.answers = answers;
    this.forms = forms;
    this.settings = settings;
    this.register = register;
    this.json = json;
  }

  /**
   * A form in hand.
   *
   * @param meeting as a bundle has it, without an id
   * @param base the meeting it changes, or null for a new one
   * @param control the control whose values are to be weighed, or null
   * @param service the conference service chosen for a new meeting; see {@code ToSave}
   */
  record FormInHand(
      @NotNull @Size(max = 200) Map<String, @Nullable Object> meeting,
      @Nullable @Size(max = 64) String base,
      @Nullable @Size(max = 64) String control,
      @Nullable @Min(0) Long service) {}

  private @Nullable StoredMeeting base(@Nullable String id, SignedIn who) {
    return id == null ? null : register.get(id, who);
  }

  @PostMapping("/foretaste")
  @PreAuthorize("hasAnyRole('WARDEN', 'UNIT_WARDEN', 'HOST')")
  SchedulingPreview schedulingPreview(
      @RequestBody @Valid FormInHand draft,
      @AuthenticationPrincipal(expression = SignedIn.AS_HOST) SignedIn who) {
    Control inHand = null;
    if (draft.control() != null) {
      inHand = Control.byId(draft.control());
      if (inHand == null) {
        throw ProblemException.invalid(
            "There is no such control.", List.of(new Fault("/control", draft.control())));
      }
    }
    return preview.of(
        json.valueToTree(draft.meeting()), base(draft.base(), who), draft.service(), inHand, who);
  }

  /**
   * A passcode that is strong and can be said aloud.
   *
   * @param digits for telephones beside it
   */
  record MadePasscode(String text, String digits) {}

  /** A number that no meeting has. */
  record MadeText(String text) {}

  @GetMapping("/passcode")
  @PreAuthorize("hasAnyRole('WARDEN', 'UNIT_WARDEN', 'HOST')")
  MadePasscode passcode(@RequestParam(defaultValue = "0") @Min(0) @Max(64) int atLeast) {
    return new MadePasscode(forms.passcode(atLeast), forms.phonePasscode());
  }

  /** From how many people on announcing each coming and going is said to disturb. */
  record AnnouncingView(@Min(2) @Max(1000) int people) {}

  @GetMapping("/announcing")
  @PreAuthorize("hasAnyRole('WARDEN', 'AUDITOR')")
  AnnouncingView announcing() {
    return new AnnouncingView(settings.announceMost());
  }

  @PutMapping("/announcing")
  @PreAuthorize("hasRole('WARDEN')")
  AnnouncingView setAnnouncing(
      @RequestBody @Valid AnnouncingView wanted, @AuthenticationPrincipal SignedIn who) {
    return new AnnouncingView(settings.setAnnounceMost(wanted.people(), who.email()));
  }

  /** A number that no meeting has. */
  @GetMapping("/number")
  @PreAuthorize("hasAnyRole('WARDEN', 'UNIT_WARDEN', 'HOST')")
  MadeText number() {
    return new MadeText(forms.number());
  }

  /**
   * Whose time is asked about.
   *
   * @param lists whose members may come
   * @param from a day, {@code 2027-01-11}
   * @param opens when work begins in each zone, {@code 09:00}; {@code closes} likewise
   * @param without a meeting whose own times do not count
   */
  record Asked(
      @NotNull @Size(max = 200) List<@NotNull @Size(max = 254) String> required,
      @NotNull @Size(max = 500) List<@NotNull @Size(max = 254) String> optional,
      @NotNull @Size(max = 20) List<@NotNull @Size(max = 64) String> lists,
      @NotNull @Size(max = 20) List<@NotNull @Size(max = 64) String> rooms,
      @NotNull @Pattern(regexp = "\\d{4}-\\d{2}-\\d{2}") String from,
      @Min(1) @Max(31) int days,
      @Min(1) @Max(44_640) int minutes,
      @NotNull @Size(max = 64) String zone,
      @NotNull @Pattern(regexp = "\\d{2}:\\d{2}") String opens,
      @NotNull @Pattern(regexp = "\\d{2}:\\d{2}") String closes,
      @Nullable @Size(max = 64) String without) {}

  /** Everybody's busy times; hosts see when, and what only of meetings they host. */
  @PostMapping("/availability")
  @PreAuthorize("hasAnyRole('WARDEN', 'UNIT_WARDEN', 'HOST')")
  AvailabilityService.Availability availability(
      @RequestBody @Valid Asked asked,
      @AuthenticationPrincipal(expression = SignedIn.AS_HOST) SignedIn who) {
    try {
      return availability.answer(
          new AvailabilityService.Question(
              asked.required(),
              asked.optional(),
              asked.lists(),
              asked.rooms(),
              LocalDate.parse(asked.from()),
              asked.days(),
              asked.minutes(),
              ZoneId.of(asked.zone()),
              LocalTime.parse(asked.opens()),
              LocalTime.parse(asked.closes()),
              asked.without()),
          who);
    } catch (DateTimeException e) {
      throw ProblemException.invalid(
          "A date, time or zone is wrong.", List.of(new Fault("", String.valueOf(e.getMessage()))));
    }
  }

  /**
   * A form whose letter is wanted.
   *
   * @param to the invitee who would get it; the first where null
   */
  record LetterWish(
      @NotNull @Size(max = 200) Map<String, @Nullable Object> meeting,
      @Nullable @Size(max = 64) String base,
      @Nullable @Size(max = 254) String to,
      @Nullable @Size(max = 2000) String word,
      @Nullable @Min(0) Long service) {}

  /** The invitation as somebody would read it. */
  @PostMapping("/letter")
  @PreAuthorize("hasAnyRole('WARDEN', 'UNIT_WARDEN', 'HOST')")
  ScheduleService.Letter letter(
      @RequestBody @Valid LetterWish draft,
      @AuthenticationPrincipal(expression = SignedIn.AS_HOST) SignedIn who) {
    return schedule.letter(
        json.valueToTree(draft.meeting()),
        base(draft.base(), who),
        draft.service(),
        draft.to(),
        Objects.requireNonNullElse(draft.word(), ""));
  }

  /** Feeds in what invitees answered: a calendar (RFC 5546 REPLY), or the mail that holds it. */
  @Takes(kilobytes = 2048, costly = true)
  @PostMapping(value = "/answers", consumes = MediaType.APPLICATION_OCTET_STREAM_VALUE)
  @PreAuthorize("hasRole('WARDEN')")
  @io.swagger.v3.oas.annotations.parameters.RequestBody(
      required = true,
      content =
          @Content(
              mediaType = MediaType.APPLICATION_OCTET_STREAM_VALUE,
              schema = @Schema(type = "string", format = "binary")))
  List<Answers.Fed> feed(HttpServletRequest request) throws IOException {
    byte[] bytes = request.getInputStream().readNBytes(MAX_ANSWER_BYTES + 1);
    if (bytes.length > MAX_ANSWER_BYTES) {
      throw ProblemException.tooLarge("An answer is at most 2 MiB.");
    }
    return answers.feed(new String(bytes, StandardCharsets.UTF_8));
  }
}
