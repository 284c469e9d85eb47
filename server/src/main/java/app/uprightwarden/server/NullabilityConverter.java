package app.uprightwarden.server;

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

  private static void allowNull(@Nullable Schema<?> property) {
    if (property != null && property.getTypes() != null) {
      Set<String> types = new LinkedHashSet<>(property.getTypes());
      types.add("null");
      property.setTypes(types);
    }
  }
}
