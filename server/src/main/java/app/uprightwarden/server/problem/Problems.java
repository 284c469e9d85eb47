package app.uprightwarden.server.problem;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import org.springframework.http.HttpStatus;

/** Problem documents for where no converter is at hand. */
public final class Problems {
  private Problems() {}

  /**
   * Answers with a problem. Code and detail are our own words and hold nothing that needs escaping.
   *
   * @param request says which language is asked for
   */
  public static void answer(
      HttpServletRequest request,
      HttpServletResponse response,
      HttpStatus status,
      String code,
      String detail)
      throws IOException {
    response.setStatus(status.value());
    response.setContentType("application/problem+json");
    String problem =
        """
    {"type":"urn:upright-warden:problem:%s","title":"%s","status":%d,"detail":"%s","code":"%s"}"""
            .formatted(
                code,
                status.getReasonPhrase(),
                status.value(),
                Sentences.said(detail, Languages.asked(request)),
                code);
    response.getOutputStream().write(problem.getBytes(StandardCharsets.UTF_8));
  }
}
