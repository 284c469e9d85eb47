package app.uprightwarden.server.scim;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertNull;
import static org.testng.Assert.assertTrue;
import static org.testng.Assert.expectThrows;

import app.uprightwarden.core.people.Person;
import app.uprightwarden.core.people.Standing;
import app.uprightwarden.server.people.Organisation;
import com.fasterxml.jackson.databind.node.ObjectNode;
import com.unboundid.scim2.common.exceptions.BadRequestException;
import com.unboundid.scim2.common.exceptions.ScimException;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** A person as RFC 7643 writes one, read and written. */
public class ScimUserDocumentTest {
  /** The enterprise user of RFC 7643 section 8.3, shortened; from memory. */
  private static final String ENTERPRISE_USER =
      """
      {
        "schemas": ["urn:ietf:params:scim:schemas:core:2.0:User",
          "urn:ietf:params:scim:schemas:extension:enterprise:2.0:User"],
        "id": "2819c223-7f76-453a-919d-413861904646",
        "externalId": "701984",
        "userName": "bjensen@example.com",
        "name": {
          "formatted": "Ms. Barbara J Jensen, III",
          "familyName": "Jensen", "givenName": "Barbara", "middleName": "Jane",
          "honorificPrefix": "Ms.", "honorificSuffix": "III"
        },
        "displayName": "Babs Jensen",
        "nickName": "Babs",
        "emails": [
          {"value": "bjensen@example.com", "type": "work", "primary": true},
          {"value": "babs@jensen.org", "type": "home"}],
        "userType": "Employee",
        "title": "Tour Guide",
        "timezone": "America/Los_Angeles",
        "active": true,
        "password": "t1meMa$heen",
        "groups": [{"value": "e9e30dba-f08f-4109-8486-d5c6a331660a", "display": "Tour Guides"}],
        "x509Certificates": [{"value": "MIIDQzCCAqygAwIBAgICEAAwDQYJKoZIhvcNAQEFBQAwTjEL"}],
        "urn:ietf:params:scim:schemas:extension:enterprise:2.0:User": {
          "employeeNumber": "701984", "costCenter": "4130", "organization": "Universal Studios",
          "division": "Theme Park", "department": "Tour Operations"
        },
        "meta": {"resourceType": "User"}
      }
      """;

  private static final List<Organisation.Unit> UNITS =
      List.of(
          new Organisation.Unit("tours", "Tour Operations", null),
          new Organisation.Unit("rides", "Rides", null));

  private static ObjectNode parsed(String json) {
    return ScimJson.parse(json);
  }

  private static Person person(ObjectNode given, @Nullable Person before) throws ScimException {
    return ScimUserDocument.person(given, before, UNITS, () -> List.of("example.com"), null);
  }

  @Test
  public void theUserOfTheStandardIsRead() throws ScimException {
    assertEquals(
        person(parsed(ENTERPRISE_USER), null),
        new Person("bjensen@example.com", "Babs Jensen", Standing.MEMBER, "tours", true));
    assertEquals(ScimUserDocument.external(parsed(ENTERPRISE_USER)), "701984");
  }

  @Test
  public void whatNobodyMayReadHereIsNotKept() throws ScimException {
    ObjectNode kept = ScimUserDocument.kept(parsed(ENTERPRISE_USER));
    // RFC 7643 section 4.1.1: a password is never returned; the rest is ours to say, or no use
    for (String name : List.of("password", "groups", "x509Certificates", "id", "meta", "schemas")) {
      assertFalse(kept.has(name), name);
    }
    assertEquals(kept.path("nickName").textValue(), "Babs");
    assertEquals(kept.path(ScimJson.ENTERPRISE).path("costCenter").textValue(), "4130");
    assertFalse(ScimJson.write(kept).contains("t1meMa"));
  }

  @Test
  public void whatIsWrittenIsWhatWasGivenAndWhatWeKeep() throws ScimException {
    ScimRecordEntity row = new ScimRecordEntity();
    row.id = "made-here";
    row.externalId = "701984";
    row.document = ScimJson.write(ScimUserDocument.kept(parsed(ENTERPRISE_USER)));
    Person moved =
        new Person("bjensen@example.com", "Barbara Jensen", Standing.MEMBER, "rides", false);
    ObjectNode written = ScimUserDocument.of(row, moved, UNITS);
    assertEquals(written.path("id").textValue(), "made-here");
    assertEquals(written.path("externalId").textValue(), "701984");
    assertEquals(written.path("userName").textValue(), "bjensen@example.com");
    assertEquals(written.path("displayName").textValue(), "Barbara Jensen", "as we keep it");
    assertFalse(written.path("active").booleanValue());
    assertEquals(written.at("/name/honorificSuffix").textValue(), "III");
    assertEquals(written.at("/emails/1/value").textValue(), "babs@jensen.org");
    assertEquals(written.path(ScimJson.ENTERPRISE).path("department").textValue(), "Rides");
    assertEquals(written.path(ScimJson.ENTERPRISE).path("division").textValue(), "Theme Park");
    assertEquals(written.path("schemas").size(), 2);
    assertEquals(written.at("/meta/location").textValue(), "/scim/v2/Users/made-here");
  }

