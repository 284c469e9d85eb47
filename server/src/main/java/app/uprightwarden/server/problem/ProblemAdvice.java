package app.uprightwarden.server.problem;

import jakarta.validation.ConstraintViolationException;
import jakarta.validation.ElementKind;
import jakarta.validation.Path;
import java.net.URI;
import java.sql.SQLException;
import java.sql.SQLNonTransientConnectionException;
import java.sql.SQLRecoverableException;
import java.sql.SQLTransientException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.TypeMismatchException;
import org.springframework.context.MessageSourceResolvable;
import org.springframework.dao.DataAccessResourceFailureException;
import org.springframework.dao.NonTransientDataAccessResourceException;
import org.springframework.dao.PessimisticLockingFailureException;
import org.springframework.dao.QueryTimeoutException;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.HttpStatusCode;
import org.springframework.http.ProblemDetail;
import org.springframework.http.ResponseEntity;
import org.springframework.http.converter.HttpMessageNotReadableException;
import org.springframework.jdbc.UncategorizedSQLException;
import org.springframework.orm.ObjectOptimisticLockingFailureException;
import org.springframework.orm.jpa.JpaSystemException;
import org.springframework.security.access.AccessDeniedException;
import org.springframework.security.core.AuthenticationException;
import org.springframework.transaction.CannotCreateTransactionException;
import org.springframework.transaction.TransactionSystemException;
import org.springframework.validation.FieldError;
import org.springframework.validation.method.ParameterValidationResult;
import org.springframework.web.bind.MethodArgumentNotValidException;
import org.springframework.web.bind.MissingServletRequestParameterException;
import org.springframework.web.bind.annotation.ExceptionHandler;
import org.springframework.web.bind.annotation.RestControllerAdvice;
import org.springframework.web.context.request.WebRequest;
import org.springframework.web.method.annotation.HandlerMethodValidationException;
import org.springframework.web.method.annotation.MethodArgumentTypeMismatchException;
import org.springframework.web.servlet.mvc.method.annotation.ResponseEntityExceptionHandler;

/**
 * Turns exceptions into problem documents; an unforeseen one gets a number that the log has too.
 */
@RestControllerAdvice
class ProblemAdvice extends ResponseEntityExceptionHandler {
  private static final Logger LOG = LoggerFactory.getLogger(ProblemAdvice.class);

  /** MariaDB: disk full, error writing a file (no space), the table is full. */
  private static final Set<Integer> DISK_FULL = Set.of(1021, 1026, 1114);

  @ExceptionHandler
  ResponseEntity<ProblemDetail> known(ProblemException e) {
    return answer(problem(e.status(), e.code(), String.valueOf(e.getMessage()), e.faults()));
  }

  @ExceptionHandler
  ResponseEntity<ProblemDetail> stale(ObjectOptimisticLockingFailureException e) {
    return answer(
        problem(
            HttpStatus.CONFLICT,
            "changed-meanwhile",
            "Somebody else changed this meanwhile. Load it again and repeat the change.",
            List.of()));
  }

  /** Two changes met in the database and one gave way; nothing of it was stored. */
  @ExceptionHandler
  ResponseEntity<ProblemDetail> collided(PessimisticLockingFailureException e) {
    LOG.info("a change gave way to another: {}", e.getClass().getSimpleName());
    return answer(
        problem(
            HttpStatus.CONFLICT,
            "changed-meanwhile",
            "Somebody else changed this at the same time. Load it again and repeat the change.",
            List.of()));
  }

