package app.uprightwarden.server.sources;

import java.net.Inet4Address;
import java.net.Inet6Address;
import java.net.InetAddress;
import java.net.URI;
import java.net.URISyntaxException;
import java.net.UnknownHostException;
import java.util.Locale;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Component;

/**
 * Which addresses a calendar may be read from. Whoever enters one, or writes a redirect on a server
 * outside, must not reach what listens inside this server's own network: such addresses are
 * refused, but for the hosts that the configuration names ({@code warden.sources.inside}). Their
 * ranges are those of RFC 6890 and its registries.
 */
@Component
class SourceAddresses {
  private static final int MAX_LENGTH = 500;

  private final Set<String> inside;

  SourceAddresses(@Value("${warden.sources.inside:}") Set<String> inside) {
    this.inside =
        inside.stream()
            .map(host -> host.strip().toLowerCase(Locale.ROOT))
            .collect(Collectors.toUnmodifiableSet());
  }

  /**
   * What is wrong with an address as it was typed, or null.
   *
   * @return in words that go on from "The address"
   */
  @Nullable String fault(String text) {
    URI uri;
    try {
      uri = new URI(text);
    } catch (URISyntaxException e) {
      return "cannot be read. Write it like https://calendar.example.org/team.ics.";
    }
    if (text.length() > MAX_LENGTH || uri.getHost() == null) {
      return "has no host. Write it like https://calendar.example.org/team.ics.";
    }
    if (uri.getUserInfo() != null) {
      return "has a name or a password in it. Enter these in their own fields.";
    }
    return schemeFault(uri);
  }

  private @Nullable String schemeFault(URI uri) {
    String scheme = String.valueOf(uri.getScheme()).toLowerCase(Locale.ROOT);
    boolean isInside = isInside(uri);
    return scheme.equals("https") || scheme.equals("http") && isInside
        ? null
        : "has to begin with https://, so that nobody reads it on the way.";
  }

  private boolean isInside(URI uri) {
    return uri.getHost() != null && inside.contains(uri.getHost().toLowerCase(Locale.ROOT));
  }

  /**
   * Looked at before each request and each redirect: a name may point elsewhere by now. The
   * platform keeps what it has looked up for some seconds, so that the request goes to the address
   * that was looked at.
   */
  void check(URI address) throws SourceTrouble {
    String fault = address.getHost() == null ? "has no host." : schemeFault(address);
    if (fault != null) {
      throw new SourceTrouble(SourceTrouble.Kind.AWAY, "sends to an address that " + fault);
    }
    if (isInside(address)) {
      return;
    }
    try {
      for (InetAddress each : InetAddress.getAllByName(address.getHost())) {
        if (!isPublic(each)) {
          throw new SourceTrouble(
              SourceTrouble.Kind.AWAY,
              "has an address inside this server's own network, which its configuration refuses");
        }
      }
    } catch (UnknownHostException e) {
      throw new SourceTrouble(SourceTrouble.Kind.AWAY, "has a name that is not known");
    }
  }

  /** Whether an address is one that anybody could reach (RFC 6890, globally reachable). */
  static boolean isPublic(InetAddress address) {
    boolean isSpecial =
        address.isLoopbackAddress()
            || address.isLinkLocalAddress()
            || address.isSiteLocalAddress()
            || address.isAnyLocalAddress()
            || address.isMulticastAddress();
    byte[] bytes = address.getAddress();
    int first = bytes[0] & 0xff;
    int second = bytes[1] & 0xff;
    if (address instanceof Inet4Address) {
      boolean isSharedSpace = first == 100 && second >= 64 && second < 128;
      boolean isProtocol = first == 192 && second == 0 && bytes[2] == 0;
      boolean isBenchmark = first == 198 && (second == 18 || second == 19);
      return !isSpecial
          && first != 0
          && first < 240
          && !isSharedSpace
          && !isProtocol
          && !isBenchmark;
    }
    return !isSpecial && address instanceof Inet6Address && isGlobal(bytes);
  }

  /** Of IPv6 only 2000::/3 is given out, and what wraps an IPv4 address is looked at as that. */
  private static boolean isGlobal(byte[] bytes) {
    boolean isGivenOut = (bytes[0] & 0xe0) == 0x20;
    boolean isSixToFour = bytes[0] == 0x20 && bytes[1] == 0x02;
    boolean isTeredo = bytes[0] == 0x20 && bytes[1] == 0x01 && bytes[2] == 0 && bytes[3] == 0;
    return isGivenOut && !isSixToFour && !isTeredo;
  }
}
