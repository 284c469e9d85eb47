package app.uprightwarden.server;

import org.springframework.context.annotation.Configuration;
import org.springframework.http.CacheControl;
import org.springframework.http.HttpStatus;
import org.springframework.web.servlet.config.annotation.ResourceHandlerRegistry;
import org.springframework.web.servlet.config.annotation.ViewControllerRegistry;
import org.springframework.web.servlet.config.annotation.WebMvcConfigurer;

/** The front end's files. Its own router knows the stations, so each of them gets the one page. */
@Configuration
class PagesConfig implements WebMvcConfigurer {
  private static final String[] STATIONS = {
    "lookout",
    "rulebook",
    "register",
    "audit",
    "door",
    "people",
    "floor",
    "ledger",
    "corner",
    "house",
    "account",
    "welcome",
    "help",
    "outbox",
    "sign-in"
  };

  @Override
  public void addViewControllers(ViewControllerRegistry views) {
    views.addViewController("/").setViewName("forward:/index.html");
    for (String station : STATIONS) {
      views.addViewController("/" + station).setViewName("forward:/index.html");
      views.addViewController("/" + station + "/**").setViewName("forward:/index.html");
    }
    // a person who mistypes an address is told so by a page, with the way back
    views
        .addViewController("/{page:[a-z][a-z-]{0,60}}")
        .setStatusCode(HttpStatus.NOT_FOUND)
        .setViewName("forward:/index.html");
  }

  /** Built files carry their content's hash in their names, and may be kept for ever. */
  @Override
  public void addResourceHandlers(ResourceHandlerRegistry resources) {
    resources
        .addResourceHandler("/assets/**")
        .addResourceLocations("classpath:/static/assets/")
        .setCacheControl(
            CacheControl.maxAge(java.time.Duration.ofDays(365)).cachePublic().immutable());
  }
}
