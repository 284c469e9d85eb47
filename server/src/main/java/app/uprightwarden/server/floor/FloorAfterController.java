package app.uprightwarden.server.floor;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.InvalidValueException;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.problem.Fault;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.schema.Plain;
import jakarta.servlet.http.HttpServletResponse;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Pattern;
import jakarta.validation.constraints.Size;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.time.DateTimeException;
import java.time.ZoneId;
import java.util.List;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.security.access.prepost.PreAuthorize;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** What is kept of a session: attendance, incidents, and what it teaches. */
@RestController
@RequestMapping("/api/floor")
class FloorAfterController {
  private static final String XLSX =
      "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet";

  private final FloorService floor;
  private final FloorAfter after;
  private final FloorRecords records;

  FloorAfterController(FloorService floor, FloorAfter after, FloorRecords records) {
    this.floor = floor;
    this.after = after;
    this.records = records;
  }

  /** An incident to be written down. */
  record ToWrite(
      @NotBlank @Size(max = 300) String title, @NotNull @Size(max = 20_000) String note) {}

  /** A control that a draft of the rulebook should bind, and how loose it may then be. */
  record ToBind(@NotBlank @Size(max = 40) String control, @Plain @NotNull Object value) {}

  record DraftBegun(long id) {}

  /** Why a session is held. */
  record ToHold(@NotBlank @Size(max = 1000) String reason) {}

  /** Holds what is known of a session, whatever retention says. */
  @PostMapping("/sessions/{id}/hold")
  @PreAuthorize("hasRole('WARDEN')")
  FloorRecords.KeptUntil hold(
      @PathVariable String id,
      @RequestBody @Valid ToHold wanted,
      @AuthenticationPrincipal SignedIn who) {
    return records.hold(floor.get(id, who), wanted.reason(), who);
  }

  @DeleteMapping("/sessions/{id}/hold")
  @PreAuthorize("hasRole('WARDEN')")
  FloorRecords.KeptUntil release(@PathVariable String id, @AuthenticationPrincipal SignedIn who) {
    return records.release(floor.get(id, who), who);
  }

  @GetMapping("/sessions/{id}/after")
  @PreAuthorize("hasAnyRole('WARDEN', 'UNIT_WARDEN', 'AUDITOR', 'HOST')")
  FloorAfter.AfterPage after(@PathVariable String id, @AuthenticationPrincipal SignedIn who) {
    return after.page(floor.get(id, who));
  }

  /**
   * The attendance as a file.
   *
   * @param zone whose times the workbook shows
   */
  @GetMapping("/sessions/{id}/attendance")
  @PreAuthorize("hasAnyRole('WARDEN', 'UNIT_WARDEN', 'AUDITOR', 'HOST')")
  void attendance(
      @PathVariable String id,
      @RequestParam @Pattern(regexp = "csv|xlsx") String as,
      @RequestParam(defaultValue = "UTC") @Size(max = 60) String zone,
      @AuthenticationPrincipal SignedIn who,
      HttpServletResponse response)
      throws IOException {
    FloorSession session = floor.get(id, who);
    FloorAfter.Sheet sheet = after.sheet(session);
    ZoneId times = zone(zone);
    byte[] file;
    if (as.equals("csv")) {
      response.setContentType("text/csv;charset=UTF-8");
      file = FloorFiles.csv(sheet).getBytes(StandardCharsets.UTF_8);
    } else {
      response.setContentType(XLSX);
      ByteArrayOutputStream out = new ByteArrayOutputStream();
      FloorFiles.xlsx(sheet, session.title(), times, out);
      file = out.toByteArray();
    }
    response.setHeader(
        HttpHeaders.CONTENT_DISPOSITION, "attachment; filename=\"attendance." + as + "\"");
    response.getOutputStream().write(file);
  }

  private static ZoneId zone(String id) {
    try {
      return ZoneId.of(id);
    } catch (DateTimeException e) {
      throw ProblemException.invalid(
          "There is no time zone " + id + ".", List.of(new Fault("/zone", "no such time zone")));
    }
  }

  @PostMapping("/sessions/{id}/incidents")
  @ResponseStatus(HttpStatus.CREATED)
  @PreAuthorize("hasAnyRole('WARDEN', 'UNIT_WARDEN', 'HOST')")
  FloorAfter.Incident write(
      @PathVariable String id,
      @RequestBody @Valid ToWrite wanted,
      @AuthenticationPrincipal SignedIn who) {
    return after.write(floor.get(id, who), wanted.title(), wanted.note(), who);
  }

  /** An incident to read and pass on, as plain text. */
  @GetMapping(path = "/incidents/{id}/text")
  @PreAuthorize("hasAnyRole('WARDEN', 'UNIT_WARDEN', 'AUDITOR', 'HOST')")
  void incident(
      @PathVariable long id, @AuthenticationPrincipal SignedIn who, HttpServletResponse response)
      throws IOException {
    FloorAfter.Incident incident = after.incident(id);
    floor.get(incident.session(), who);
    response.setContentType("text/plain;charset=UTF-8");
    response.setHeader(
        HttpHeaders.CONTENT_DISPOSITION, "attachment; filename=\"incident-" + id + ".txt\"");
    response.getOutputStream().write(FloorFiles.text(incident).getBytes(StandardCharsets.UTF_8));
  }

  /** Begins a draft of the rulebook that would have prevented something. */
  @PostMapping("/sessions/{id}/draft")
  @ResponseStatus(HttpStatus.CREATED)
  @PreAuthorize("hasRole('WARDEN')")
  DraftBegun draft(
      @PathVariable String id,
      @RequestBody @Valid ToBind wanted,
      @AuthenticationPrincipal SignedIn who) {
    Control control = Control.byId(wanted.control());
    if (control == null) {
      throw ProblemException.invalid(
          "There is no such control.", List.of(new Fault("/control", "there is none")));
    }
    try {
      return new DraftBegun(
          after.draft(floor.get(id, who), control, control.parse(wanted.value()), who));
    } catch (InvalidValueException e) {
      throw ProblemException.invalid(
          control.title() + " has no such value.",
          List.of(new Fault("/value", String.valueOf(e.getMessage()))));
    }
  }
}
