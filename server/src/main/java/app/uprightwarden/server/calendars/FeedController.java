package app.uprightwarden.server.calendars;

import app.uprightwarden.server.access.AccessHash;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.problem.ProblemException;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.util.List;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import org.springframework.http.CacheControl;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.security.access.prepost.PreAuthorize;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Calendars to subscribe to. Calendar programs do not sign in: their address is the key. */
@RestController
class FeedController {
  private static final Pattern STAMP = Pattern.compile("(?m)^DTSTAMP:.*$");

  private final FeedService feeds;

  FeedController(FeedService feeds) {
    this.feeds = feeds;
  }

  /** A feed to make. */
  record FeedWish(
      @NotBlank @Size(max = 200) String name,
      @Nullable @Size(max = 254) String person,
      @Nullable @Size(max = 64) String unit,
      @Nullable @Size(max = 64) String kind) {}

  @PostMapping("/api/feeds")
  @PreAuthorize("hasAnyRole('WARDEN', 'UNIT_WARDEN', 'AUDITOR', 'HOST')")
  FeedService.MadeFeed make(
      @RequestBody @Valid @NotNull FeedWish wish,
      @AuthenticationPrincipal(expression = SignedIn.AS_HOST) SignedIn who) {
    return feeds.make(
        wish.name(), new FeedService.FeedScope(wish.person(), wish.unit(), wish.kind()), who);
  }

  @GetMapping("/api/feeds")
  @PreAuthorize("hasAnyRole('WARDEN', 'UNIT_WARDEN', 'AUDITOR', 'HOST')")
  List<FeedService.Feed> list(
      @AuthenticationPrincipal(expression = SignedIn.AS_HOST) SignedIn who) {
    return feeds.list(who);
  }

  @DeleteMapping("/api/feeds/{id}")
  @PreAuthorize("hasAnyRole('WARDEN', 'UNIT_WARDEN', 'AUDITOR', 'HOST')")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void end(
      @PathVariable long id, @AuthenticationPrincipal(expression = SignedIn.AS_HOST) SignedIn who) {
    feeds.end(id, who);
  }

  @GetMapping(value = "/feeds/{token:[A-Za-z0-9_-]{32}}.ics", produces = "text/calendar")
  @PreAuthorize("permitAll()")
  ResponseEntity<String> calendar(@PathVariable String token) {
    String text =
        feeds
            .calendar(token)
            .orElseThrow(
                () -> ProblemException.notFound("There is no such feed, or it was ended."));
    return ResponseEntity.ok()
        .contentType(MediaType.parseMediaType("text/calendar;charset=UTF-8"))
        .cacheControl(CacheControl.noCache().cachePrivate())
        .eTag(tag(text))
        .body(text);
  }

  /**
   * Says whether a calendar is as it was, but for the time at which it was written (DTSTAMP, RFC
   * 5545, section 3.8.7.2): so it is a weak one (RFC 9110, section 8.8.1).
   */
  private static String tag(String text) {
    return "W/\"" + AccessHash.sha256(STAMP.matcher(text).replaceAll("")) + "\"";
  }
}
