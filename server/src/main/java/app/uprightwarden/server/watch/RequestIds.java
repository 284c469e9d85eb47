package app.uprightwarden.server.watch;

import app.uprightwarden.server.problem.Problems;
import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.util.UUID;
import java.util.regex.Pattern;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.slf4j.MDC;
import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;
import org.springframework.dao.DataAccessException;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Component;
import org.springframework.transaction.TransactionException;
import org.springframework.web.filter.OncePerRequestFilter;
import org.springframework.web.servlet.HandlerMapping;

/**
 * Gives each request an id, or takes the one a proxy gave it. It is in every line of the log that
 * the request writes, and in the answer. Addresses are logged as their patterns: what is typed into
 * one stays out of the log.
 */
@Component
@Order(Ordered.HIGHEST_PRECEDENCE)
class RequestIds extends OncePerRequestFilter {
  static final String HEADER = "X-Request-Id";
  private static final Logger LOG = LoggerFactory.getLogger("app.uprightwarden.requests");
  private static final Pattern GOOD = Pattern.compile("[A-Za-z0-9-]{8,64}");
  private static final long SLOW_MILLIS = 2000;

  @Override
  protected void doFilterInternal(
      HttpServletRequest request, HttpServletResponse response, FilterChain chain)
      throws ServletException, IOException {
    String given = request.getHeader(HEADER);
    String id =
        given != null && GOOD.matcher(given).matches() ? given : UUID.randomUUID().toString();
    response.setHeader(HEADER, id);
    long start = System.nanoTime();
    MDC.put("request", id);
    try {
      chain.doFilter(request, response);
    } catch (DataAccessException | TransactionException e) {
      // sessions and tokens are looked up before any controller could answer for them
      LOG.warn("the database is away: {}", String.valueOf(e.getMessage()).replaceAll("\\s+", " "));
      if (!response.isCommitted()) {
        response.reset();
        response.setHeader(HEADER, id);
        Problems.answer(
            request,
            response,
            HttpStatus.SERVICE_UNAVAILABLE,
            "store-away",
            "The database does not answer at this moment. Try again soon.");
      }
    } finally {
      told(request, response, (System.nanoTime() - start) / 1_000_000);
      MDC.remove("request");
    }
  }

  private static void told(
      HttpServletRequest request, HttpServletResponse response, long milliseconds) {
    Object pattern = request.getAttribute(HandlerMapping.BEST_MATCHING_PATTERN_ATTRIBUTE);
    boolean isQuestion = request.getMethod().equals("GET");
    boolean isWorthIt =
        response.getStatus() >= 500 || milliseconds > SLOW_MILLIS && !request.isAsyncStarted();
    if (pattern != null && (isWorthIt || !isQuestion)) {
      LOG.info(
          "{} {} answered {} after {} ms",
          request.getMethod(),
          pattern,
          response.getStatus(),
          milliseconds);
    }
  }
}
