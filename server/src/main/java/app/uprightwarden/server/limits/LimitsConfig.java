package app.uprightwarden.server.limits;

import org.springframework.boot.tomcat.servlet.TomcatServletWebServerFactory;
import org.springframework.boot.web.server.WebServerFactoryCustomizer;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.core.Ordered;
import org.springframework.web.servlet.config.annotation.InterceptorRegistry;
import org.springframework.web.servlet.config.annotation.WebMvcConfigurer;

/** Puts the limits where requests and connections come in. */
@Configuration
class LimitsConfig implements WebMvcConfigurer {
  private final CallLimits calls;

  LimitsConfig(CallLimits calls) {
    this.calls = calls;
  }

  @Override
  public void addInterceptors(InterceptorRegistry registry) {
    registry.addInterceptor(calls).order(Ordered.HIGHEST_PRECEDENCE + 1);
  }

  @Bean
  static WebServerFactoryCustomizer<TomcatServletWebServerFactory> connections(
      TrustedProxies proxies) {
    return factory -> {
      factory.setProtocol(CappedConnections.class.getName());
      proxies.into(factory);
    };
  }
}
