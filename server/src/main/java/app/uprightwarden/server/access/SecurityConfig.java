package app.uprightwarden.server.access;

import app.uprightwarden.server.problem.Problems;
import jakarta.servlet.DispatcherType;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.core.Ordered;
import org.springframework.http.HttpMethod;
import org.springframework.http.HttpStatus;
import org.springframework.security.authentication.AuthenticationManager;
import org.springframework.security.config.annotation.method.configuration.EnableMethodSecurity;
import org.springframework.security.config.annotation.web.builders.HttpSecurity;
import org.springframework.security.config.annotation.web.configurers.HeadersConfigurer;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.security.crypto.argon2.Argon2PasswordEncoder;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.security.web.SecurityFilterChain;
import org.springframework.security.web.authentication.AnonymousAuthenticationFilter;
import org.springframework.security.web.context.HttpSessionSecurityContextRepository;
import org.springframework.security.web.context.SecurityContextRepository;
import org.springframework.security.web.header.writers.ReferrerPolicyHeaderWriter.ReferrerPolicy;
import org.springframework.web.servlet.config.annotation.InterceptorRegistry;
import org.springframework.web.servlet.config.annotation.WebMvcConfigurer;

/** Who may reach what. What a role may do is said at each endpoint; here is what all share. */
@Configuration
@EnableMethodSecurity
class SecurityConfig implements WebMvcConfigurer {
  /** Nothing but our own files, no inline code, no frames. */
  static final String POLICY =
      "default-src 'none'; script-src 'self'; style-src 'self'; img-src 'self' data:;"
          + " font-src 'self'; connect-src 'self'; form-action 'self'; base-uri 'none';"
          + " frame-ancestors 'none'";

  private static final int SALT_BYTES = 16;
  private static final int HASH_BYTES = 32;
  private static final int LANES = 1;

  @Override
  public void addInterceptors(InterceptorRegistry registry) {
    registry.addInterceptor(new FactorGate()).order(Ordered.HIGHEST_PRECEDENCE);
  }

  private static final String[] TOLD_SIGNED = {"/api/bridge/events", "/api/services/*/told"};

  @Bean
  PasswordEncoder passwordEncoder() {
    return new Argon2PasswordEncoder(
        SALT_BYTES, HASH_BYTES, LANES, Passwords.MEMORY_KIB, Passwords.PASSES);
  }

  @Bean
  SecurityContextRepository securityContextRepository() {
    return new HttpSessionSecurityContextRepository();
  }

  /** There is no form login or basic sign-in; without this bean Boot would make up a user. */
  @Bean
  AuthenticationManager authenticationManager() {
    return authentication -> {
      throw new UnsupportedOperationException("sign-in goes through /api/session");
    };
  }

  @Bean
  SecurityFilterChain chain(
      HttpSecurity http,
      AccessTokens tokens,
      AccessService access,
      SessionEnds ends,
      SecurityContextRepository contexts,
      OidcSignIn oidc)
      throws Exception {
    oidc.into(http);
    return http.securityContext(c -> c.securityContextRepository(contexts))
        .addFilterBefore(new BearerFilter(tokens), AnonymousAuthenticationFilter.class)
        .addFilterBefore(new Recheck(access, ends), AnonymousAuthenticationFilter.class)
        .csrf(
            csrf ->
                csrf.spa()
                    .ignoringRequestMatchers(BearerFilter::isBearer)
                    .ignoringRequestMatchers(TOLD_SIGNED))
        .authorizeHttpRequests(
            requests ->
                requests
                    // the second half of an answer that was authorised when it began
                    .dispatcherTypeMatchers(DispatcherType.ASYNC)
                    .permitAll()
                    .requestMatchers(HttpMethod.POST, "/api/session", "/api/welcome/**")
                    .permitAll()
                    // whoever tells events signs them
                    .requestMatchers(HttpMethod.POST, TOLD_SIGNED)
                    .permitAll()
                    .requestMatchers(HttpMethod.GET, "/api/session", "/api/health", "/api/health/*")
                    .permitAll()
                    .requestMatchers("/api/prometheus")
                    .hasAnyRole("WARDEN", "AUDITOR")
                    .requestMatchers("/scim/**")
                    .hasRole("DIRECTORY")
                    // whoever only keeps the directory has no business with anything else
                    .requestMatchers("/api/**")
                    .hasAnyRole("WARDEN", "UNIT_WARDEN", "AUDITOR", "HOST", "LIMITED")
                    .requestMatchers(HttpMethod.GET, "/**")
                    .permitAll()
                    .anyRequest()
                    .denyAll())
        .exceptionHandling(
            e ->
                e.authenticationEntryPoint(
                        (request, response, why) ->
                            answer(
                                request,
                                response,
                                HttpStatus.UNAUTHORIZED,
                                "not-signed-in",
                                "Sign in, or send a valid access token."))
                    .accessDeniedHandler(
                        (request, response, why) -> {
                          // a stranger without the token against forgery is a stranger first
                          boolean stranger =
                              SecurityContextHolder.getContext().getAuthentication() == null
                                  && !request.getRequestURI().equals("/api/session")
                                  && !request.getRequestURI().startsWith("/api/welcome");
                          answer(
                              request,
                              response,
                              stranger ? HttpStatus.UNAUTHORIZED : HttpStatus.FORBIDDEN,
                              stranger ? "not-signed-in" : "not-allowed",
                              stranger
                                  ? "Sign in, or send a valid access token."
                                  : "Your account may not do this.");
                        }))
        .headers(
            headers ->
                headers
                    .contentSecurityPolicy(p -> p.policyDirectives(POLICY))
                    .referrerPolicy(r -> r.policy(ReferrerPolicy.NO_REFERRER))
                    .frameOptions(HeadersConfigurer.FrameOptionsConfig::deny))
        .requestCache(cache -> cache.disable())
        .logout(logout -> logout.disable())
        .formLogin(login -> login.disable())
        .httpBasic(basic -> basic.disable())
        .build();
  }

  /** A directory is told in the words of its own protocol (RFC 7644 section 3.12). */
  static void answer(
      HttpServletRequest request,
      HttpServletResponse response,
      HttpStatus status,
      String code,
      String detail)
      throws IOException {
    if (!request.getRequestURI().startsWith("/scim/")) {
      Problems.answer(request, response, status, code, detail);
      return;
    }
    response.setStatus(status.value());
    response.setContentType("application/scim+json");
    String error =
        "{\"schemas\":[\"urn:ietf:params:scim:api:messages:2.0:Error\"],\"status\":\"%d\",\"detail\":\"%s\"}"
            .formatted(status.value(), detail);
    response.getOutputStream().write(error.getBytes(StandardCharsets.UTF_8));
  }
}
