package app.uprightwarden.server.problem;

import java.util.Collection;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.boot.http.converter.autoconfigure.ServerHttpMessageConvertersCustomizer;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.core.annotation.Order;
import org.springframework.http.converter.json.JacksonJsonHttpMessageConverter;
import tools.jackson.core.JsonGenerator;
import tools.jackson.databind.AnnotationIntrospector;
import tools.jackson.databind.SerializationContext;
import tools.jackson.databind.ValueSerializer;
import tools.jackson.databind.cfg.MapperConfig;
import tools.jackson.databind.introspect.Annotated;
import tools.jackson.databind.introspect.NopAnnotationIntrospector;
import tools.jackson.databind.json.JsonMapper;

/**
 * Answers have what is {@link Worded} in the language asked for. The mapper of answers alone knows
 * of it: what is stored as JSON is stored as it was said.
 */
@Configuration(proxyBeanMethods = false)
class WordedAnswers {
  /** After the one that is made by itself, in whose place this comes. */
  @Bean
  @Order(1)
  ServerHttpMessageConvertersCustomizer jsonAnswers(JsonMapper mapper) {
    JsonMapper worded =
        mapper
            .rebuild()
            .annotationIntrospector(
                AnnotationIntrospector.pair(
                    new OfWorded(), mapper.serializationConfig().getAnnotationIntrospector()))
            .build();
    return converters -> converters.withJsonConverter(new JacksonJsonHttpMessageConverter(worded));
  }

  private static final class OfWorded extends NopAnnotationIntrospector {
    @Override
    public @Nullable Object findSerializer(MapperConfig<?> config, Annotated annotated) {
      return annotated.hasAnnotation(Worded.class) ? new Writer() : null;
    }
  }

  private static final class Writer extends ValueSerializer<Object> {
    @Override
    public void serialize(Object value, JsonGenerator out, SerializationContext context) {
      if (value instanceof Collection<?> texts) {
        out.writeStartArray();
        texts.forEach(each -> out.writeString(Sentences.said(String.valueOf(each))));
        out.writeEndArray();
      } else if (value instanceof Map<?, ?> texts) {
        out.writeStartObject();
        texts.forEach(
            (key, text) ->
                out.writeStringProperty(String.valueOf(key), Sentences.said(String.valueOf(text))));
        out.writeEndObject();
      } else {
        out.writeString(Sentences.said(String.valueOf(value)));
      }
    }
  }
}
