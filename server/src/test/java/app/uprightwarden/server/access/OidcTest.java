package app.uprightwarden.server.access;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.server.Visitor;
import java.net.URI;
import java.net.http.HttpResponse;
import java.util.List;
import java.util.Map;
import no.nav.security.mock.oauth2.MockOAuth2Server;
import no.nav.security.mock.oauth2.token.DefaultOAuth2TokenCallback;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.boot.test.context.SpringBootTest;
import org.springframework.boot.test.web.server.LocalServerPort;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.test.context.DynamicPropertyRegistry;
import org.springframework.test.context.DynamicPropertySource;
import org.springframework.test.context.testng.AbstractTestNGSpringContextTests;
import org.testng.annotations.AfterClass;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.Test;

/** Signing in at a provider, by its real protocol; the provider runs on loopback. */
@SpringBootTest(webEnvironment = SpringBootTest.WebEnvironment.RANDOM_PORT)
public class OidcTest extends AbstractTestNGSpringContextTests {
  private static final String MEMBER = "oidc.member@saltmarsh.example";
  private static final MockOAuth2Server PROVIDER = started();

  @LocalServerPort private int port;
  @Autowired private JdbcClient jdbc;
  @Autowired private AccessService access;

  private static MockOAuth2Server started() {
    MockOAuth2Server server = new MockOAuth2Server();
    server.start();
    return server;
  }

  @DynamicPropertySource
  static void properties(DynamicPropertyRegistry registry) {
    String url = System.getenv("WARDEN_TEST_DB_URL");
    registry.add(
        "spring.datasource.url",
        () -> url.replaceAll("/warden$", "/warden_oidc") + "?createDatabaseIfNotExist=true");
    registry.add("spring.datasource.username", () -> System.getenv("WARDEN_TEST_DB_USER"));
    registry.add("spring.datasource.password", () -> System.getenv("WARDEN_TEST_DB_PASSWORD"));
    registry.add("warden.secret-file", () -> System.getenv("WARDEN_TEST_DIR") + "/oidc.key");
    registry.add("warden.oidc.issuer", () -> PROVIDER.issuerUrl("house").toString());
    registry.add("warden.oidc.client-id", () -> "upright-warden");
    registry.add("warden.oidc.client-secret", () -> "known to both");
  }

  @BeforeMethod
  public void makeAccount() {
    jdbc.sql("delete from account where email = ?").param(MEMBER).update();
    access.createAccount(MEMBER, "Olga Member", Role.AUDITOR, "");
  }

  @AfterClass(alwaysRun = true)
  public void stopProvider() {
    PROVIDER.shutdown();
  }

  /** Goes the way a browser goes, and says where it ends. */
  private String signIn(Visitor visitor, String subject, String email, Boolean verified) {
    PROVIDER.enqueueCallback(
        new DefaultOAuth2TokenCallback(
            "house",
            subject,
            "JWT",
            List.of("upright-warden"),
            Map.of("email", email, "email_verified", verified),
            3600));
    URI at = URI.create("http://localhost:" + port + "/api/provider/house");
    for (int i = 0; i < 6; i++) {
      HttpResponse<String> seen = visitor.visit(at);
      String to = seen.headers().firstValue("Location").orElse("");
      if (to.isEmpty()) {
        return at.getPath() + " " + seen.statusCode() + " " + seen.body();
      }
      at = at.resolve(to);
      if (at.getPath().equals("/")) {
        return at.toString().replaceFirst("http://[^/]*", "");
      }
    }
    return "in a circle at " + at;
  }

  private String role(Visitor visitor) {
    return visitor
        .visit(URI.create("http://localhost:" + port + "/api/session"))
        .body()
        .replaceFirst("(?s).*\"role\":(\"[a-z-]+\"|null).*", "$1");
  }

  @Test
  public void aVerifiedAddressOpensItsAccountAndIsBoundToIt() {
    Visitor visitor = new Visitor(port);
    assertEquals(signIn(visitor, "subject-1", MEMBER, true), "/");
    assertEquals(role(visitor), "\"auditor\"");
    // from then on the subject counts, whatever the address
    Visitor again = new Visitor(port);
    assertEquals(signIn(again, "subject-1", "renamed@elsewhere.example", false), "/");
    assertEquals(role(again), "\"auditor\"");
    // and nobody else with the same address comes in
    Visitor other = new Visitor(port);
    assertEquals(signIn(other, "subject-2", MEMBER, true), "/?provider=unknown");
    assertEquals(role(other), "null");
  }

  @Test
  public void anAddressThatIsNotVerifiedOrUnknownOpensNothing() {
    Visitor visitor = new Visitor(port);
    assertEquals(signIn(visitor, "subject-3", MEMBER, false), "/?provider=unknown");
    assertEquals(signIn(visitor, "subject-4", "x@elsewhere.example", true), "/?provider=unknown");
    assertEquals(role(visitor), "null");
    assertEquals(
        jdbc.sql("select count(*) from account where provider_subject is not null")
            .query(Integer.class)
            .single(),
        0);
  }

  @Test
  public void anAccountThatWasLetGoStaysOut() {
    Visitor visitor = new Visitor(port);
    assertEquals(signIn(visitor, "subject-5", MEMBER, true), "/");
    jdbc.sql("update account set active = 0 where email = ?").param(MEMBER).update();
    assertEquals(signIn(new Visitor(port), "subject-5", MEMBER, true), "/?provider=unknown");
  }

  @Test
  public void anAnswerNobodyAskedForIsRefused() {
    Visitor visitor = new Visitor(port);
    HttpResponse<String> seen =
        visitor.visit(
            URI.create(
                "http://localhost:"
                    + port
                    + "/api/provider/back/house?code=made-up&state=made-up"));
    assertTrue(
        seen.headers().firstValue("Location").orElse("").endsWith("/?provider=failed"),
        seen.headers().toString());
  }
}
