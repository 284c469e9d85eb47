package app.uprightwarden.server.ledger;

import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.persistence.PersistenceConfig;
import jakarta.servlet.DispatcherType;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.lang.reflect.Type;
import java.util.Map;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.core.MethodParameter;
import org.springframework.http.HttpInputMessage;
import org.springframework.http.converter.HttpMessageConverter;
import org.springframework.security.core.Authentication;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.transaction.TransactionExecution;
import org.springframework.transaction.TransactionExecutionListener;
import org.springframework.web.bind.annotation.ControllerAdvice;
import org.springframework.web.servlet.AsyncHandlerInterceptor;
import org.springframework.web.servlet.HandlerMapping;
import org.springframework.web.servlet.config.annotation.InterceptorRegistry;
import org.springframework.web.servlet.config.annotation.WebMvcConfigurer;
import org.springframework.web.servlet.mvc.method.annotation.RequestBodyAdviceAdapter;

/** Puts the ledger where requests come in and where transactions begin. */
@Configuration
class LedgerConfig implements WebMvcConfigurer {
  private final Ledger ledger;

  LedgerConfig(Ledger ledger) {
    this.ledger = ledger;
  }

  @Override
  public void addInterceptors(InterceptorRegistry registry) {
    registry.addInterceptor(new Requests(ledger)).addPathPatterns("/api/**", "/scim/**");
  }

  /** Tells the ledger of transactions that may change something. */
  @Bean
  static TransactionExecutionListener ledgerTransactions(
      org.springframework.beans.factory.ObjectProvider<Ledger> ledger) {
    return new TransactionExecutionListener() {
      @Override
      public void afterBegin(TransactionExecution transaction, @Nullable Throwable failure) {
        if (failure == null
            && !transaction.isReadOnly()
            && Ledger.inHand() != null
            && !PersistenceConfig.isOneCall(transaction)) {
          ledger.getObject().watch();
        }
      }
    };
  }

  private static final class Requests implements AsyncHandlerInterceptor {
    private final Ledger ledger;

    Requests(Ledger ledger) {
      this.ledger = ledger;
    }

    @Override
    public boolean preHandle(
        HttpServletRequest request, HttpServletResponse response, Object handler) {
      Object pattern = request.getAttribute(HandlerMapping.BEST_MATCHING_PATTERN_ATTRIBUTE);
      boolean isFirst = request.getDispatcherType() == DispatcherType.REQUEST;
      if (isFirst && pattern != null && !request.getMethod().equals("HEAD")) {
        LedgerActions.of(request.getMethod() + " " + pattern)
            .ifPresent(act -> Ledger.begin(inHand(act, request)));
      }
      return true;
    }

    private RequestAuditContext inHand(LedgerActions.Act act, HttpServletRequest request) {
      Authentication authentication = SecurityContextHolder.getContext().getAuthentication();
      Object principal = authentication == null ? null : authentication.getPrincipal();
      String who = principal instanceof SignedIn known ? known.email() : null;
      Object variables = request.getAttribute(HandlerMapping.URI_TEMPLATE_VARIABLES_ATTRIBUTE);
      Object id = variables instanceof Map<?, ?> map ? map.get(act.key()) : null;
      RequestAuditContext hand =
          new RequestAuditContext(
              act,
              id == null ? "" : String.valueOf(id),
              who,
              request.getHeader("Authorization") == null ? "session" : "token",
              request.getRemoteAddr(),
              ledger.now());
      if (request.getMethod().equals("GET")) {
        Map<String, String> asked = new TreeMap<>();
        request.getParameterMap().forEach((name, values) -> asked.put(name, values[0]));
        hand.asked = asked;
      }
      return hand;
    }

    /** What is streamed from here on was allowed: it is written before it is given. */
    @Override
    public void afterConcurrentHandlingStarted(
        HttpServletRequest request, HttpServletResponse response, Object handler) {
      afterCompletion(request, response, handler, null);
    }

    /** An act that needed no transaction is written by itself; one that was refused is not. */
    @Override
    public void afterCompletion(
        HttpServletRequest request,
        HttpServletResponse response,
        Object handler,
        @Nullable Exception failure) {
      RequestAuditContext act = Ledger.inHand();
      try {
        // what was given away in part was read, however it ended
        boolean isRead = request.getMethod().equals("GET") && response.isCommitted();
        boolean isOpen = act != null && !act.written && (failure == null || isRead);
        if (act != null && isOpen && response.getStatus() < 400) {
          ledger.alone();
        } else if (act != null && isOpen && isRefusedSignIn(act, response)) {
          Ledger.begin(act.as("session.refused"));
          ledger.alone();
        }
      } finally {
        Ledger.end();
      }
    }
  }

  /** Who tries and may not is worth knowing; tries past the throttle are not written each. */
  private static boolean isRefusedSignIn(RequestAuditContext act, HttpServletResponse response) {
    return act.act.equals("session.opened") && response.getStatus() == 401;
  }

  /** Hands what was asked to the act in hand. */
  @ControllerAdvice
  static class Bodies extends RequestBodyAdviceAdapter {
    @Override
    public boolean supports(
        MethodParameter parameter, Type type, Class<? extends HttpMessageConverter<?>> converter) {
      return true;
    }

    @Override
    public Object afterBodyRead(
        Object body,
        HttpInputMessage message,
        MethodParameter parameter,
        Type type,
        Class<? extends HttpMessageConverter<?>> converter) {
      RequestAuditContext act = Ledger.inHand();
      if (act != null && !(body instanceof byte[]) && !(body instanceof CharSequence)) {
        act.asked = body;
      }
      return body;
    }
  }
}
