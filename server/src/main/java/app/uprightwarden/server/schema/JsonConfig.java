package app.uprightwarden.server.schema;

import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import tools.jackson.core.StreamReadConstraints;
import tools.jackson.core.json.JsonFactory;

/** How JSON is read everywhere: no deeper, no longer, and with whole characters. */
@Configuration
class JsonConfig {
  private static final int DEEPEST = 64;
  private static final int LONGEST_TEXT = 1_000_000;
  private static final int LONGEST_NUMBER = 100;
  private static final int LONGEST_NAME = 1000;

  @Bean
  static JsonFactory jsonFactory() {
    return new WellFormedJson(
        JsonFactory.builder()
            .streamReadConstraints(
                StreamReadConstraints.builder()
                    .maxNestingDepth(DEEPEST)
                    .maxStringLength(LONGEST_TEXT)
                    .maxNumberLength(LONGEST_NUMBER)
                    .maxNameLength(LONGEST_NAME)
                    .build()));
  }
}
