package app.uprightwarden.server.exchange;

import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.passcode.PasscodeJudge;
import app.uprightwarden.core.rulebook.Rulebook;
import app.uprightwarden.server.judging.AssessService;
import app.uprightwarden.server.judging.AssessService.Assessment;
import app.uprightwarden.server.judging.Judging;
import app.uprightwarden.server.limits.Takes;
import app.uprightwarden.server.people.Organisation;
import app.uprightwarden.server.people.OrganisationService;
import app.uprightwarden.server.problem.Fault;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.register.Scheduled;
import app.uprightwarden.server.schema.StrictJson;
import io.swagger.v3.oas.annotations.media.Content;
import io.swagger.v3.oas.annotations.media.Schema;
import io.swagger.v3.oas.annotations.parameters.RequestBody;
import jakarta.servlet.http.HttpServletRequest;
import java.io.IOException;
import java.time.Clock;
import java.time.DateTimeException;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.OffsetDateTime;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.http.MediaType;
import org.springframework.security.access.prepost.PreAuthorize;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.databind.JsonNode;

/** Judging a bundle without storing anything, for everybody signed in. */
@RestController
class AssessController {
  private static final Duration DEFAULT_WINDOW = Duration.ofDays(90);
  private static final Duration LONGEST_WINDOW = Duration.ofDays(3660);

  private final BundleReader reader;
  private final AssessService assess;
  private final StrictJson strict;
  private final Clock clock;

  AssessController(BundleReader reader, AssessService assess, StrictJson strict, Clock clock) {
    this.reader = reader;
    this.assess = assess;
    this.strict = strict;
    this.clock = clock;
  }

  /** One assessment a meeting, in the bundle's order. */
  record Assessments(List<Assessment> meetings) {}

  /**
   * Judges a bundle.
   *
   * @param fields parts wanted, apart by commas; all where left out
   * @param from start of the window, a date or a time with offset; now where left out
   * @param to end of the window; 90 days after its start where left out
   */
  @Takes(kilobytes = 2048, costly = true)
  @PostMapping(path = "/api/assess", consumes = MediaType.APPLICATION_JSON_VALUE)
  @PreAuthorize("isAuthenticated()")
  @RequestBody(required = true, content = @Content(schema = @Schema(type = "object")))
  Assessments assess(
      @RequestParam(required = false) @Nullable String fields,
      @RequestParam(required = false) @Nullable String from,
      @RequestParam(required = false) @Nullable String to,
      HttpServletRequest request)
      throws IOException {
    Set<String> wanted = fields(fields);
    Instant start = from == null ? clock.instant() : instant(from, "from");
    Instant end = to == null ? start.plus(DEFAULT_WINDOW) : instant(to, "to");
    if (!end.isAfter(start) || Duration.between(start, end).compareTo(LONGEST_WINDOW) > 0) {
      throw ProblemException.invalid(
          "The window ends after it begins, and lasts ten years at most.",
          List.of(new Fault("", "to must be after from")));
    }
    JsonNode document = strict.read(request.getInputStream());
    List<Fault> faults = new ArrayList<>();
    Bundle bundle =
        reader.read(
            document,
            Organisation.EMPTY,
            (passcode, title, description, host) ->
                PasscodeJudge.judge(passcode, title, description, host, passcode),
            faults);
    if (!faults.isEmpty()) {
      throw ProblemException.invalid("The bundle has faults.", faults);
    }
    Organisation organisation =
        Objects.requireNonNullElse(bundle.organisation(), Organisation.EMPTY);
    Rulebook rulebook = Objects.requireNonNullElse(bundle.rulebook(), Rulebook.EMPTY);
    List<Meeting> meetings = bundle.meetings().stream().map(Scheduled::meeting).toList();
    try {
      return new Assessments(
          assess.assess(
              meetings,
              Judging.builder(
                  organisation,
                  OrganisationService.directory(
                      organisation, Objects.requireNonNullElse(bundle.people(), List.of())),
                  rulebook),
              start,
              end,
              wanted));
    } catch (IllegalArgumentException e) {
      throw ProblemException.invalid(
          "A recurrence cannot be expanded.",
          List.of(new Fault("/meetings", String.valueOf(e.getMessage()))));
    }
  }

  private static Set<String> fields(@Nullable String fields) {
    if (fields == null || fields.isBlank()) {
      return AssessService.FIELDS;
    }
    Set<String> wanted = new LinkedHashSet<>();
    for (String field : fields.split(",", -1)) {
      if (!AssessService.FIELDS.contains(field.strip())) {
        throw ProblemException.invalid(
            "fields takes " + String.join(", ", AssessService.FIELDS.stream().sorted().toList()),
            List.of(new Fault("", "there is no field \"" + field.strip() + "\"")));
      }
      wanted.add(field.strip());
    }
    return wanted;
  }

  static Instant instant(String text, String what) {
    try {
      return text.contains("T")
          ? OffsetDateTime.parse(text).toInstant()
          : LocalDate.parse(text).atStartOfDay(ZoneOffset.UTC).toInstant();
    } catch (DateTimeException e) {
      throw ProblemException.invalid(
          what + " must be a date such as 2027-01-31, or a time such as 2027-01-31T09:00:00Z.",
          List.of(new Fault("", "\"" + text + "\" is neither")));
    }
  }
}
