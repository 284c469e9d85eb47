package app.uprightwarden.server.exchange;

import app.uprightwarden.server.access.Role;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.limits.Takes;
import app.uprightwarden.server.schema.BundleSchema;
import app.uprightwarden.server.schema.StrictJson;
import io.swagger.v3.oas.annotations.media.Content;
import io.swagger.v3.oas.annotations.media.Schema;
import io.swagger.v3.oas.annotations.parameters.RequestBody;
import jakarta.servlet.http.HttpServletRequest;
import java.io.IOException;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.http.MediaType;
import org.springframework.security.access.prepost.PreAuthorize;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.databind.JsonNode;

/** Bundles: in for wardens; out for wardens and, without passcodes, auditors. */
@RestController
@RequestMapping("/api/exchange/bundle")
class ExchangeController {
  private final ExchangeService exchange;
  private final StrictJson strict;
  private final BundleSchema schema;

  ExchangeController(ExchangeService exchange, StrictJson strict, BundleSchema schema) {
    this.exchange = exchange;
    this.strict = strict;
    this.schema = schema;
  }

  @GetMapping
  @PreAuthorize("hasAnyRole('WARDEN', 'AUDITOR')")
  Map<String, @Nullable Object> export(
      @RequestParam(defaultValue = "true") boolean passcodes,
      @AuthenticationPrincipal SignedIn who) {
    return exchange.export(passcodes && who.role() == Role.WARDEN);
  }

  @Takes(kilobytes = 32 * 1024, costly = true)
  @PostMapping(consumes = MediaType.APPLICATION_JSON_VALUE)
  @PreAuthorize("hasRole('WARDEN')")
  @RequestBody(required = true, content = @Content(schema = @Schema(type = "object")))
  ImportReport take(
      @RequestParam(defaultValue = "false") boolean dryRun,
      @AuthenticationPrincipal SignedIn who,
      HttpServletRequest request)
      throws IOException {
    return exchange.take(
        strict.read(request.getInputStream()),
        new ImportJob(dryRun, who.email(), "bundle.json", ImportJob.UNHEARD));
  }

  @GetMapping("/schema")
  @PreAuthorize("isAuthenticated()")
  JsonNode schema() {
    return schema.document();
  }
}