  /** The database is away, too slow, or full, or all its connections are in use. */
  @ExceptionHandler({
    DataAccessResourceFailureException.class,
    CannotCreateTransactionException.class,
    QueryTimeoutException.class,
    TransactionSystemException.class,
    JpaSystemException.class,
    UncategorizedSQLException.class,
    NonTransientDataAccessResourceException.class
  })
  ResponseEntity<ProblemDetail> storeAway(Exception e) {
    SQLException cause = sqlCause(e);
    if (cause != null && DISK_FULL.contains(cause.getErrorCode())) {
      LOG.error("the database has no room left: {}", oneLine(cause));
      return answer(
          problem(
              HttpStatus.INSUFFICIENT_STORAGE,
              "no-room",
              "The database has no room left on its disk. Nothing was changed. Make room, then try"
                  + " again.",
              List.of()));
    }
    if (cause == null || !isConnection(cause)) {
      // it answered, and what it said is nobody's doing but ours
      LOG.error("the database refuses", e);
    } else {
      LOG.warn("the database is away: {}", oneLine(cause));
    }
    if (cause != null && isOurs(cause)) {
      return unforeseen(e);
    }
    return answer(
        problem(
            HttpStatus.SERVICE_UNAVAILABLE,
            "store-away",
            "The database does not answer at this moment. Look whether it was done before you try"
                + " again.",
            List.of()));
  }

  /** SQLSTATE 08: of connections (SQL:2016, part 2, table 38); 70100: MariaDB was told to stop. */
  private static boolean isConnection(SQLException e) {
    String state = String.valueOf(e.getSQLState());
    return e instanceof SQLNonTransientConnectionException
        || e instanceof SQLTransientException
        || e instanceof SQLRecoverableException
        || state.startsWith("08")
        || state.equals("70100");
  }

  /** SQLSTATE 21, 22 and 42: a statement or a value that cannot be right, however often. */
  private static boolean isOurs(SQLException e) {
    String state = String.valueOf(e.getSQLState());
    return state.startsWith("21") || state.startsWith("22") || state.startsWith("42");
  }

  private static @Nullable SQLException sqlCause(Throwable e) {
    Throwable at = e;
    while (at != null && !(at instanceof SQLException)) {
      at = at.getCause();
    }
    return (SQLException) at;
  }

  private static String oneLine(Exception e) {
    return String.valueOf(e.getMessage()).replaceAll("\\s+", " ");
  }

  @ExceptionHandler
  ResponseEntity<ProblemDetail> violated(ConstraintViolationException e) {
    List<Fault> faults =
        e.getConstraintViolations().stream()
            .map(v -> new Fault(where(v.getPropertyPath()), v.getMessage()))
            .toList();
    return answer(
        problem(HttpStatus.UNPROCESSABLE_CONTENT, "invalid", "Some values are wrong.", faults));
  }

  /**
   * A parameter by its name, a field by its way; what our method is called is nobody's business.
   */
  private static String where(Path path) {
    List<String> parameters = new ArrayList<>();
    List<String> fields = new ArrayList<>();
    for (Path.Node node : path) {
      if (node.getKind() == ElementKind.PROPERTY || node.getIndex() != null) {
        if (node.getIndex() != null) {
          fields.add(String.valueOf(node.getIndex()));
        }
        if (node.getKind() == ElementKind.PROPERTY) {
          fields.add(String.valueOf(node.getName()));
        }
      } else if (node.getKind() == ElementKind.PARAMETER) {
        parameters.add(String.valueOf(node.getName()));
      }
    }
    return "/" + String.join("/", fields.isEmpty() ? parameters : fields);
  }

  /** Security's own exceptions go on to its filters, which know what to answer. */
  @ExceptionHandler
  void denied(AccessDeniedException e) {
    throw e;
  }

  @ExceptionHandler
  void unauthenticated(AuthenticationException e) {
    throw e;
  }

  @ExceptionHandler
  ResponseEntity<ProblemDetail> unforeseen(Exception e) {
    String number = UUID.randomUUID().toString();
    LOG.error("fault {}", number, e);
    ProblemDetail problem =
        problem(
            HttpStatus.INTERNAL_SERVER_ERROR,
            "fault",
            "Something went wrong here. Nothing was changed. The log has it under " + number + ".",
            List.of());
    return answer(problem);
  }

