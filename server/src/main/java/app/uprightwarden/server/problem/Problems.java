package app.uprightwarden.server.problem;

import java.nio.charset.StandardCharsets;
import org.springframework.http.HttpStatus;

/** Problem documents for where no converter is at hand. */
public final class Problems {
  private Problems() {}

  /** Code and detail are our own words and hold nothing that needs escaping. */
  public static byte[] json(HttpStatus status, String code, String detail) {
    return """
    {"type":"urn:upright-warden:problem:%s","title":"%s","status":%d,"detail":"%s","code":"%s"}"""
        .formatted(code, status.getReasonPhrase(), status.value(), detail, code)
        .getBytes(StandardCharsets.UTF_8);
  }
}
