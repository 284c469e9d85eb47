package app.uprightwarden.server.access;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.security.config.annotation.web.builders.HttpSecurity;
import org.springframework.security.core.Authentication;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.security.oauth2.client.registration.ClientRegistration;
import org.springframework.security.oauth2.client.registration.ClientRegistrationRepository;
import org.springframework.security.oauth2.client.registration.ClientRegistrations;
import org.springframework.security.oauth2.core.oidc.user.OidcUser;
import org.springframework.stereotype.Component;

/**
 * Signing in at the organisation's own provider (OpenID Connect), by Spring Security's client. It
 * opens accounts that are here, and makes none: the provider's subject is bound to the account at
 * the first sign-in by an address that the provider has verified, and counts alone from then on.
 */
@Component
class OidcSignIn {
  static final String START = "/api/provider";
  static final String BACK = "/api/provider/back";
  private static final Logger LOG = LoggerFactory.getLogger(OidcSignIn.class);
  private static final String ID = "house";

  private final OidcProperties properties;
  private final AccessService access;
  private final SessionOpening opening;
  private final AccountRepository accounts;

  OidcSignIn(
      OidcProperties properties,
      AccessService access,
      SessionOpening opening,
      AccountRepository accounts) {
    this.properties = properties;
    this.access = access;
    this.opening = opening;
    this.accounts = accounts;
  }

  /** Asks the provider for its addresses at the first sign-in, so that we start without it. */
  private final class Lazily implements ClientRegistrationRepository {
    private @Nullable ClientRegistration known;

    @Override
    public synchronized @Nullable ClientRegistration findByRegistrationId(String id) {
      if (!id.equals(ID)) {
        return null;
      }
      if (known == null) {
        known =
            ClientRegistrations.fromIssuerLocation(properties.issuer())
                .registrationId(ID)
                .clientId(properties.clientId())
                .clientSecret(properties.clientSecret())
                .redirectUri("{baseUrl}" + BACK + "/{registrationId}")
                .scope("openid", "email", "profile")
                .build();
      }
      return known;
    }
  }

  /** Adds it to what guards the requests, where a provider is configured. */
  void into(HttpSecurity http) throws Exception {
    if (!properties.isConfigured()) {
      return;
    }
    http.oauth2Login(
        login ->
            login
                .clientRegistrationRepository(new Lazily())
                .authorizationEndpoint(start -> start.baseUri(START))
                .redirectionEndpoint(back -> back.baseUri(BACK + "/*"))
                .loginPage("/")
                .successHandler(this::succeeded)
                .failureHandler(
                    (request, response, why) -> {
                      LOG.info("a sign-in at the provider failed: {}", oneLine(why.getMessage()));
                      refused(request, response, "failed");
                    }));
  }

  private static String oneLine(@Nullable String text) {
    return text == null ? "" : text.replaceAll("\\s+", " ");
  }

  private void succeeded(
      HttpServletRequest request, HttpServletResponse response, Authentication proof)
      throws IOException {
    Optional<AccountEntity> account =
        proof.getPrincipal() instanceof OidcUser user ? accountOf(user) : Optional.empty();
    if (account.isEmpty()) {
      refused(request, response, "unknown");
      return;
    }
    // the provider looks after a second factor itself
    SignedIn who = access.entered(account.get(), KnownNetworks.of(request.getRemoteAddr()));
    opening.open(
        new SignedIn(who.email(), who.name(), who.role(), who.unit(), false),
        SessionOpening.PROVIDER,
        request,
        response);
    response.sendRedirect("/");
  }

  private Optional<AccountEntity> accountOf(OidcUser user) {
    String subject = properties.issuer() + " " + user.getSubject();
    Optional<AccountEntity> bound = access.bySubject(subject);
    if (bound.isPresent() || user.getEmail() == null) {
      return bound;
    }
    Optional<AccountEntity> named =
        Boolean.TRUE.equals(user.getEmailVerified())
            ? access.byAddress(user.getEmail()).filter(a -> a.providerSubject() == null)
            : Optional.empty();
    return named.filter(a -> accounts.bind(a.id(), subject) == 1);
  }

  private static void refused(HttpServletRequest request, HttpServletResponse response, String why)
      throws IOException {
    SecurityContextHolder.clearContext();
    if (request.getSession(false) != null) {
      request.getSession(false).invalidate();
    }
    response.sendRedirect("/?provider=" + why);
  }
}
