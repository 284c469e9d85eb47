package app.uprightwarden.server.scim;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import com.fasterxml.jackson.databind.node.ValueNode;
import com.unboundid.scim2.common.exceptions.BadRequestException;
import com.unboundid.scim2.common.exceptions.PreconditionFailedException;
import com.unboundid.scim2.common.exceptions.ScimException;
import com.unboundid.scim2.common.filters.Filter;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.UUID;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/** What Users and Groups have in common. */
final class ScimIds {
  private static final int MAX_FILTER = 2_000;
  private static final Pattern CORE =
      Pattern.compile(
          "(?i)(?<![^\\s(\\[])urn:ietf:params:scim:schemas:core:2\\.0:(User|Group):(?=[a-z])");

  /** Where the service stands, seen from the server's own address. */
  static final String BASE = "/scim/v2";

  private ScimIds() {}

  /** The id of what has no record: always the same for the same thing. */
  static String of(String sort, String target) {
    return UUID.nameUUIDFromBytes((sort + ":" + target).getBytes(StandardCharsets.UTF_8))
        .toString();
  }

  /**
   * A filter (RFC 7644 section 3.4.2.2); null where none is given.
   *
   * @throws BadRequestException {@code invalidFilter} where it cannot be read
   */
  static @Nullable Filter filter(@Nullable String text) throws BadRequestException {
    if (text == null || text.isBlank()) {
      return null;
    }
    if (text.length() > MAX_FILTER) {
      throw BadRequestException.invalidFilter(
          "A filter has at most " + MAX_FILTER + " characters.");
    }
    return Filter.fromString(plain(text));
  }

  /**
   * A name may stand with its core schema before it (RFC 7644 section 3.10), and means the same.
   */
  static String plain(String path) {
    return CORE.matcher(path).replaceAll("");
  }

  /** The text that a filter compares with, or null where it compares with none. */
  static @Nullable String equalTo(Filter filter) {
    ValueNode value = filter.isComparisonFilter() ? filter.getComparisonValue() : null;
    return value != null && value.isTextual() ? value.textValue() : null;
  }

  /** A document names what it is (RFC 7643 section 3). */
  static void checkSchema(JsonNode given, String schema) throws BadRequestException {
    for (JsonNode each : given.path("schemas")) {
      if (each.isTextual() && each.textValue().equalsIgnoreCase(schema)) {
        return;
      }
    }
    throw BadRequestException.invalidValue("Its schemas name " + schema + ".");
  }

  /**
   * Held against what somebody saw last (RFC 7644 section 3.14).
   *
   * @throws PreconditionFailedException where it is another version
   */
  static void checkVersion(ObjectNode now, @Nullable String match) throws ScimException {
    if (match == null || match.isBlank() || match.strip().equals("*")) {
      return;
    }
    String version = now.path("meta").path("version").textValue();
    for (String each : match.split(",")) {
      // a weak tag and a strong one of the same text are the same here (section 3.14)
      if (each.strip().replaceFirst("^W/", "").equals(version.replaceFirst("^W/", ""))) {
        return;
      }
    }
    throw new PreconditionFailedException("It has changed since: read it again.");
  }

  static void meta(ObjectNode document, String type, String path, ScimRecordEntity row) {
    String version = ScimJson.version(document);
    ObjectNode meta = document.putObject("meta");
    meta.put("resourceType", type);
    if (!row.madeAt.equals(Instant.EPOCH)) {
      meta.put("created", row.madeAt.truncatedTo(ChronoUnit.MILLIS).toString());
      meta.put("lastModified", row.changedAt.truncatedTo(ChronoUnit.MILLIS).toString());
    }
    meta.put("location", BASE + path);
    meta.put("version", version);
  }
}
