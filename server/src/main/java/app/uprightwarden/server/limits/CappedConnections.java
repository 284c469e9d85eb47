package app.uprightwarden.server.limits;

import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.nio.channels.SocketChannel;
import java.util.Set;
import org.apache.coyote.http11.Http11NioProtocol;
import org.apache.tomcat.util.net.NioChannel;
import org.apache.tomcat.util.net.NioEndpoint;
import org.apache.tomcat.util.net.SocketWrapperBase;

/**
 * HTTP as Tomcat speaks it, with so many connections for one address and no more: whoever opens
 * them all leaves some for others. A trusted proxy, which is many people, is not counted.
 */
public class CappedConnections extends Http11NioProtocol {
  /** Connections of one address. */
  static final int FOR_ONE = 512;

  private static volatile Set<String> uncounted = Set.of();

  public CappedConnections() {
    super(new Endpoint());
  }

  static void leaveOut(Set<String> addresses) {
    uncounted = Set.copyOf(addresses);
  }

  private static final class Endpoint extends NioEndpoint {
    @Override
    protected boolean setSocketOptions(SocketChannel socket) {
      // what is refused here is closed by whoever asks
      return !isTooMany(socket) && super.setSocketOptions(socket);
    }

    private boolean isTooMany(SocketChannel socket) {
      try {
        if (!(socket.getRemoteAddress() instanceof InetSocketAddress remote)
            || getConnections().size() < FOR_ONE
            || uncounted.contains(remote.getAddress().getHostAddress())) {
          return false;
        }
        return count(remote.getAddress()) >= FOR_ONE;
      } catch (IOException e) {
        return true; // gone already
      }
    }

    private int count(InetAddress address) throws IOException {
      int count = 0;
      for (SocketWrapperBase<NioChannel> open : getConnections()) {
        NioChannel channel = open.getSocket();
        SocketChannel its = channel == null ? null : channel.getIOChannel();
        boolean isSame =
            its != null
                && its.isOpen()
                && its.getRemoteAddress() instanceof InetSocketAddress other
                && address.equals(other.getAddress());
        count += isSame ? 1 : 0;
      }
      return count;
    }
  }
}
