package app.uprightwarden.server.scim;

import static org.testng.Assert.assertEquals;

import app.uprightwarden.server.ServerTest;
import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.test.context.TestPropertySource;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** A directory elsewhere that speaks SCIM with this server, by a token of its own. */
@TestPropertySource(properties = "test.schema=warden_scim")
abstract class ScimCase extends ServerTest {
  static final String USER = "urn:ietf:params:scim:schemas:core:2.0:User";
  static final String GROUP = "urn:ietf:params:scim:schemas:core:2.0:Group";
  static final String ENTERPRISE = "urn:ietf:params:scim:schemas:extension:enterprise:2.0:User";
  static final String PATCH = "urn:ietf:params:scim:api:messages:2.0:PatchOp";

  private final HttpClient http = HttpClient.newHttpClient();
  private @Nullable String directory;

  /** An answer with what SCIM says in headers. */
  record Told(int status, String body, @Nullable String etag, @Nullable String location) {
    JsonNode json() {
      return JsonMapper.builder().build().readTree(body);
    }

    Told is(int expected) {
      assertEquals(status, expected, body);
      return this;
    }

    /** RFC 7644 section 3.12: the status again, as a text, and what sort of error it is. */
    Told fails(int expected, String scimType) {
      is(expected);
      assertEquals(json().path("status").stringValue(), Integer.toString(expected), body);
      assertEquals(json().path("scimType").stringValue(), scimType, body);
      assertEquals(
          json().at("/schemas/0").stringValue(), "urn:ietf:params:scim:api:messages:2.0:Error");
      return this;
    }
  }

  String directoryToken() {
    if (directory == null) {
      directory =
          post(
                  WARDEN,
                  "/api/tokens",
                  Map.of("purpose", "Provisioning", "role", "directory", "minutes", 60))
              .is(201)
              .json()
              .get("token")
              .stringValue();
    }
    return directory;
  }

  Told scim(String method, String path, @Nullable String body, String... headers) {
    HttpRequest.Builder request =
        HttpRequest.newBuilder(URI.create("http://127.0.0.1:" + port + "/scim/v2" + path))
            .header("Authorization", "Bearer " + directoryToken())
            .header("Content-Type", "application/scim+json")
            .method(
                method,
                body == null
                    ? HttpRequest.BodyPublishers.noBody()
                    : HttpRequest.BodyPublishers.ofString(body));
    for (int i = 0; i < headers.length; i += 2) {
      request.header(headers[i], headers[i + 1]);
    }
    try {
      HttpResponse<String> answer =
          http.send(request.build(), HttpResponse.BodyHandlers.ofString());
      return new Told(
          answer.statusCode(),
          answer.body(),
          answer.headers().firstValue("ETag").orElse(null),
          answer.headers().firstValue("Location").orElse(null));
    } catch (IOException e) {
      throw new java.io.UncheckedIOException(e);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new IllegalStateException(e);
    }
  }

  /** A user of the house's domain, made as a directory makes one. */
  JsonNode made(String address, String more) {
    return scim(
            "POST",
            "/Users",
            """
            {"schemas": ["%s"], "userName": "%s"%s}
            """
                .formatted(USER, address, more))
        .is(201)
        .json();
  }

  JsonNode group(String name, String... members) {
    StringBuilder list = new StringBuilder();
    for (String member : members) {
      list.append(list.isEmpty() ? "" : ",").append("{\"value\":\"").append(member).append("\"}");
    }
    return scim(
            "POST",
            "/Groups",
            """
            {"schemas": ["%s"], "displayName": "%s", "members": [%s]}
            """
                .formatted(GROUP, name, list))
        .is(201)
        .json();
  }

  Told patch(String path, String operations, String... headers) {
    return scim(
        "PATCH",
        path,
        """
        {"schemas": ["%s"], "Operations": [%s]}
        """
            .formatted(PATCH, operations),
        headers);
  }

  static String id(JsonNode resource) {
    return resource.get("id").stringValue();
  }

  /** Somebody as the house knows them; null where it does not. */
  @Nullable JsonNode person(String address) {
    for (JsonNode each : get(WARDEN, "/api/people?text=" + address).is(200).json().get("items")) {
      if (each.get("email").stringValue().equalsIgnoreCase(address)) {
        return each;
      }
    }
    return null;
  }

  /** The members of a list, as the house knows it by its name. */
  List<String> members(String list) {
    for (JsonNode each : get(WARDEN, "/api/organisation").is(200).json().get("lists")) {
      if (each.get("name").stringValue().equals(list)) {
        String at = "/api/people/groups/lists/" + each.get("id").stringValue();
        return get(WARDEN, at)
            .is(200)
            .json()
            .get("members")
            .valueStream()
            .map(JsonNode::stringValue)
            .sorted()
            .toList();
      }
    }
    return List.of();
  }
}
