package app.uprightwarden.server.sources;

import app.uprightwarden.server.access.Role;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.problem.Fault;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.register.RegisterService;
import com.fasterxml.jackson.annotation.JsonProperty;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Email;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Pattern;
import jakarta.validation.constraints.Size;
import java.net.URI;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.access.prepost.PreAuthorize;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Calendars that are read where they are kept. */
@RestController
class SourcesController {
  private final Sources sources;
  private final SourceWork work;
  private final RegisterService register;

  SourcesController(Sources sources, SourceWork work, RegisterService register) {
    this.sources = sources;
    this.work = work;
    this.register = register;
  }

  /** Where a calendar is, and by which account it may be read. */
  record SourceAddress(
      @NotBlank @Size(max = 500) String address,
      @Nullable @Size(max = 120) String account,
      @Nullable @Size(max = 400) String secret) {}

  /** A calendar that may be read. */
  record SourceFound(String name, String address) {}

  /**
   * What is at an address.
   *
   * @param kind {@code icalendar} for one calendar, {@code caldav} for those listed
   * @param events how many there are, where it is one calendar
   */
  record SourceTried(String kind, String address, List<SourceFound> calendars, int events) {}

  /**
   * A calendar to be read from now on.
   *
   * @param address often holds a secret of its own, and is written down nowhere but with the
   *     calendar
   */
  record SourceWanted(
      @NotBlank @Size(max = 60) String name,
      @NotNull @Pattern(regexp = "icalendar|caldav") String kind,
      @NotNull @Pattern(regexp = "meetings|busy") String purpose,
      @JsonProperty(access = JsonProperty.Access.WRITE_ONLY) @NotBlank @Size(max = 500)
          String address,
      @Nullable @Size(max = 120) String account,
      @Nullable @Size(max = 400) String secret,
      @NotBlank @Email @Size(max = 254) String person,
      @NotBlank @Size(max = 64) String zone,
      @Min(1) @Max(10080) int minutes) {}

  /**
   * What may be changed of one. From the name to the minutes all is said together; where the name
   * is left out, all of that stays.
   *
   * @param account null for none
   * @param secret null where it stays
   * @param paused null where it is as it is by then
   * @param seen what was said of it when it was looked at; left out, nobody asks whether somebody
   *     has changed it since
   */
  record SourceSettings(
      @Nullable @Pattern(regexp = "(?s).*\\S.*") @Size(max = 60) String name,
      @Nullable @Size(max = 120) String account,
      @Nullable @Size(max = 400) String secret,
      @Nullable @Email @Size(max = 254) String person,
      @Nullable @Size(max = 64) String zone,
      @Nullable @Min(1) @Max(10080) Integer minutes,
      @Nullable Boolean paused,
      @Nullable @Valid SourceSeen seen) {
    Sources.@Nullable Wanted wanted() {
      if (name == null) {
        return null;
      }
      if (person == null || person.isBlank() || zone == null || minutes == null) {
        String at =
            person == null || person.isBlank() ? "/person" : zone == null ? "/zone" : "/minutes";
        throw ProblemException.invalid(
            "What is said of a calendar is said together with its name.",
            List.of(new Fault(at, "is missing")));
      }
      return new Sources.Wanted(
          name.strip(), "", "", "", given(account), given(secret), person.strip(), zone, minutes);
    }
  }

  /** What was said of one when it was looked at. */
  record SourceSeen(
      @NotNull @Size(max = 60) String name,
      @Nullable @Size(max = 120) String account,
      @NotNull @Size(max = 254) String person,
      @NotNull @Size(max = 64) String zone,
      int minutes) {
    Sources.Said said() {
      return new Sources.Said(name, account, person, zone, minutes);
    }
  }

  /** Which calendar a meeting is in; both null where in none. */
  record MeetingSource(@Nullable String name, @Nullable Instant readAt) {}

