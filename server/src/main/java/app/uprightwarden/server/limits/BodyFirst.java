package app.uprightwarden.server.limits;

import app.uprightwarden.server.problem.Problems;
import jakarta.servlet.AsyncContext;
import jakarta.servlet.AsyncEvent;
import jakarta.servlet.AsyncListener;
import jakarta.servlet.FilterChain;
import jakarta.servlet.ReadListener;
import jakarta.servlet.ServletException;
import jakarta.servlet.ServletInputStream;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Component;
import org.springframework.web.filter.OncePerRequestFilter;

/**
 * Waits for the body of a request before anything is done about it, without a thread that waits
 * with it (Servlet 6.0, section 3.7, reading without blocking): however many send slowly, everybody
 * else is answered. What does not arrive in time is given up. Bodies that are large, or do not say
 * how large they are, are read as their handler reads them; {@link SlowReaders} bounds those.
 */
@Component
@Order(Ordered.HIGHEST_PRECEDENCE)
class BodyFirst extends OncePerRequestFilter {
  /** The largest body that is waited for. */
  static final int MAX_BYTES = 256 * 1024;

  private static final Logger LOG = LoggerFactory.getLogger(BodyFirst.class);
  private static final int ALL_AT_ONCE = 32 * 1024 * 1024;
  private static final long PATIENCE_MILLIS = 10_000;
  private static final long MILLIS_PER_16_KB = 1_000;

  private final SlowReaders slow;
  private final Room room = new Room(ALL_AT_ONCE);

  BodyFirst(SlowReaders slow) {
    this.slow = slow;
  }

  @Override
  protected void doFilterInternal(
      HttpServletRequest request, HttpServletResponse response, FilterChain chain)
      throws ServletException, IOException {
    long length = request.getContentLengthLong();
    boolean hasBody = length > 0 || request.getHeader("Transfer-Encoding") != null;
    if (request instanceof WithBody || !hasBody) {
      chain.doFilter(request, response);
    } else if (length < 0 || length > MAX_BYTES) {
      chain.doFilter(new LimitedRequest(request, slow), response);
    } else {
      gather(request, response, (int) length);
    }
  }

  private void gather(HttpServletRequest request, HttpServletResponse response, int length)
      throws IOException {
    WithBody whole = new WithBody(request);
    AsyncContext waiting = request.startAsync(whole, response);
    waiting.setTimeout(PATIENCE_MILLIS + length * MILLIS_PER_16_KB / (16 * 1024));
    Gathering gathering = new Gathering(waiting, whole, response, request.getInputStream());
    waiting.addListener(gathering);
    request.getInputStream().setReadListener(gathering);
  }

  /** A body that is on its way. */
  private final class Gathering implements ReadListener, AsyncListener {
    private final AsyncContext waiting;
    private final WithBody whole;
    private final HttpServletResponse response;
    private final ServletInputStream in;
    private final ByteArrayOutputStream bytes = new ByteArrayOutputStream(1024);
    private int held;

    /** Over is over: the last of a body and the end of patience can come together. */
    private boolean isOver;

    Gathering(
        AsyncContext waiting, WithBody whole, HttpServletResponse response, ServletInputStream in) {
      this.waiting = waiting;
      this.whole = whole;
      this.response = response;
      this.in = in;
    }

    @Override
    public void onDataAvailable() throws IOException {
      byte[] some = new byte[8192];
      while (!isOver && in.isReady()) {
        int n = in.read(some);
        if (n < 0) {
          return;
        }
        if (!room.take(n)) {
          refuse(HttpStatus.SERVICE_UNAVAILABLE, "busy", "Too much is being sent. Try again soon.");
          return;
        }
        held += n;
        bytes.write(some, 0, n);
      }
    }

    @Override
    public void onAllDataRead() {
      if (end()) {
        whole.take(bytes.toByteArray());
        waiting.dispatch();
      }
    }

    @Override
    public void onError(Throwable why) {
      if (end()) {
        waiting.complete(); // whoever sent it has gone
      }
    }

    private boolean end() {
      boolean isFirst = !isOver;
      isOver = true;
      room.give(held);
      held = 0;
      return isFirst;
    }

    private void refuse(HttpStatus status, String code, String detail) {
      if (!end()) {
        return;
      }
      try {
        response.setHeader("Connection", "close"); // what is still on its way is not read
        Problems.answer(whole, response, status, code, detail);
      } catch (IOException e) {
        LOG.debug("nobody waits for the answer");
      }
      waiting.complete();
    }

    @Override
    public void onTimeout(AsyncEvent event) {
      refuse(
          HttpStatus.REQUEST_TIMEOUT,
          "too-slow",
          "The request did not arrive whole in time. Nothing was done. Send it again.");
    }

    @Override
    public void onComplete(AsyncEvent event) {
      end();
    }

    @Override
    public void onError(AsyncEvent event) {
      end();
    }

    @Override
    public void onStartAsync(AsyncEvent event) {
      // a handler that goes on by itself has its own
    }
  }
}
