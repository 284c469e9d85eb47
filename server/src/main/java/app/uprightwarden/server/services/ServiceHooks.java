package app.uprightwarden.server.services;

import java.net.URI;
import org.jspecify.annotations.Nullable;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.boot.web.server.context.WebServerInitializedEvent;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;

/** Where services tell by themselves that something is new. */
@Component
class ServiceHooks {
  private final String toldAt;
  private volatile int port;

  /**
   * What is configured.
   *
   * @param toldAt where services reach this house, or empty for not at all
   */
  ServiceHooks(@Value("${warden.services.told-at:}") String toldAt) {
    this.toldAt = toldAt.endsWith("/") ? toldAt.substring(0, toldAt.length() - 1) : toldAt;
  }

  @EventListener
  void started(WebServerInitializedEvent event) {
    port = event.getWebServer().getPort();
  }

  /**
   * Where one is to tell. One on this machine reaches us here; another only where it is configured.
   *
   * @return null where it cannot be told
   */
  @Nullable URI of(long service, String address) {
    String base = toldAt;
    if (base.isEmpty() && port > 0 && address.startsWith("http://127.0.0.1:")) {
      base = "http://127.0.0.1:" + port;
    }
    return base.isEmpty() ? null : URI.create(base + "/api/services/" + service + "/told");
  }
}