  @GetMapping("/api/calendars")
  @PreAuthorize("hasAnyRole('WARDEN', 'AUDITOR')")
  List<Sources.ReadSource> all(@AuthenticationPrincipal SignedIn who) {
    return sources.all(who.role() == Role.WARDEN);
  }

  /** Looks what is at an address, and stores nothing. */
  @PostMapping("/api/calendars/attempt")
  @PreAuthorize("hasRole('WARDEN')")
  SourceTried attempt(@RequestBody @Valid SourceAddress where) {
    String address = address(where.address());
    sources.checkAddress(address);
    SourceWork.Tried tried =
        work.attempt(URI.create(address), account(where.account(), where.secret()));
    return new SourceTried(
        tried.kind(),
        address,
        tried.calendars().stream()
            .map(each -> new SourceFound(each.name(), each.address().toString()))
            .toList(),
        tried.events());
  }

  @PostMapping("/api/calendars")
  @PreAuthorize("hasRole('WARDEN')")
  @ResponseStatus(HttpStatus.CREATED)
  List<Sources.ReadSource> add(
      @RequestBody @Valid SourceWanted wanted, @AuthenticationPrincipal SignedIn who) {
    sources.add(
        new Sources.Wanted(
            wanted.name().strip(),
            wanted.kind(),
            wanted.purpose(),
            address(wanted.address()),
            given(wanted.account()),
            given(wanted.secret()),
            wanted.person().strip(),
            wanted.zone(),
            wanted.minutes()),
        who.email());
    return sources.all(true);
  }

  @PutMapping("/api/calendars/{id}")
  @PreAuthorize("hasRole('WARDEN')")
  List<Sources.ReadSource> set(
      @PathVariable long id,
      @RequestBody @Valid SourceSettings wanted,
      @AuthenticationPrincipal SignedIn who) {
    SourceSeen seen = wanted.seen();
    sources.set(
        id, wanted.wanted(), seen == null ? null : seen.said(), wanted.paused(), who.email());
    return sources.all(true);
  }

  /** Reads one at once. */
  @PostMapping("/api/calendars/{id}/reading")
  @PreAuthorize("hasRole('WARDEN')")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void readNow(@PathVariable long id) {
    sources.readNow(id);
  }

  /**
   * Agrees that what is gone there is cancelled here.
   *
   * @param gone of how many it was said that they wait for it; where more do by now, it is void.
   *     Left out, nobody asks that
   */
  @PostMapping("/api/calendars/{id}/gone")
  @PreAuthorize("hasRole('WARDEN')")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void agreeGone(
      @PathVariable long id, @RequestParam(required = false) @Nullable @Min(0) Integer gone) {
    sources.agreeGone(id, gone);
  }

  @DeleteMapping("/api/calendars/{id}")
  @PreAuthorize("hasRole('WARDEN')")
  List<Sources.ReadSource> remove(@PathVariable long id, @AuthenticationPrincipal SignedIn who) {
    sources.remove(id, who.email());
    return sources.all(true);
  }

  /** Which calendar has brought a meeting. */
  @GetMapping("/api/meetings/{id}/calendar")
  @PreAuthorize("hasAnyRole('WARDEN', 'UNIT_WARDEN', 'AUDITOR', 'HOST')")
  MeetingSource of(@PathVariable String id, @AuthenticationPrincipal SignedIn who) {
    register.get(id, who);
    return sources
        .of(id)
        .map(source -> new MeetingSource(source.name(), source.readAt()))
        .orElse(new MeetingSource(null, null));
  }

  private static SourceHttp.@Nullable Account account(
      @Nullable String name, @Nullable String secret) {
    String of = given(name);
    return of == null ? null : new SourceHttp.Account(of, secret == null ? "" : secret);
  }

  private static @Nullable String given(@Nullable String text) {
    return text == null || text.isBlank() ? null : text.strip();
  }

  /** What calendar programs write as webcal:// is fetched by https. */
  private static String address(String text) {
    return text.strip().replaceFirst("(?i)^webcals?://", "https://");
  }
}
