package app.uprightwarden.server.scim;

import app.uprightwarden.server.limits.Takes;
import app.uprightwarden.server.problem.ProblemException;
import com.fasterxml.jackson.databind.node.ObjectNode;
import com.unboundid.scim2.common.exceptions.BadRequestException;
import com.unboundid.scim2.common.exceptions.ResourceNotFoundException;
import com.unboundid.scim2.common.exceptions.ScimException;
import io.swagger.v3.oas.annotations.Hidden;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.dao.DataIntegrityViolationException;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.security.access.prepost.PreAuthorize;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.ExceptionHandler;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PatchMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** SCIM 2.0 (RFC 7644) for a directory that keeps people and lists up to date here. */
@Hidden
@RestController
@RequestMapping(ScimIds.BASE)
class ScimController {
  private static final Logger LOG = LoggerFactory.getLogger(ScimController.class);
  private static final MediaType SCIM = MediaType.parseMediaType("application/scim+json");
  private static final String COUNT = "100";
  private static final int MAX_KB = 2048;

  private final ScimUsers users;
  private final ScimGroups groups;
  private final ScimBulk bulk;
  private final ScimDiscovery discovery;

  ScimController(ScimUsers users, ScimGroups groups, ScimBulk bulk, ScimDiscovery discovery) {
    this.users = users;
    this.groups = groups;
    this.bulk = bulk;
    this.discovery = discovery;
  }

  private ScimResources of(String type) throws ScimException {
    return switch (type) {
      case "Users" -> users;
      case "Groups" -> groups;
      default -> throw new ResourceNotFoundException("There are no " + type + " here.");
    };
  }

  private static ResponseEntity<byte[]> answer(HttpStatus status, ObjectNode document) {
    return ResponseEntity.status(status)
        .contentType(SCIM)
        .body(ScimJson.write(document).getBytes(StandardCharsets.UTF_8));
  }

  private static ResponseEntity<byte[]> resource(
      HttpStatus status,
      ObjectNode resource,
      @Nullable String attributes,
      @Nullable String excluded) {
    return ResponseEntity.status(status)
        .contentType(SCIM)
        .header(HttpHeaders.ETAG, resource.path("meta").path("version").textValue())
        .header(HttpHeaders.LOCATION, resource.path("meta").path("location").textValue())
        .body(
            ScimJson.write(ScimJson.only(resource, attributes, excluded))
                .getBytes(StandardCharsets.UTF_8));
  }

  @GetMapping("/ServiceProviderConfig")
  @PreAuthorize("hasRole('DIRECTORY')")
  ResponseEntity<byte[]> config() {
    return answer(HttpStatus.OK, discovery.config());
  }

  @GetMapping({"/Schemas", "/ResourceTypes"})
  @PreAuthorize("hasRole('DIRECTORY')")
  ResponseEntity<byte[]> discovered(jakarta.servlet.http.HttpServletRequest request) {
    boolean isSchemas = request.getRequestURI().endsWith("/Schemas");
    return answer(HttpStatus.OK, discovery.list(isSchemas ? "schemas" : "types"));
  }

  @GetMapping("/Schemas/{id}")
  @PreAuthorize("hasRole('DIRECTORY')")
  ResponseEntity<byte[]> schema(@PathVariable String id) throws ScimException {
    return answer(HttpStatus.OK, discovery.one("schemas", id));
  }

  @GetMapping("/ResourceTypes/{id}")
  @PreAuthorize("hasRole('DIRECTORY')")
  ResponseEntity<byte[]> type(@PathVariable String id) throws ScimException {
    return answer(HttpStatus.OK, discovery.one("types", id));
  }

  @GetMapping("/{type:Users|Groups}")
  @PreAuthorize("hasRole('DIRECTORY')")
  ResponseEntity<byte[]> list(
      @PathVariable String type,
      @RequestParam(required = false) @Nullable String filter,
      @RequestParam(defaultValue = "1") int startIndex,
      @RequestParam(defaultValue = COUNT) int count,
      @RequestParam(required = false) @Nullable String attributes,
      @RequestParam(required = false) @Nullable String excludedAttributes)
      throws ScimException {
    ObjectNode list = of(type).list(new ScimResources.Query(filter, startIndex, count));
    return answer(HttpStatus.OK, some(list, attributes, excludedAttributes));
  }

  private static ObjectNode some(
      ObjectNode list, @Nullable String attributes, @Nullable String excluded) {
    List<ObjectNode> page = new ArrayList<>();
    list.path("Resources")
        .forEach(each -> page.add(ScimJson.only((ObjectNode) each, attributes, excluded)));
    return ScimJson.list(
        list.path("totalResults").intValue(), list.path("startIndex").intValue(), page);
  }

  /** The same question in a body, so that what it asks for stands in no log (section 3.4.3). */
  @PostMapping("/{type:Users|Groups}/.search")
  @PreAuthorize("hasRole('DIRECTORY')")
  ResponseEntity<byte[]> search(@PathVariable String type, @RequestBody byte[] body)
      throws ScimException {
    ObjectNode asked = ScimJson.read(body);
    ScimIds.checkSchema(asked, "urn:ietf:params:scim:api:messages:2.0:SearchRequest");
    String filter = ScimJson.text(asked, "filter");
    ObjectNode list =
        of(type)
            .list(
                new ScimResources.Query(
                    filter.isEmpty() ? null : filter,
                    asked.path("startIndex").asInt(1),
                    asked.path("count").asInt(Integer.parseInt(COUNT))));
    return answer(
        HttpStatus.OK,
        some(list, joined(asked, "attributes"), joined(asked, "excludedAttributes")));
  }

