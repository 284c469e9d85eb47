package app.uprightwarden.server.schema;

import app.uprightwarden.server.problem.Fault;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.problem.Texts;
import java.io.IOException;
import java.io.InputStream;
import java.util.List;
import org.springframework.stereotype.Component;
import tools.jackson.core.JacksonException;
import tools.jackson.core.StreamReadConstraints;
import tools.jackson.core.StreamReadFeature;
import tools.jackson.core.json.JsonFactory;
import tools.jackson.databind.DeserializationFeature;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Reads JSON that strangers send: bounded in size and depth, no key twice, nothing after it. */
@Component
public class StrictJson {
  /** The largest document taken, in bytes. */
  public static final int MAX_BYTES = 32 * 1024 * 1024;

  private static final int DEEPEST = 32;

  private final JsonMapper mapper =
      JsonMapper.builder(
              new WellFormedJson(
                  JsonFactory.builder()
                      .streamReadConstraints(
                          StreamReadConstraints.builder()
                              .maxNestingDepth(DEEPEST)
                              .maxStringLength(200_000)
                              .maxNumberLength(30)
                              .maxNameLength(200)
                              .build())
                      .enable(StreamReadFeature.STRICT_DUPLICATE_DETECTION)))
          .enable(DeserializationFeature.FAIL_ON_TRAILING_TOKENS)
          .build();

  /**
   * Reads one document.
   *
   * @throws ProblemException 400 where it is not JSON, with line and column; 413 where it is too
   *     large
   */
  public JsonNode read(InputStream in) {
    byte[] bytes;
    try {
      bytes = in.readNBytes(MAX_BYTES + 1);
    } catch (IOException e) {
      throw ProblemException.unreadable(
          "The document did not arrive whole. Send it again.", List.of());
    }
    if (bytes.length > MAX_BYTES) {
      throw ProblemException.tooLarge(
          "The document is larger than "
              + MAX_BYTES / 1024 / 1024
              + " MiB. Split it: meetings can come in several bundles.");
    }
    try {
      JsonNode node = mapper.readTree(bytes);
      if (node == null || node.isMissingNode()) {
        throw ProblemException.unreadable("The document is empty.", List.of());
      }
      return node;
    } catch (JacksonException e) {
      throw ProblemException.unreadable(
          "The document is not JSON that can be read here. Nothing was stored.", List.of(fault(e)));
    }
  }

  /** Where a document could not be read, and why, in one line. */
  public static Fault fault(JacksonException e) {
    String where =
        e.getLocation() == null
            ? ""
            : "line %d, column %d: "
                .formatted(e.getLocation().getLineNr(), e.getLocation().getColumnNr());
    return new Fault("", where + firstLine(e.getOriginalMessage()));
  }

  private static String firstLine(String message) {
    int end = message.indexOf('\n');
    String line = end < 0 ? message : message.substring(0, end);
    return line.length() > 300 ? Texts.cut(line, 300) + "…" : line;
  }
}
