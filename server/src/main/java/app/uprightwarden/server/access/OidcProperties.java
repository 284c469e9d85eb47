package app.uprightwarden.server.access;

import org.springframework.boot.context.properties.ConfigurationProperties;

/**
 * Where the organisation's people sign in, if it has a provider of OpenID Connect.
 *
 * @param issuer its address; empty where there is none
 * @param clientId what it knows us as
 * @param clientSecret what we prove that with
 */
@ConfigurationProperties("warden.oidc")
public record OidcProperties(String issuer, String clientId, String clientSecret) {
  boolean isConfigured() {
    return !issuer.isBlank();
  }

  @Override
  public String toString() {
    return "provider " + issuer;
  }
}
