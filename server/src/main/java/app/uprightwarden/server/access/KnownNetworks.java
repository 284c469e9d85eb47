package app.uprightwarden.server.access;

import java.net.Inet6Address;
import java.net.InetAddress;
import java.net.UnknownHostException;
import java.util.Arrays;

/** Where a request comes from, as far as it tells one attacker from another. */
final class KnownNetworks {
  private KnownNetworks() {}

  /** The address itself; of IPv6 the network of 64 bits, which one household has whole. */
  static String of(String remote) {
    try {
      // a literal: nothing is looked up
      if (remote.indexOf(':') >= 0
          && InetAddress.getByName(remote) instanceof Inet6Address address) {
        byte[] network = Arrays.copyOf(Arrays.copyOf(address.getAddress(), 8), 16);
        return InetAddress.getByAddress(network).getHostAddress() + "/64";
      }
      return remote;
    } catch (UnknownHostException e) {
      return remote;
    }
  }
}
