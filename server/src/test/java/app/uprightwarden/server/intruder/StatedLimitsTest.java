package app.uprightwarden.server.intruder;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.server.ServerTest;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Digits;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotEmpty;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Pattern;
import jakarta.validation.constraints.Size;
import java.lang.reflect.AnnotatedElement;
import java.lang.reflect.AnnotatedParameterizedType;
import java.lang.reflect.AnnotatedType;
import java.lang.reflect.ParameterizedType;
import java.lang.reflect.RecordComponent;
import java.lang.reflect.Type;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.beans.factory.annotation.Qualifier;
import org.springframework.core.MethodParameter;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.servlet.mvc.method.annotation.RequestMappingHandlerMapping;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;

/**
 * Every list and text that a call takes has a stated limit, and no list takes a null: walked over
 * the types of all bodies, so that a new one cannot be forgotten.
 */
public class StatedLimitsTest extends ServerTest {
  @Autowired
  @Qualifier("requestMappingHandlerMapping")
  private RequestMappingHandlerMapping mappings;

  private final Set<String> missing = new TreeSet<>();
  private final Set<Class<?>> seen = new HashSet<>();

  @Test
  public void everyBodySaysHowMuchItTakes() {
    List<Class<?>> bodies = new ArrayList<>();
    mappings
        .getHandlerMethods()
        .values()
        .forEach(
            method -> {
              for (MethodParameter parameter : method.getMethodParameters()) {
                if (parameter.hasParameterAnnotation(RequestBody.class)
                    && parameter.getParameterType().getName().startsWith("app.uprightwarden")) {
                  bodies.add(parameter.getParameterType());
                  if (!parameter.hasParameterAnnotation(Valid.class)) {
                    missing.add(parameter.getParameterType().getSimpleName() + ": @Valid");
                  }
                }
              }
            });
    bodies.forEach(this::walk);
    assertTrue(bodies.size() > 30, "they are found: " + bodies.size());
    assertEquals(String.join("\n", missing), "");
  }

  private void walk(Class<?> type) {
    if (!type.isRecord() || !seen.add(type)) {
      return;
    }
    for (RecordComponent part : type.getRecordComponents()) {
      String where = type.getSimpleName() + "." + part.getName();
      AnnotatedElement field;
      try {
        field = type.getDeclaredField(part.getName());
      } catch (NoSuchFieldException e) {
        throw new IllegalStateException(e);
      }
      check(where, part.getGenericType(), part.getAnnotatedType(), field);
    }
  }

  private static boolean has(Object where, Class<? extends java.lang.annotation.Annotation> what) {
    return where instanceof AnnotatedElement element && element.isAnnotationPresent(what);
  }

  private static boolean isBounded(AnnotatedElement... places) {
    return Arrays.stream(places)
        .anyMatch(
            p ->
                p.isAnnotationPresent(Pattern.class)
                    || p.isAnnotationPresent(Digits.class)
                    || p.isAnnotationPresent(Size.class)
                        && p.getAnnotation(Size.class).max() < Integer.MAX_VALUE);
  }

  private void check(String where, Type type, AnnotatedType annotated, AnnotatedElement field) {
    if (type == String.class && !isBounded(annotated, field)) {
      missing.add(where + ": a text without a limit");
    }
    if (type instanceof ParameterizedType full
        && annotated instanceof AnnotatedParameterizedType a) {
      Class<?> raw = (Class<?>) full.getRawType();
      if ((List.class.isAssignableFrom(raw) || Map.class.isAssignableFrom(raw))
          && !isBounded(annotated, field)) {
        missing.add(where + ": a " + raw.getSimpleName() + " without a limit");
      }
      AnnotatedType[] inner = a.getAnnotatedActualTypeArguments();
      AnnotatedType last = inner[inner.length - 1];
      boolean takesNoNull =
          has(last, NotNull.class) || has(last, NotBlank.class) || has(last, NotEmpty.class);
      if (List.class.isAssignableFrom(raw) && !takesNoNull) {
        missing.add(where + ": takes null in its list");
      }
      // the keys of a map are held to a schema, or to what is known by that name
      for (AnnotatedType each : List.of(last)) {
        if (each.getType() == String.class && !isBounded(each)) {
          missing.add(where + ": texts in it without a limit");
        }
        if (each.getType() instanceof Class<?> of && of.isRecord()) {
          if (!has(each, Valid.class)) {
            missing.add(where + ": @Valid inside");
          }
          walk(of);
        }
      }
    } else if (type instanceof Class<?> of && of.isRecord()) {
      if (!has(field, Valid.class) && !has(annotated, Valid.class)) {
        missing.add(where + ": @Valid");
      }
      walk(of);
    } else if (type == JsonNode.class) {
      return; // held to its schema
    } else if (type == long.class && has(field, Max.class)) {
      return;
    }
  }
}
