package app.uprightwarden.server.limits;

import app.uprightwarden.server.problem.ProblemException;
import jakarta.servlet.DispatcherType;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.io.InputStream;
import java.security.Principal;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;
import org.jspecify.annotations.Nullable;
import org.springframework.core.annotation.AnnotatedElementUtils;
import org.springframework.stereotype.Component;
import org.springframework.web.method.HandlerMethod;
import org.springframework.web.servlet.AsyncHandlerInterceptor;
import org.springframework.web.util.WebUtils;

/**
 * Holds each call to what it takes ({@link Takes}): the size of its body before anything of it is
 * read, and how much of it one person, and everybody, has under way.
 */
@Component
class CallLimits implements AsyncHandlerInterceptor {
  static final long STRANGERS = 64 * 1024;
  private static final long USUAL = 256 * 1024;

  /** How many times the limit is read and thrown away, so that whoever sent it gets an answer. */
  private static final int DRAINED = 4;

  private static final long MAX_DRAINED_OF_STRANGERS = 1024 * 1024;

  private static final int COSTLY_AT_ONCE = 2;
  private static final int CALLS_OF_ONE = 48;
  private static final long PATIENCE_SECONDS = 20;
  private static final String MINE = CallLimits.class.getName() + ".mine";

  private final Semaphore costly = new Semaphore(COSTLY_AT_ONCE, true);
  private final Map<String, Integer> calls = new ConcurrentHashMap<>();

  /** What a call under way holds. */
  private record Mine(String who, @Nullable String costlyOf) {}

  static ProblemException tooLarge(long limit) {
    String most = limit >= 1024 * 1024 ? limit / 1024 / 1024 + " MiB" : limit / 1024 + " KiB";
    return ProblemException.tooLarge(
        "This takes at most " + most + ". Send less at once. Nothing was stored.");
  }

  @Override
  public boolean preHandle(HttpServletRequest request, HttpServletResponse response, Object handler)
      throws IOException {
    if (!(handler instanceof HandlerMethod method)
        || request.getDispatcherType() != DispatcherType.REQUEST) {
      return true;
    }
    Takes takes = takes(method);
    Principal who = request.getUserPrincipal();
    long said = takes == null ? USUAL : takes.kilobytes() * 1024L;
    checkSize(request, who == null ? Math.min(said, STRANGERS) : said, who != null);
    if (who != null) {
      begin(request, who.getName(), takes != null && takes.costly());
    }
    return true;
  }

  private static @Nullable Takes takes(HandlerMethod method) {
    Takes own = method.getMethodAnnotation(Takes.class);
    return own != null
        ? own
        : AnnotatedElementUtils.findMergedAnnotation(method.getBeanType(), Takes.class);
  }

  private static void checkSize(HttpServletRequest request, long limit, boolean isKnown)
      throws IOException {
    LimitedRequest limited = WebUtils.getNativeRequest(request, LimitedRequest.class);
    if (request.getContentLengthLong() > limit) {
      if (limited != null) {
        drain(limited, isKnown ? limit * DRAINED : MAX_DRAINED_OF_STRANGERS);
      }
      throw tooLarge(limit);
    }
    if (limited != null) {
      limited.allow(limit);
    }
  }

  /** An answer given while the rest still comes is lost with the connection. */
  private static void drain(LimitedRequest request, long most) throws IOException {
    request.allow(most);
    try (InputStream in = request.getInputStream()) {
      byte[] some = new byte[8192];
      while (in.read(some) >= 0) {
        // thrown away
      }
    } catch (ProblemException e) {
      // larger or slower than we have patience for
    } finally {
      request.over();
    }
  }

  private void begin(HttpServletRequest request, String who, boolean isCostly) {
    if (calls.merge(who, 1, Integer::sum) > CALLS_OF_ONE) {
      end(calls, who);
      throw ProblemException.tooMany(
          "You have " + CALLS_OF_ONE + " calls under way. Wait for one of them.");
    }
    String key = "costly " + who;
    if (!isCostly) {
      request.setAttribute(MINE, new Mine(who, null));
      return;
    }
    if (calls.merge(key, 1, Integer::sum) > 1) {
      end(calls, key);
      end(calls, who);
      throw ProblemException.tooMany(
          "You have one of these under way already. It is much work; wait for it.");
    }
    try {
      if (!costly.tryAcquire(PATIENCE_SECONDS, TimeUnit.SECONDS)) {
        end(calls, key);
        end(calls, who);
        throw ProblemException.busy("Others have much under way at this moment. Try again soon.");
      }
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      end(calls, key);
      end(calls, who);
      throw ProblemException.busy("The server is stopping. Try again in a minute.");
    }
    request.setAttribute(MINE, new Mine(who, key));
  }

  private static void end(Map<String, Integer> counts, String key) {
    counts.computeIfPresent(key, (k, n) -> n > 1 ? n - 1 : null);
  }

  @Override
  public void afterCompletion(
      HttpServletRequest request,
      HttpServletResponse response,
      Object handler,
      @Nullable Exception failure) {
    LimitedRequest limited = WebUtils.getNativeRequest(request, LimitedRequest.class);
    if (limited != null) {
      limited.over();
    }
    if (request.getAttribute(MINE) instanceof Mine mine) {
      request.removeAttribute(MINE);
      end(calls, mine.who());
      if (mine.costlyOf() != null) {
        end(calls, mine.costlyOf());
        costly.release();
      }
    }
  }

  /** A handler that goes on by itself, as a stream does, is counted by itself from then on. */
  @Override
  public void afterConcurrentHandlingStarted(
      HttpServletRequest request, HttpServletResponse response, Object handler) {
    request.setAttribute(LimitedRequest.GONE_ON, true);
    afterCompletion(request, response, handler, null);
  }
}
