package app.uprightwarden.server.problem;

import jakarta.servlet.http.Cookie;
import jakarta.servlet.http.HttpServletRequest;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.function.Supplier;
import java.util.stream.Collectors;
import org.springframework.context.i18n.LocaleContext;
import org.springframework.context.i18n.LocaleContextHolder;
import org.springframework.http.HttpHeaders;
import org.springframework.web.util.WebUtils;

/** The languages that pages can have. */
public final class Languages {
  /** English first: what is said where nobody asked for another. */
  public static final List<Locale> ALL = List.of(Locale.ENGLISH, Locale.GERMAN);

  /** Where pages keep the language that was chosen. */
  private static final String COOKIE = "warden-language";

  private static final Set<String> TAGS =
      ALL.stream().map(Locale::toLanguageTag).collect(Collectors.toSet());

  private Languages() {}

  /** The one of ours that suits what was asked for, as by {@code Accept-Language}. */
  public static Locale of(Locale asked) {
    return ALL.stream()
        .filter(ours -> ours.getLanguage().equals(asked.getLanguage()))
        .findFirst()
        .orElse(Locale.ENGLISH);
  }

  /** The language of the request in hand; English where there is none. */
  public static Locale current() {
    LocaleContext context = LocaleContextHolder.getLocaleContext();
    Locale asked = context == null ? null : context.getLocale();
    return asked == null ? Locale.ENGLISH : of(asked);
  }

  /**
   * The language of a request: the one that was chosen on the pages, which a link that is followed
   * does not say by itself, or what {@code Accept-Language} says; English where it asks for none.
   */
  public static Locale asked(HttpServletRequest request) {
    Cookie chosen = WebUtils.getCookie(request, COOKIE);
    if (chosen != null && TAGS.contains(chosen.getValue())) {
      return Locale.forLanguageTag(chosen.getValue());
    }
    return request.getHeader(HttpHeaders.ACCEPT_LANGUAGE) == null
        ? Locale.ENGLISH
        : of(request.getLocale());
  }

  /** Something that is the same whoever asks, such as a file or a message to somebody else. */
  public static <T> T inEnglish(Supplier<T> work) {
    return in(Locale.ENGLISH, work);
  }

  /** Something in a language, whoever asks. */
  public static <T> T in(Locale language, Supplier<T> work) {
    LocaleContext before = LocaleContextHolder.getLocaleContext();
    LocaleContextHolder.setLocale(language);
    try {
      return work.get();
    } finally {
      LocaleContextHolder.setLocaleContext(before);
    }
  }
}
