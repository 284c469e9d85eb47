package app.uprightwarden.server.exchange;

import app.uprightwarden.server.access.Role;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.limits.Takes;
import app.uprightwarden.server.problem.Fault;
import app.uprightwarden.server.problem.ProblemException;
import io.swagger.v3.oas.annotations.media.Content;
import io.swagger.v3.oas.annotations.media.Schema;
import io.swagger.v3.oas.annotations.parameters.RequestBody;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.Pattern;
import jakarta.validation.constraints.Size;
import java.io.IOException;
import java.time.DateTimeException;
import java.time.ZoneId;
import java.util.List;
import java.util.Objects;
import org.springframework.http.HttpHeaders;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.security.access.prepost.PreAuthorize;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.validation.annotation.Validated;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Files in and out, and the imports that were taken. */
@RestController
@RequestMapping("/api/exchange")
@Validated
class FilesController {
  private static final String NAME = "[A-Za-z0-9-]{1,64}";

  private final FileExchange files;
  private final ImportBatches batches;
  private final ImportJobs jobs;
  private final ImportProgress progress;

  FilesController(
      FileExchange files, ImportBatches batches, ImportJobs jobs, ImportProgress progress) {
    this.files = files;
    this.batches = batches;
    this.jobs = jobs;
    this.progress = progress;
  }

  /**
   * Takes a file in: a bundle, a calendar, a table, SCIM or LDIF; which, its first lines say.
   *
   * @param zone of calendar times that have none
   * @param host of calendar events without an organiser; the one who imports where left out
   * @param progress a name of the caller's choice to ask by how far it is
   */
  @Takes(kilobytes = 32 * 1024, costly = true)
  @PostMapping(value = "/files", consumes = MediaType.APPLICATION_OCTET_STREAM_VALUE)
  @PreAuthorize("hasRole('WARDEN')")
  @RequestBody(
      required = true,
      content =
          @Content(
              mediaType = MediaType.APPLICATION_OCTET_STREAM_VALUE,
              schema = @Schema(type = "string", format = "binary")))
  ImportReport take(
      @RequestParam @NotBlank @Size(max = 200) String name,
      @RequestParam(defaultValue = "true") boolean dryRun,
      @RequestParam(defaultValue = "UTC") String zone,
      @RequestParam(defaultValue = "") String host,
      @RequestParam(defaultValue = "none") @Pattern(regexp = NAME) String progress,
      @AuthenticationPrincipal SignedIn who,
      HttpServletRequest request)
      throws IOException {
    ZoneId of = zone(zone);
    String text = FileText.read(request.getInputStream());
    String byDefault = host.isBlank() ? who.email() : host.strip();
    if (!dryRun) {
      return jobs.take(new ImportJobs.Given(name, text, of, byDefault, who.email()), progress);
    }
    try {
      ImportJob job = new ImportJob(true, who.email(), name, this.progress.listener(progress));
      return files.take(text, job, of, byDefault);
    } finally {
      this.progress.over(progress);
    }
  }

  private static ZoneId zone(String name) {
    try {
      return ZoneId.of(name);
    } catch (DateTimeException e) {
      throw ProblemException.invalid(
          "That is no time zone.", List.of(new Fault("/zone", "use a name such as Europe/Dublin")));
    }
  }

  /** How far an import is; rows done and all rows, both 0 while the file is read or unknown. */
  @GetMapping("/progress/{name}")
  @PreAuthorize("hasRole('WARDEN')")
  ImportProgress.ImportState progress(@PathVariable @Pattern(regexp = NAME) String name) {
    return jobs.far(name)
        .map(far -> new ImportProgress.ImportState(far.done(), far.total()))
        .orElseGet(
            () ->
                Objects.requireNonNullElse(
                    progress.of(name), new ImportProgress.ImportState(0, 0)));
  }

  @GetMapping("/imports")
  @PreAuthorize("hasAnyRole('WARDEN', 'AUDITOR')")
  List<ImportBatches.ImportBatch> imports() {
    return batches.list();
  }

  /**
   * Takes an import back as a whole.
   *
   * @param force leaves what was changed since as it is now, instead of refusing
   * @param progress a name of the caller's choice to ask by how far it is
   */
  @PostMapping("/imports/{id}/take-back")
  @PreAuthorize("hasRole('WARDEN')")
  ImportBatches.TakenBack takeBack(
      @PathVariable long id,
      @RequestParam(defaultValue = "false") boolean force,
      @RequestParam(defaultValue = "none") @Pattern(regexp = NAME) String progress,
      @AuthenticationPrincipal SignedIn who) {
    return jobs.takeBack(id, force, who.email(), progress);
  }

  /**
   * Meetings as a calendar with everything that is known of them.
   *
   * @param id which ones; all where left out
   */
  @GetMapping(value = "/calendar", produces = "text/calendar")
  @PreAuthorize("hasAnyRole('WARDEN', 'AUDITOR')")
  ResponseEntity<String> calendar(
      @RequestParam(defaultValue = "") List<String> id,
      @RequestParam(defaultValue = "false") boolean passcodes,
      @AuthenticationPrincipal SignedIn who) {
    return file(
        "text/calendar;charset=UTF-8",
        "meetings.ics",
        files.calendar(id, passcodes && who.role() == Role.WARDEN));
  }

  /** Meetings, people or lists as a table. */
  @GetMapping(value = "/table", produces = "text/csv")
  @PreAuthorize("hasAnyRole('WARDEN', 'AUDITOR')")
  ResponseEntity<String> table(
      @RequestParam(defaultValue = "meetings") @Pattern(regexp = "meetings|people|lists") String of,
      @RequestParam(defaultValue = "") List<String> id,
      @RequestParam(defaultValue = "false") boolean passcodes,
      @AuthenticationPrincipal SignedIn who) {
    String text =
        switch (of) {
          case "people" -> files.peopleTable();
          case "lists" -> files.listTable();
          default -> files.meetingTable(id, passcodes && who.role() == Role.WARDEN);
        };
    return file("text/csv;charset=UTF-8", of + ".csv", text);
  }

  private static ResponseEntity<String> file(String type, String name, String text) {
    return ResponseEntity.ok()
        .contentType(MediaType.parseMediaType(type))
        .header(HttpHeaders.CONTENT_DISPOSITION, "attachment; filename=\"" + name + "\"")
        .header(HttpHeaders.CACHE_CONTROL, "no-store")
        .body(text);
  }
}
