package app.uprightwarden.server.services;

import java.net.Inet6Address;
import java.net.InetAddress;
import java.net.URI;
import java.net.UnknownHostException;
import org.jspecify.annotations.Nullable;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Component;

/**
 * Which addresses this server may be made to speak with. Loopback, link-local and the like would
 * let whoever enters an address reach what listens beside this server; they are refused unless the
 * server's own configuration allows them ({@code warden.services.local}).
 */
@Component
public class ServiceAddresses {
  private static final int MAX_LENGTH = 300;

  private final boolean allowsLocal;

  ServiceAddresses(@Value("${warden.services.local:false}") boolean allowsLocal) {
    this.allowsLocal = allowsLocal;
  }

  /**
   * What is wrong with an address as it was typed, or null.
   *
   * @return in words that go on from "The address"
   */
  public @Nullable String fault(String text) {
    URI uri;
    try {
      uri = URI.create(text);
    } catch (IllegalArgumentException e) {
      return "cannot be read. Write it like https://meet.example.org.";
    }
    String scheme = String.valueOf(uri.getScheme());
    if (text.length() > MAX_LENGTH || uri.getHost() == null) {
      return "has no host. Write it like https://meet.example.org.";
    }
    if (!scheme.equals("https") && !(scheme.equals("http") && allowsLocal)) {
      return "has to begin with https://, so that nobody reads the key on the way.";
    }
    if (uri.getUserInfo() != null || uri.getQuery() != null || uri.getFragment() != null) {
      return "is to be the host and, where it has one, the path, and nothing more.";
    }
    return null;
  }

  /** Looked at before each request: a name may point elsewhere by now. */
  public void check(URI address) throws ServiceTrouble {
    if (allowsLocal) {
      return;
    }
    try {
      for (InetAddress each : InetAddress.getAllByName(address.getHost())) {
        if (isLocal(each)) {
          throw new ServiceTrouble(
              ServiceTrouble.Kind.AWAY,
              "has an address on this server's own network, which its configuration refuses");
        }
      }
    } catch (UnknownHostException e) {
      throw new ServiceTrouble(ServiceTrouble.Kind.AWAY, "has a name that is not known");
    }
  }

  private static boolean isLocal(InetAddress address) {
    boolean isUniqueLocal =
        address instanceof Inet6Address && (address.getAddress()[0] & 0xfe) == 0xfc;
    return address.isLoopbackAddress()
        || address.isLinkLocalAddress()
        || address.isAnyLocalAddress()
        || address.isMulticastAddress()
        || isUniqueLocal;
  }
}
