package app.uprightwarden.server.exchange;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertTrue;
import static org.testng.Assert.expectThrows;

import app.uprightwarden.server.people.Organisation;
import app.uprightwarden.server.problem.ProblemException;
import java.io.ByteArrayInputStream;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;
import tools.jackson.databind.MappingIterator;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.dataformat.csv.CsvMapper;
import tools.jackson.dataformat.csv.CsvReadFeature;

/** CSV by RFC 4180's rules and against a reference parser; LDIF and SCIM by their standards. */
public class TablesTest {
  static final Organisation HARBOUR =
      new Organisation(
          "Harbour",
          List.of("example.com"),
          List.of(),
          new Organisation.Plan(100, 240),
          List.of(new Organisation.Unit("accounts", "Product Testing", null)),
          List.of(),
          List.of(),
          List.of(),
          List.of());

  private static List<List<String>> rows(String text) {
    Tables.Table table = Tables.read(text);
    return table.rows().stream()
        .map(row -> table.columns().stream().map(row::get).toList())
        .toList();
  }

  /** RFC 4180 section 2, rules 1 to 7, with their own examples under a header. */
  @DataProvider
  public Object[][] rfc() {
    String head = "a,b,c\r\n";
    return new Object[][] {
      {
        head + "aaa,bbb,ccc\r\nzzz,yyy,xxx\r\n",
        List.of(List.of("aaa", "bbb", "ccc"), List.of("zzz", "yyy", "xxx"))
      },
      {
        head + "aaa,bbb,ccc\r\nzzz,yyy,xxx",
        List.of(List.of("aaa", "bbb", "ccc"), List.of("zzz", "yyy", "xxx"))
      },
      {
        head + "\"aaa\",\"bbb\",\"ccc\"\r\nzzz,yyy,xxx",
        List.of(List.of("aaa", "bbb", "ccc"), List.of("zzz", "yyy", "xxx"))
      },
      {
        head + "\"aaa\",\"b\r\nbb\",\"ccc\"\r\nzzz,yyy,xxx",
        List.of(List.of("aaa", "b\r\nbb", "ccc"), List.of("zzz", "yyy", "xxx"))
      },
      {head + "\"aaa\",\"b\"\"bb\",\"ccc\"", List.of(List.of("aaa", "b\"bb", "ccc"))},
      {head + " aaa , b,\r\n", List.of(List.of(" aaa ", " b", ""))},
      // what we accept besides: LF alone, semicolons
      {"a,b\nx,y\n", List.of(List.of("x", "y"))},
      {"a;b\r\n\"x;1\";y,2\r\n", List.of(List.of("x;1", "y,2"))},
    };
  }

  @Test(dataProvider = "rfc")
  public void readByTheRules(String text, List<List<String>> expected) {
    assertEquals(rows(text), expected);
  }

  /** Tables of awkward cells, written here and read by Jackson's CSV parser, and by ourselves. */
  @Test
  public void aReferenceParserReadsWhatIsWritten() {
    Random random = new Random(17);
    String[] parts = {
      "a", ",", ";", "\"", "\n", "\r\n", " ", "é", "🌊", "=", "+1", "-", "@x", "'", "\t"
    };
    List<List<String>> table = new ArrayList<>();
    for (int row = 0; row < 300; row++) {
      List<String> cells = new ArrayList<>();
      for (int cell = 0; cell < 4; cell++) {
        StringBuilder text = new StringBuilder();
        for (int i = random.nextInt(5); i > 0; i--) {
          text.append(parts[random.nextInt(parts.length)]);
        }
        cells.add(cell == 0 ? "k" + text : text.toString());
      }
      table.add(cells);
    }
    String text = Tables.write(List.of("a", "b", "c", "d"), table);
    List<List<String>> reference = new ArrayList<>();
    try (MappingIterator<String[]> all =
        new CsvMapper()
            .readerFor(String[].class)
            .with(CsvReadFeature.WRAP_AS_ARRAY)
            .readValues(text)) {
      all.forEachRemaining(cells -> reference.add(List.of(cells)));
    }
    assertEquals(reference.size(), 301);
    for (int row = 0; row < 300; row++) {
      for (int cell = 0; cell < 4; cell++) {
        String safe = reference.get(row + 1).get(cell);
        assertEquals(safe, Tables.safe(table.get(row).get(cell)));
        assertTrue(safe.isEmpty() || "=+-@\t\r".indexOf(safe.charAt(0)) < 0, safe);
      }
    }
    assertEquals(rows(text), table, "and comes back as it was");
  }

  @DataProvider
  public Object[][] unreadable() {
    return new Object[][] {
      {"title,start\n\"open quote,x\n", "cannot be read"},
      {"title\tstart\nx\ty\n", "apart by tabs"},
      {"title,start,title\nx,y,z\n", "is there twice"},
    };
  }

  @Test(dataProvider = "unreadable")
  public void whatIsNoTableIsSaidSo(String text, String words) {
    ProblemException told = expectThrows(ProblemException.class, () -> Tables.read(text));
    assertTrue(String.valueOf(told.getMessage()).contains(words), told.getMessage());
  }

