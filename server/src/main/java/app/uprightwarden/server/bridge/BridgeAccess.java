package app.uprightwarden.server.bridge;

import java.net.URI;
import java.security.SecureRandom;
import java.util.Base64;
import org.jspecify.annotations.Nullable;
import org.springframework.boot.context.properties.ConfigurationProperties;
import org.springframework.stereotype.Component;

/**
 * Where the conference service is and what we and it prove ourselves by. Without an address, the
 * stand-in is started and says where it listens.
 */
@Component
@ConfigurationProperties("warden.bridge")
public class BridgeAccess {
  private String address = "";
  private String secret = "";
  private int port;
  private String callback = "";
  private volatile @Nullable URI standIn;

  /** Where a real one is, or empty. */
  public String getAddress() {
    return address;
  }

  public void setAddress(String address) {
    this.address = address;
  }

  /** Shared with the service; made anew at each start where none is set. */
  public synchronized String getSecret() {
    if (secret.isEmpty()) {
      byte[] bytes = new byte[32];
      new SecureRandom().nextBytes(bytes);
      secret = Base64.getUrlEncoder().withoutPadding().encodeToString(bytes);
    }
    return secret;
  }

  public synchronized void setSecret(String secret) {
    this.secret = secret;
  }

  /** Where the stand-in listens; 0 for a free port. */
  public int getPort() {
    return port;
  }

  public void setPort(int port) {
    this.port = port;
  }

  /** Whom the stand-in tells what happens; empty for the server that started it. */
  public String getCallback() {
    return callback;
  }

  public void setCallback(String callback) {
    this.callback = callback;
  }

  public boolean isStandIn() {
    return address.isEmpty();
  }

  public void standInListens(URI at) {
    standIn = at;
  }

  /** The service's address, or null where the stand-in does not listen yet. */
  @Nullable URI base() {
    return address.isEmpty() ? standIn : URI.create(address);
  }
}
