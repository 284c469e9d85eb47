package app.uprightwarden.server.limits;

import app.uprightwarden.server.problem.ProblemException;
import jakarta.servlet.ReadListener;
import jakarta.servlet.ServletInputStream;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletRequestWrapper;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;

/** A request whose body is read as it comes: so much and no more, and no slower than so. */
final class LimitedRequest extends HttpServletRequestWrapper {
  /** Set once a handler has gone on by itself. */
  static final String GONE_ON = LimitedRequest.class.getName() + ".gone-on";

  private static final long GRACE_NANOS = 10_000_000_000L;
  private static final long BYTES_PER_SECOND = 16 * 1024;

  private final SlowReaders slow;
  private long limit = CallLimits.STRANGERS;
  private @Nullable Limited stream;

  LimitedRequest(HttpServletRequest request, SlowReaders slow) {
    super(request);
    this.slow = slow;
  }

  /** Allows more, once it is known whose it is and what for. */
  void allow(long bytes) {
    limit = bytes;
  }

  @Override
  public ServletInputStream getInputStream() throws IOException {
    Limited known = stream;
    if (known == null) {
      known = new Limited(super.getInputStream());
      stream = known;
    }
    return known;
  }

  @Override
  public BufferedReader getReader() throws IOException {
    return new BufferedReader(new InputStreamReader(getInputStream(), StandardCharsets.UTF_8));
  }

  /** Nobody reads on. */
  void over() {
    Limited known = stream;
    if (known != null) {
      known.over();
    }
  }

  private final class Limited extends ServletInputStream {
    private final ServletInputStream in;
    private boolean isReading;
    private boolean isOver;
    private long begun;
    private long count;

    Limited(ServletInputStream in) {
      this.in = in;
    }

    private void over() {
      isOver = true;
      if (isReading) {
        isReading = false;
        slow.end(getRemoteAddr());
      }
    }

    private int counted(int n) {
      if (n < 0) {
        over();
        return n;
      }
      count += n;
      if (count > limit) {
        over();
        throw CallLimits.tooLarge(limit);
      }
      long nanos = System.nanoTime() - begun;
      if (nanos > GRACE_NANOS && count < nanos / 1_000_000_000L * BYTES_PER_SECOND) {
        over();
        throw new ProblemException(
            HttpStatus.REQUEST_TIMEOUT,
            "too-slow",
            "The request arrives too slowly. Nothing was done. Send it again.");
      }
      return n;
    }

    private void begin() {
      if (!isReading && !isOver) {
        slow.begin(getRemoteAddr());
        isReading = true;
        begun = System.nanoTime();
      }
    }

    @Override
    public int read() throws IOException {
      byte[] one = new byte[1];
      return read(one, 0, 1) < 0 ? -1 : one[0] & 0xff;
    }

    @Override
    public int read(byte[] into, int from, int most) throws IOException {
      begin();
      return counted(in.read(into, from, most));
    }

    @Override
    public boolean isFinished() {
      return in.isFinished();
    }

    @Override
    public boolean isReady() {
      return in.isReady();
    }

    @Override
    public void setReadListener(ReadListener listener) {
      throw new IllegalStateException("it is read by whoever handles it");
    }
  }
}