  @DataProvider
  public Object[][] files() {
    byte[] latin = "title,start\nTide\nKüste,x\n".getBytes(Charset.forName("ISO-8859-1"));
    return new Object[][] {
      {latin, "Line 3 holds byte 0xFC"},
      {"title".getBytes(StandardCharsets.UTF_16), "UTF-16"},
      {new byte[] {'P', 'K', 3, 4, 0, 0}, "archive"},
      {new byte[] {0x1f, (byte) 0x8b, 8, 0}, "archive"},
      {" \n".getBytes(StandardCharsets.UTF_8), "empty"},
    };
  }

  @Test(dataProvider = "files")
  public void filesThatAreNoTextAreTurnedAway(byte[] bytes, String words) {
    ProblemException told =
        expectThrows(ProblemException.class, () -> FileText.read(new ByteArrayInputStream(bytes)));
    assertTrue(String.valueOf(told.getMessage()).contains(words), told.getMessage());
  }

  @Test
  public void aByteOrderMarkIsNoPartOfTheHeader() {
    byte[] bytes = "\ufefftitle,start\n".getBytes(StandardCharsets.UTF_8);
    assertEquals(FileText.read(new ByteArrayInputStream(bytes)), "title,start\n");
  }

  /** RFC 2849, examples 1, 2 and 4 (folded, base64, changes), shortened to what matters here. */
  @Test
  public void ldifByItsStandard() {
    String text =
        """
        version: 1
        dn: cn=Barbara Jensen, ou=Product Development, dc=airius, dc=com
        objectclass: top
        objectclass: person
        cn: Barbara Jensen
        cn: Barbara J Jensen
        sn: Jensen
        uid: bjensen
        mail: bjensen@example.com
        description: Babs is a big sailing fan, and travels extensively in sea
         rch of perfect sailing conditions.

        dn: cn=Gern Jensen, ou=Product Testing, dc=airius, dc=com
        cn: Gern Jensen
        ou: Product Testing
        mail: gern@elsewhere.example
        description:: V2hhdCBhIGNhcmVmdWwgcmVhZGVyIHlvdSBhcmUhICBUaGlzIHZhbHVlIGlzIGJhc2UtNjQtZW5jb2RlZA==

        dn: cn=Sailors, dc=airius, dc=com
        objectclass: groupOfNames
        cn: Sailors
        member: cn=barbara jensen,ou=product development,dc=airius,dc=com
        member: cn=Nobody,dc=airius,dc=com

        dn: cn=Robert Jensen, ou=Marketing, dc=airius, dc=com
        changetype: delete

        """;
    Ldif.Found found = Ldif.read(text, new FoundPeople(HARBOUR, List.of()));
    var people = found.people().people();
    assertEquals(people.size(), 2);
    assertEquals(people.get(0).thing().name(), "Barbara Jensen");
    assertEquals(people.get(0).thing().standing().id(), "member", "by the domain");
    assertEquals(people.get(1).thing().standing().id(), "guest");
    assertEquals(people.get(1).thing().unit(), "accounts");
    assertEquals(found.lists().get(0).members(), List.of("bjensen@example.com"));
    assertTrue(found.lists().get(0).remarks().get(0).contains("one member"));
    assertEquals(found.people().refused().size(), 1);
  }

  /** RFC 7643 section 8.2 (full user), section 8.4 (group), in a list response of RFC 7644. */
  @Test
  public void scimByItsStandard() {
    String text =
        """
        {"schemas": ["urn:ietf:params:scim:api:messages:2.0:ListResponse"], "totalResults": 2,
         "Resources": [
          {"schemas": ["urn:ietf:params:scim:schemas:core:2.0:User"],
           "id": "2819c223-7f76-453a-919d-413861904646", "externalId": "701984",
           "userName": "bjensen@example.com",
           "name": {"formatted": "Ms. Barbara J Jensen, III", "familyName": "Jensen",
                    "givenName": "Barbara"},
           "displayName": "Babs Jensen",
           "emails": [{"value": "bjensen@example.com", "type": "work", "primary": true},
                      {"value": "babs@jensen.org", "type": "home"}],
           "userType": "Employee", "timezone": "America/Los_Angeles", "active": true},
          {"schemas": ["urn:ietf:params:scim:schemas:core:2.0:Group"],
           "id": "e9e30dba-f08f-4109-8486-d5c6a331660a", "displayName": "Tour Guides",
           "members": [{"value": "2819c223-7f76-453a-919d-413861904646", "display": "Babs Jensen"},
                       {"value": "902c246b-6245-4190-8e05-00816be7344a"}]}]}
        """;
    var document = JsonMapper.builder().build().readTree(text);
    assertTrue(Scim.isScim(document));
    Ldif.Found found = Scim.read(document, new FoundPeople(HARBOUR, List.of()));
    var person = found.people().people().get(0).thing();
    assertEquals(person.email(), "bjensen@example.com");
    assertEquals(person.name(), "Babs Jensen");
    assertTrue(person.active());
    assertEquals(found.people().zones().get("bjensen@example.com").getId(), "America/Los_Angeles");
    assertEquals(found.lists().get(0).id(), "tour-guides");
    assertEquals(found.lists().get(0).members(), List.of("bjensen@example.com"));
  }
}