  @Test
  public void whoHasNoRecordIsWrittenAllTheSame() {
    ScimRecordEntity row = new ScimRecordEntity();
    row.id = "made-up";
    Person guest = new Person("g@elsewhere.example", "A guest", Standing.GUEST, null, true);
    ObjectNode written = ScimUserDocument.of(row, guest, UNITS);
    assertEquals(written.path("userName").textValue(), "g@elsewhere.example");
    assertEquals(written.at("/name/formatted").textValue(), "A guest");
    assertEquals(written.at("/emails/0/value").textValue(), "g@elsewhere.example");
    assertTrue(written.at("/emails/0/primary").booleanValue());
    assertEquals(written.path("userType").textValue(), "guest");
    assertEquals(written.path("schemas").size(), 1, "no department, and so no extension");
  }

  @DataProvider
  public Object[][] names() {
    return new Object[][] {
      {"\"displayName\":\"Shown\",\"name\":{\"formatted\":\"Whole\"}", "Shown"},
      {"\"name\":{\"formatted\":\"Whole\",\"givenName\":\"G\",\"familyName\":\"F\"}", "Whole"},
      {"\"name\":{\"givenName\":\"G\",\"familyName\":\"F\"}", "G F"},
      {"\"name\":{\"familyName\":\"F\"}", "F"},
      {"\"nickName\":\"N\"", "u@example.com"},
    };
  }

  @Test(dataProvider = "names")
  public void aNameIsTheOneThatIsShownElseWhatThereIs(String said, String name)
      throws ScimException {
    ObjectNode given = parsed("{\"userName\":\"u@example.com\"," + said + "}");
    assertEquals(person(given, null).name(), name);
  }

  @Test
  public void inAPatchTheNameThatWasChangedCounts() throws ScimException {
    ObjectNode was =
        parsed(
            """
            {"userName":"u@example.com","displayName":"Old Name",
             "name":{"formatted":"Old Name","givenName":"Old","familyName":"Name"}}
            """);
    Person before = person(was, null);
    ObjectNode family = was.deepCopy();
    ((ObjectNode) family.get("name")).put("familyName", "Other");
    ObjectNode formatted = was.deepCopy();
    ((ObjectNode) formatted.get("name")).put("formatted", "O. Other");
    ObjectNode shown = was.deepCopy().put("displayName", "Shown Other");
    assertEquals(patched(family, before, was).name(), "Old Other");
    assertEquals(patched(formatted, before, was).name(), "O. Other");
    assertEquals(patched(shown, before, was).name(), "Shown Other");
  }

  private static Person patched(ObjectNode given, Person before, ObjectNode was)
      throws ScimException {
    return ScimUserDocument.person(given, before, UNITS, List::of, was);
  }

  @DataProvider
  public Object[][] standings() {
    return new Object[][] {
      {"\"userName\":\"u@example.com\"", Standing.MEMBER},
      {"\"userName\":\"u@EXAMPLE.com\"", Standing.MEMBER},
      {"\"userName\":\"u@elsewhere.example\"", Standing.GUEST},
      {"\"userName\":\"u@elsewhere.example\",\"userType\":\"Contractor\"", Standing.MEMBER},
      {"\"userName\":\"u@example.com\",\"userType\":\"Guest\"", Standing.GUEST},
    };
  }

  @Test(dataProvider = "standings")
  public void whoIsAGuestIsSaidOrFollowsFromTheDomain(String given, Standing standing)
      throws ScimException {
    assertEquals(person(parsed("{" + given + "}"), null).standing(), standing);
  }

  @Test
  public void whatIsNotSaidOfSomebodyKnownStays() throws ScimException {
    Person before = new Person("U@example.com", "As it was", Standing.GUEST, "rides", false);
    assertEquals(person(parsed("{\"userName\":\"u@example.com\"}"), before), before);
  }

  @Test
  public void theAddressIsTheUserNameElseThePrimaryMail() throws ScimException {
    ObjectNode named =
        parsed(
            """
            {"userName":"bjensen","emails":[
              {"value":"first@example.com"},{"value":"primary@example.com","primary":true}]}
            """);
    assertEquals(ScimUserDocument.address(named), "primary@example.com");
    assertEquals(
        ScimUserDocument.address(
            parsed("{\"userName\":\"bjensen\",\"emails\":[{\"value\":\"first@example.com\"}]}")),
        "first@example.com");
    assertNull(ScimUserDocument.external(named));
    expectThrows(
        BadRequestException.class,
        () -> ScimUserDocument.address(parsed("{\"userName\":\"bjensen\"}")));
    expectThrows(BadRequestException.class, () -> ScimUserDocument.address(parsed("{}")));
  }

  @DataProvider
  public Object[][] tooMuch() {
    return new Object[][] {
      {"\"externalId\":\"" + "e".repeat(255) + "\""},
      {"\"displayName\":\"" + "n".repeat(201) + "\""},
      {"\"title\":\"" + "t".repeat(16_001) + "\""},
    };
  }

  @Test(dataProvider = "tooMuch")
  public void limitsAreKept(String more) {
    ObjectNode given = parsed("{\"userName\":\"u@example.com\"," + more + "}");
    expectThrows(
        BadRequestException.class,
        () -> {
          ScimUserDocument.external(given);
          ScimUserDocument.kept(given);
          person(given, null);
        });
  }
}
