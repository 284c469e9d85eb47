package app.uprightwarden.server;

import app.uprightwarden.server.schema.Plain;
import com.fasterxml.jackson.databind.JavaType;
import io.swagger.v3.core.converter.AnnotatedType;
import io.swagger.v3.core.converter.ModelConverter;
import io.swagger.v3.core.converter.ModelConverterContext;
import io.swagger.v3.core.util.Json31;
import io.swagger.v3.oas.models.media.Schema;
import java.lang.reflect.RecordComponent;
import java.util.ArrayList;
import java.util.Iterator;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/**
 * Writes the nullness that our records declare (JSpecify) into the API's description: a component
 * that is not {@code @Nullable} is required, one that is may be null. The front end's types follow.
 */
@Component
class NullabilityConverter implements ModelConverter {
  /** Where the API's description says what a plain value is. */
  private static final String PLAIN = "#/components/schemas/Plain";

  @Override
  public @Nullable Schema<?> resolve(
      AnnotatedType type, ModelConverterContext context, Iterator<ModelConverter> chain) {
    if (!chain.hasNext()) {
      return null;
    }
    Schema<?> resolved = chain.next().resolve(type, context, chain);
    JavaType javaType = Json31.mapper().constructType(type.getType());
    if (resolved != null && javaType.getRawClass().isRecord()) {
      mark(javaType.getRawClass(), model(resolved, context));
    }
    return resolved;
  }

  private static @Nullable Schema<?> model(Schema<?> resolved, ModelConverterContext context) {
    String reference = resolved.get$ref();
    if (reference == null) {
      return resolved;
    }
    String name = reference.substring(reference.lastIndexOf('/') + 1);
    return context.getDefinedModels().get(name);
  }

  private static void mark(Class<?> type, @Nullable Schema<?> model) {
    if (model == null || model.getProperties() == null) {
      return;
    }
    List<String> required = new ArrayList<>();
    for (RecordComponent component : type.getRecordComponents()) {
      if (component.isAnnotationPresent(Plain.class)) {
        markPlain(component, model);
      }
      Schema<?> property =
          ((Map<?, ?>) model.getProperties()).get(component.getName()) instanceof Schema<?> s
              ? s
              : null;
      if (component.getAnnotatedType().isAnnotationPresent(Nullable.class)) {
        allowNull(property);
      } else if (property != null) {
        required.add(component.getName());
      }
    }
    model.setRequired(required);
  }

  /** Values of controls are words, numbers or lists of words, and not just anything. */
  private static void markPlain(RecordComponent component, Schema<?> model) {
    Schema<?> orNull =
        new Schema<>()
            .anyOf(List.of(new Schema<>().$ref(PLAIN), new Schema<>().types(Set.of("null"))));
    if (Map.class.isAssignableFrom(component.getType())) {
      if (((Map<?, ?>) model.getProperties()).get(component.getName()) instanceof Schema<?> map) {
        map.setAdditionalProperties(orNull);
      }
    } else {
      boolean mayBeNull = component.getAnnotatedType().isAnnotationPresent(Nullable.class);
      model.addProperty(component.getName(), mayBeNull ? orNull : new Schema<>().$ref(PLAIN));
    }
  }

  private static void allowNull(@Nullable Schema<?> property) {
    if (property != null && property.getTypes() != null) {
      Set<String> types = new LinkedHashSet<>(property.getTypes());
      types.add("null");
      property.setTypes(types);
    }
  }
}
