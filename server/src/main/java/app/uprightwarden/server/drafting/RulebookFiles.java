package app.uprightwarden.server.drafting;

import app.uprightwarden.core.rulebook.Rulebook;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.rulebook.RulebookWriter;
import app.uprightwarden.server.schema.StrictJson;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.List;
import org.springframework.stereotype.Component;
import tools.jackson.core.JacksonException;
import tools.jackson.core.StreamReadFeature;
import tools.jackson.databind.DeserializationFeature;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.SerializationFeature;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.dataformat.yaml.YAMLFactory;
import tools.jackson.dataformat.yaml.YAMLMapper;
import tools.jackson.dataformat.yaml.YAMLWriteFeature;

/** The bundle's rulebook part as a file of its own, in JSON and in YAML. */
@Component
class RulebookFiles {
  private static final int MAX_BYTES = 512 * 1024;

  private final StrictJson strict;
  private final JsonMapper json =
      JsonMapper.builder().enable(SerializationFeature.INDENT_OUTPUT).build();
  private final YAMLMapper yaml =
      YAMLMapper.builder(
              YAMLFactory.builder().enable(StreamReadFeature.STRICT_DUPLICATE_DETECTION).build())
          .disable(YAMLWriteFeature.WRITE_DOC_START_MARKER)
          .enable(YAMLWriteFeature.MINIMIZE_QUOTES)
          .enable(YAMLWriteFeature.ALWAYS_QUOTE_NUMBERS_AS_STRINGS)
          .enable(DeserializationFeature.FAIL_ON_TRAILING_TOKENS)
          .build();

  RulebookFiles(StrictJson strict) {
    this.strict = strict;
  }

  byte[] json(Rulebook rulebook) {
    return (json.writeValueAsString(RulebookWriter.plain(rulebook)) + "\n")
        .getBytes(StandardCharsets.UTF_8);
  }

  byte[] yaml(Rulebook rulebook) {
    return yaml.writeValueAsString(RulebookWriter.plain(rulebook)).getBytes(StandardCharsets.UTF_8);
  }

  /** Reads JSON; a whole bundle gives its rulebook part. */
  JsonNode readJson(InputStream in) {
    return rulebookPart(strict.read(in));
  }

  /**
   * Reads YAML; a whole bundle gives its rulebook part.
   *
   * @throws ProblemException 400 where it is no YAML, with line and column; 413 where too large
   */
  JsonNode readYaml(InputStream in) {
    try {
      byte[] bytes = in.readNBytes(MAX_BYTES + 1);
      if (bytes.length > MAX_BYTES) {
        throw ProblemException.tooLarge("The rulebook is larger than 512 KiB, which none is.");
      }
      JsonNode node = yaml.readTree(bytes);
      if (node == null || node.isMissingNode() || node.isNull()) {
        throw ProblemException.unreadable("The document is empty.", List.of());
      }
      // read once more as JSON, which holds it to the same depth and lengths
      return rulebookPart(strict.read(new ByteArrayInputStream(json.writeValueAsBytes(node))));
    } catch (JacksonException e) {
      throw ProblemException.unreadable(
          "The document is not YAML that can be read here. Nothing was stored.",
          List.of(StrictJson.fault(e)));
    } catch (IOException e) {
      throw ProblemException.unreadable(
          "The document did not arrive whole. Send it again.", List.of());
    }
  }

  private static JsonNode rulebookPart(JsonNode node) {
    return node.has("format") && node.has("rulebook") ? node.get("rulebook") : node;
  }
}
