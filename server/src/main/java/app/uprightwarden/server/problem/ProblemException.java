package app.uprightwarden.server.problem;

import java.util.List;
import org.springframework.http.HttpStatus;

/** A request that cannot be met; answered as a problem document. */
public final class ProblemException extends RuntimeException {
  private final HttpStatus status;
  private final String code;
  private final List<Fault> faults;

  /** For what none of the makers below says. */
  public ProblemException(HttpStatus status, String code, String detail) {
    this(status, code, detail, List.of());
  }

  public ProblemException(HttpStatus status, String code, String detail, List<Fault> faults) {
    super(detail);
    this.status = status;
    this.code = code;
    this.faults = List.copyOf(faults);
  }

  public static ProblemException notFound(String what) {
    return new ProblemException(HttpStatus.NOT_FOUND, "not-found", what, List.of());
  }

  public static ProblemException conflict(String code, String detail) {
    return new ProblemException(HttpStatus.CONFLICT, code, detail, List.of());
  }

  public static ProblemException conflict(String code, String detail, List<Fault> faults) {
    return new ProblemException(HttpStatus.CONFLICT, code, detail, faults);
  }

  public static ProblemException forbidden(String code, String detail) {
    return new ProblemException(HttpStatus.FORBIDDEN, code, detail, List.of());
  }

  public static ProblemException unreadable(String detail, List<Fault> faults) {
    return new ProblemException(HttpStatus.BAD_REQUEST, "unreadable", detail, faults);
  }

  public static ProblemException invalid(String detail, List<Fault> faults) {
    return new ProblemException(HttpStatus.UNPROCESSABLE_CONTENT, "invalid", detail, faults);
  }

  public static ProblemException tooLarge(String detail) {
    return new ProblemException(HttpStatus.CONTENT_TOO_LARGE, "too-large", detail, List.of());
  }

  public static ProblemException tooMany(String detail) {
    return new ProblemException(HttpStatus.TOO_MANY_REQUESTS, "too-many", detail, List.of());
  }

  /** 503: it will go again soon. */
  public static ProblemException busy(String detail) {
    return new ProblemException(HttpStatus.SERVICE_UNAVAILABLE, "busy", detail, List.of());
  }

  public static ProblemException unauthorised(String code, String detail) {
    return new ProblemException(HttpStatus.UNAUTHORIZED, code, detail, List.of());
  }

  public static ProblemException unauthorised(String detail) {
    return new ProblemException(HttpStatus.UNAUTHORIZED, "not-signed-in", detail, List.of());
  }

  public HttpStatus status() {
    return status;
  }

  /** A word a program can tell problems apart by. */
  public String code() {
    return code;
  }

  public List<Fault> faults() {
    return faults;
  }
}
