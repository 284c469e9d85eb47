package app.uprightwarden.server.scim;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import com.unboundid.scim2.common.exceptions.ResourceNotFoundException;
import com.unboundid.scim2.common.exceptions.ScimException;
import com.unboundid.scim2.common.utils.JsonUtils;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import org.springframework.stereotype.Component;

/** What this server can, told in the shapes of RFC 7643 sections 5 to 7. */
@Component
class ScimDiscovery {
  private final JsonNode all;

  ScimDiscovery() {
    try (InputStream in =
        Objects.requireNonNull(ScimDiscovery.class.getResourceAsStream("/scim/discovery.json"))) {
      all = JsonUtils.getObjectReader().readTree(in);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  ObjectNode config() {
    return ((ObjectNode) all.path("config")).deepCopy();
  }

  ObjectNode list(String what) {
    List<ObjectNode> some = new ArrayList<>();
    all.path(what).forEach(each -> some.add((ObjectNode) each));
    return ScimJson.list(some.size(), 1, some);
  }

  ObjectNode one(String what, String id) throws ScimException {
    for (JsonNode each : all.path(what)) {
      if (ScimJson.text(each, "id").equalsIgnoreCase(id)) {
        return (ObjectNode) each;
      }
    }
    throw new ResourceNotFoundException("There is nothing called " + id + ".");
  }
}
