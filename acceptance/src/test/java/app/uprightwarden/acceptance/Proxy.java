package app.uprightwarden.acceptance;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.util.List;
import java.util.concurrent.atomic.AtomicInteger;

/** A simple proxy: each connection goes to the next server in turn, or to one that is there. */
final class Proxy implements AutoCloseable {
  private final ServerSocket listening;
  private final List<Integer> ports;
  private final AtomicInteger turn = new AtomicInteger();

  Proxy(List<Integer> ports) throws IOException {
    this(ports, 0);
  }

  Proxy(List<Integer> ports, int port) throws IOException {
    this.ports = ports;
    listening = new ServerSocket(port, 50, InetAddress.getLoopbackAddress());
    start(this::accept);
  }

  String address() {
    return "http://127.0.0.1:" + listening.getLocalPort();
  }

  private static void start(Runnable work) {
    Thread thread = new Thread(work, "proxy");
    thread.setDaemon(true);
    thread.start();
  }

  private void accept() {
    try {
      while (true) {
        Socket client = listening.accept();
        start(() -> connect(client));
      }
    } catch (IOException e) {
      // it was closed
    }
  }

  private void connect(Socket client) {
    for (int i = 0; i < ports.size(); i++) {
      int port = ports.get(Math.floorMod(turn.getAndIncrement(), ports.size()));
      try {
        Socket server = new Socket(InetAddress.getLoopbackAddress(), port);
        start(() -> carry(client, server));
        carry(server, client);
        return;
      } catch (IOException e) {
        // that one is gone; the next
      }
    }
    closed(client);
  }

  private static void carry(Socket from, Socket to) {
    try (from;
        to) {
      InputStream in = from.getInputStream();
      OutputStream out = to.getOutputStream();
      byte[] some = new byte[8192];
      for (int n = in.read(some); n >= 0; n = in.read(some)) {
        out.write(some, 0, n);
        out.flush();
      }
    } catch (IOException e) {
      // one of them has gone
    }
  }

  private static void closed(Socket socket) {
    try {
      socket.close();
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  @Override
  public void close() throws IOException {
    listening.close();
  }
}