  private static @Nullable String joined(ObjectNode asked, String name) {
    List<String> names = new ArrayList<>();
    asked.path(name).forEach(each -> names.add(each.asText()));
    return names.isEmpty() ? null : String.join(",", names);
  }

  @Takes(kilobytes = MAX_KB)
  @PostMapping("/{type:Users|Groups}")
  @PreAuthorize("hasRole('DIRECTORY')")
  ResponseEntity<byte[]> create(@PathVariable String type, @RequestBody byte[] body)
      throws ScimException {
    return resource(HttpStatus.CREATED, of(type).create(ScimJson.read(body)), null, null);
  }

  @GetMapping("/{type:Users|Groups}/{id}")
  @PreAuthorize("hasRole('DIRECTORY')")
  ResponseEntity<byte[]> get(
      @PathVariable String type,
      @PathVariable String id,
      @RequestParam(required = false) @Nullable String attributes,
      @RequestParam(required = false) @Nullable String excludedAttributes,
      @RequestHeader(name = HttpHeaders.IF_NONE_MATCH, required = false) @Nullable String known)
      throws ScimException {
    ObjectNode resource = of(type).get(id);
    String version = resource.path("meta").path("version").textValue();
    if (known != null && known.contains(version.replaceFirst("^W/", ""))) {
      return ResponseEntity.status(HttpStatus.NOT_MODIFIED).eTag(version).build();
    }
    return resource(HttpStatus.OK, resource, attributes, excludedAttributes);
  }

  @Takes(kilobytes = MAX_KB)
  @PutMapping("/{type:Users|Groups}/{id}")
  @PreAuthorize("hasRole('DIRECTORY')")
  ResponseEntity<byte[]> replace(
      @PathVariable String type,
      @PathVariable String id,
      @RequestBody byte[] body,
      @RequestHeader(name = HttpHeaders.IF_MATCH, required = false) @Nullable String match)
      throws ScimException {
    return resource(HttpStatus.OK, of(type).replace(id, ScimJson.read(body), match), null, null);
  }

  @Takes(kilobytes = MAX_KB)
  @PatchMapping("/{type:Users|Groups}/{id}")
  @PreAuthorize("hasRole('DIRECTORY')")
  ResponseEntity<byte[]> patch(
      @PathVariable String type,
      @PathVariable String id,
      @RequestBody byte[] body,
      @RequestParam(required = false) @Nullable String attributes,
      @RequestParam(required = false) @Nullable String excludedAttributes,
      @RequestHeader(name = HttpHeaders.IF_MATCH, required = false) @Nullable String match)
      throws ScimException {
    ObjectNode resource = of(type).patch(id, ScimJson.read(body), match);
    return resource(HttpStatus.OK, resource, attributes, excludedAttributes);
  }

  @DeleteMapping("/{type:Users|Groups}/{id}")
  @PreAuthorize("hasRole('DIRECTORY')")
  ResponseEntity<Void> delete(
      @PathVariable String type,
      @PathVariable String id,
      @RequestHeader(name = HttpHeaders.IF_MATCH, required = false) @Nullable String match)
      throws ScimException {
    of(type).delete(id, match);
    return ResponseEntity.noContent().build();
  }

  @Takes(kilobytes = MAX_KB, costly = true)
  @PostMapping("/Bulk")
  @PreAuthorize("hasRole('DIRECTORY')")
  ResponseEntity<byte[]> bulk(@RequestBody byte[] body) throws ScimException {
    return answer(HttpStatus.OK, bulk.run(ScimJson.read(body)));
  }

  @ExceptionHandler
  ResponseEntity<byte[]> refused(ScimException e) {
    var error = e.getScimError();
    HttpStatus status = HttpStatus.valueOf(error.getStatus());
    return answer(
        status, ScimJson.error(error.getStatus(), error.getScimType(), error.getDetail()));
  }

  @ExceptionHandler
  ResponseEntity<byte[]> refused(ProblemException e) {
    return answer(e.status(), ScimJson.error(e.status().value(), null, e.getMessage()));
  }

  /** Two made the same thing at the same moment. */
  @ExceptionHandler
  ResponseEntity<byte[]> refused(DataIntegrityViolationException e) {
    LOG.debug("refused by the database", e);
    return answer(
        HttpStatus.CONFLICT,
        ScimJson.error(409, "uniqueness", "It was made at the same moment: read it again."));
  }

  /** A number that is none, in the address. */
  @ExceptionHandler
  ResponseEntity<byte[]> refused(
      org.springframework.web.method.annotation.MethodArgumentTypeMismatchException e) {
    return refused(
        BadRequestException.invalidValue(
            e.getName().toLowerCase(Locale.ROOT) + " has a value that cannot be read."));
  }
}
