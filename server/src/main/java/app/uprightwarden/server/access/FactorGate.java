package app.uprightwarden.server.access;

import jakarta.servlet.DispatcherType;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.Authentication;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.web.method.HandlerMethod;
import org.springframework.web.servlet.HandlerInterceptor;

/**
 * Somebody who owes a second factor can set one up, and nothing else. It decides on the method that
 * would answer, not on the text of the address, which has many spellings. What has no such method,
 * the files of the pages, is open to everybody anyway.
 */
class FactorGate implements HandlerInterceptor {
  @Override
  public boolean preHandle(HttpServletRequest request, HttpServletResponse response, Object handler)
      throws IOException {
    Authentication known = SecurityContextHolder.getContext().getAuthentication();
    boolean isLimited =
        known != null && known.getPrincipal() instanceof SignedIn who && who.limited();
    boolean isAnswer =
        handler instanceof HandlerMethod && request.getDispatcherType() != DispatcherType.ERROR;
    if (!isLimited || !isAnswer || isOpen((HandlerMethod) handler)) {
      return true;
    }
    SecurityConfig.answer(
        request,
        response,
        HttpStatus.FORBIDDEN,
        "second-factor-missing",
        "Your role needs a second factor. Set one up on the page of your account first.");
    return false;
  }

  private static boolean isOpen(HandlerMethod method) {
    return method.hasMethodAnnotation(WithoutFactor.class)
        || method.getBeanType().isAnnotationPresent(WithoutFactor.class);
  }
}
