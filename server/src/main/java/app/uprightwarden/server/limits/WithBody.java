package app.uprightwarden.server.limits;

import jakarta.servlet.DispatcherType;
import jakarta.servlet.ReadListener;
import jakarta.servlet.ServletInputStream;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletRequestWrapper;
import java.io.BufferedReader;
import java.io.ByteArrayInputStream;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;

/**
 * A request whose body has arrived. It passes for one that has just come in, which it is for
 * everybody behind {@link BodyFirst}: nothing was decided about it yet.
 */
final class WithBody extends HttpServletRequestWrapper {
  private byte[] body = {};

  WithBody(HttpServletRequest request) {
    super(request);
  }

  void take(byte[] arrived) {
    body = arrived;
  }

  @Override
  public DispatcherType getDispatcherType() {
    DispatcherType type = super.getDispatcherType();
    return type == DispatcherType.ASYNC && isFresh() ? DispatcherType.REQUEST : type;
  }

  /** Behind a handler that went on by itself, the second half of its answer comes. */
  private boolean isFresh() {
    return getAttribute(LimitedRequest.GONE_ON) == null;
  }

  @Override
  public ServletInputStream getInputStream() {
    ByteArrayInputStream bytes = new ByteArrayInputStream(body);
    return new ServletInputStream() {
      @Override
      public boolean isFinished() {
        return bytes.available() == 0;
      }

      @Override
      public boolean isReady() {
        return true;
      }

      @Override
      public void setReadListener(ReadListener listener) {
        throw new IllegalStateException("it has been read without blocking already");
      }

      @Override
      public int read() {
        return bytes.read();
      }

      @Override
      public int read(byte[] into, int from, int most) {
        return bytes.read(into, from, most);
      }
    };
  }

  @Override
  public BufferedReader getReader() {
    return new BufferedReader(new InputStreamReader(getInputStream(), StandardCharsets.UTF_8));
  }
}