  @Override
  protected ResponseEntity<Object> handleMethodArgumentNotValid(
      MethodArgumentNotValidException e,
      HttpHeaders headers,
      HttpStatusCode status,
      WebRequest request) {
    List<Fault> faults =
        e.getBindingResult().getFieldErrors().stream()
            .map(
                f ->
                    new Fault(
                        "/" + f.getField().replace('.', '/'),
                        String.valueOf(f.getDefaultMessage())))
            .toList();
    ProblemDetail problem =
        problem(HttpStatus.UNPROCESSABLE_CONTENT, "invalid", "Some values are wrong.", faults);
    return ResponseEntity.status(problem.getStatus()).body(problem);
  }

  /** A value in the address that is not of its kind. */
  @Override
  protected ResponseEntity<Object> handleTypeMismatch(
      TypeMismatchException e, HttpHeaders headers, HttpStatusCode status, WebRequest request) {
    String name =
        e instanceof MethodArgumentTypeMismatchException of ? of.getName() : e.getPropertyName();
    return inTheAddress(String.valueOf(name), form(e.getRequiredType()));
  }

  private static String form(@Nullable Class<?> wanted) {
    if (wanted == Instant.class) {
      return "is no time; write it as 2026-05-01T09:00:00Z";
    }
    if (wanted == boolean.class || wanted == Boolean.class) {
      return "is true or false";
    }
    boolean isNumber =
        wanted != null && (wanted.isPrimitive() || Number.class.isAssignableFrom(wanted));
    return isNumber ? "is no whole number" : "cannot be read";
  }

  @Override
  protected ResponseEntity<Object> handleMissingServletRequestParameter(
      MissingServletRequestParameterException e,
      HttpHeaders headers,
      HttpStatusCode status,
      WebRequest request) {
    return inTheAddress(e.getParameterName(), "is missing");
  }

  /** Values in the address that break a limit or are none of those that there are. */
  @Override
  protected ResponseEntity<Object> handleHandlerMethodValidationException(
      HandlerMethodValidationException e,
      HttpHeaders headers,
      HttpStatusCode status,
      WebRequest request) {
    List<Fault> faults = new ArrayList<>();
    for (ParameterValidationResult of : e.getParameterValidationResults()) {
      String name = String.valueOf(of.getMethodParameter().getParameterName());
      for (MessageSourceResolvable each : of.getResolvableErrors()) {
        String where = each instanceof FieldError f ? f.getField().replace('.', '/') : name;
        faults.add(new Fault("/" + where, String.valueOf(each.getDefaultMessage())));
      }
    }
    ProblemDetail problem =
        problem(HttpStatus.UNPROCESSABLE_CONTENT, "invalid", "Some values are wrong.", faults);
    return ResponseEntity.status(problem.getStatus()).body(problem);
  }

  private static ResponseEntity<Object> inTheAddress(String name, String what) {
    ProblemDetail problem =
        problem(
            HttpStatus.UNPROCESSABLE_CONTENT,
            "invalid",
            "A value in the address is wrong: " + name + " " + what + ".",
            List.of(new Fault("/" + name, what)));
    return ResponseEntity.status(problem.getStatus()).body(problem);
  }

  @Override
  protected ResponseEntity<Object> handleHttpMessageNotReadable(
      HttpMessageNotReadableException e,
      HttpHeaders headers,
      HttpStatusCode status,
      WebRequest request) {
    ProblemDetail problem =
        problem(
            HttpStatus.BAD_REQUEST,
            "unreadable",
            "The request is not the JSON that is expected here.",
            List.of());
    return ResponseEntity.status(problem.getStatus()).body(problem);
  }

  /** A problem document; {@code faults} is left out where there are none. */
  public static ProblemDetail problem(
      HttpStatus status, String code, String detail, @Nullable List<Fault> faults) {
    ProblemDetail problem = ProblemDetail.forStatusAndDetail(status, Sentences.said(detail));
    problem.setType(URI.create("urn:upright-warden:problem:" + code));
    problem.setProperty("code", code);
    if (faults != null && !faults.isEmpty()) {
      problem.setProperty("faults", faults);
    }
    return problem;
  }

  private static ResponseEntity<ProblemDetail> answer(ProblemDetail problem) {
    return ResponseEntity.status(problem.getStatus()).body(problem);
  }
}
