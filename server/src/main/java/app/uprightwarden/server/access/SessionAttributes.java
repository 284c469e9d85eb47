package app.uprightwarden.server.access;

import app.uprightwarden.server.problem.Texts;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.ObjectInputFilter;
import java.io.ObjectInputStream;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.core.convert.TypeDescriptor;
import org.springframework.core.convert.converter.GenericConverter;

/**
 * Reads what a session holds, by a list of classes (JEP 290). What is not on it, is too deep or too
 * large is nothing: the session then lacks it, and whoever it was signs in again.
 */
final class SessionAttributes implements GenericConverter {
  private static final Logger LOG = LoggerFactory.getLogger(SessionAttributes.class);
  private static final int DEEPEST = 12;
  private static final int MAX_BYTES = 32_768;
  private static final int LONGEST_ARRAY = 1000;

  /** What sign-in keeps, and what the way to a provider and back needs. */
  private static final Set<String> KNOWN =
      Set.of(
          "app.uprightwarden.server.access.SignedIn",
          "app.uprightwarden.server.access.Role",
          "org.springframework.security.core.context.SecurityContextImpl",
          "org.springframework.security.authentication.AbstractAuthenticationToken",
          "org.springframework.security.authentication.UsernamePasswordAuthenticationToken",
          "org.springframework.security.core.authority.SimpleGrantedAuthority",
          "org.springframework.security.oauth2.core.endpoint.OAuth2AuthorizationRequest",
          "org.springframework.security.oauth2.core.AuthorizationGrantType",
          "org.springframework.security.oauth2.core.endpoint.OAuth2AuthorizationResponseType",
          "java.lang.String",
          "java.lang.Long",
          "java.lang.Integer",
          "java.lang.Boolean",
          "java.lang.Number",
          "java.lang.Enum",
          "java.lang.Record",
          "java.lang.Object",
          "java.util.Map",
          "java.util.Map$Entry",
          "java.util.HashMap",
          "java.util.LinkedHashMap",
          "java.util.HashSet",
          "java.util.LinkedHashSet",
          "java.util.ArrayList",
          "java.util.CollSer",
          "java.util.Collections$UnmodifiableCollection",
          "java.util.Collections$UnmodifiableList",
          "java.util.Collections$UnmodifiableRandomAccessList",
          "java.util.Collections$UnmodifiableMap",
          "java.util.Collections$UnmodifiableSet",
          "java.util.Collections$EmptyList");

  @Override
  public Set<ConvertiblePair> getConvertibleTypes() {
    return Set.of(new ConvertiblePair(byte[].class, Object.class));
  }

  @Override
  public @Nullable Object convert(@Nullable Object source, TypeDescriptor from, TypeDescriptor to) {
    return source instanceof byte[] bytes ? read(bytes) : null;
  }

  /**
   * Reads an attribute.
   *
   * @return null where it holds anything that is not on the list
   */
  static @Nullable Object read(byte[] bytes) {
    try (ObjectInputStream in = new ObjectInputStream(new ByteArrayInputStream(bytes))) {
      in.setObjectInputFilter(SessionAttributes::look);
      return in.readObject();
    } catch (IOException | ClassNotFoundException e) {
      LOG.warn("a session holds what is never kept in one: {}", Texts.oneLine(e.getMessage(), 200));
      return null;
    }
  }

  private static ObjectInputFilter.Status look(ObjectInputFilter.FilterInfo info) {
    if (info.depth() > DEEPEST
        || info.streamBytes() > MAX_BYTES
        || info.arrayLength() > LONGEST_ARRAY) {
      return ObjectInputFilter.Status.REJECTED;
    }
    Class<?> of = info.serialClass();
    while (of != null && of.isArray()) {
      of = of.getComponentType();
    }
    return of == null || of.isPrimitive() || KNOWN.contains(of.getName())
        ? ObjectInputFilter.Status.ALLOWED
        : ObjectInputFilter.Status.REJECTED;
  }
}
