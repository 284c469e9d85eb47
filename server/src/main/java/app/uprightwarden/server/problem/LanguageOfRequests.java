package app.uprightwarden.server.problem;

import jakarta.servlet.http.HttpServletRequest;
import java.util.Locale;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.web.servlet.LocaleResolver;
import org.springframework.web.servlet.i18n.AcceptHeaderLocaleResolver;

/** Each request is answered in the language that {@link Languages#asked} finds in it. */
@Configuration(proxyBeanMethods = false)
class LanguageOfRequests {
  @Bean
  LocaleResolver localeResolver() {
    return new AcceptHeaderLocaleResolver() {
      @Override
      public Locale resolveLocale(HttpServletRequest request) {
        return Languages.asked(request);
      }
    };
  }
}
