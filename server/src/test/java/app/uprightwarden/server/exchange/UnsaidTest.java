package app.uprightwarden.server.exchange;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.core.people.Person;
import app.uprightwarden.core.people.Standing;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;
import tools.jackson.databind.json.JsonMapper;

/** What a file of people does not say stays as it is, in every format. Invented people. */
public class UnsaidTest {
  private static final Person LEAVER =
      new Person("jo@saltmarsh.example", "Jo Byrne", Standing.GUEST, "accounts", false);
  private static final Person OTHER =
      new Person("una@saltmarsh.example", "Una Quill", Standing.MEMBER, null, true);

  private static FoundPeople known() {
    return new FoundPeople(TablesTest.HARBOUR, List.of(LEAVER, OTHER));
  }

  private static Person table(String text) {
    FoundPeople found = DirectoryTables.people(Tables.read(text), known());
    assertEquals(found.refused(), List.of());
    return found.people().get(0).thing();
  }

  private static Person ldif(String... lines) {
    String text =
        "version: 1\ndn: uid=jo,dc=x\nobjectclass: person\nmail: jo@saltmarsh.example\n"
            + String.join("\n", lines)
            + "\n";
    return Ldif.read(text, known()).people().people().get(0).thing();
  }

  private static Person scim(String rest) {
    String text =
        "{\"schemas\":[\"urn:ietf:params:scim:schemas:core:2.0:User\"],\"id\":\"1\","
            + "\"userName\":\"jo@saltmarsh.example\""
            + rest
            + "}";
    return Scim.read(JsonMapper.builder().build().readTree(text), known())
        .people()
        .people()
        .get(0)
        .thing();
  }

  @Test
  public void whatIsNotSaidStays() {
    assertEquals(table("email,name\njo@saltmarsh.example,Jo Byrne\n"), LEAVER);
    assertEquals(table("email,name,unit,active\nJO@saltmarsh.example,,,\n"), LEAVER);
    assertEquals(ldif("cn: Jo Byrne"), LEAVER);
    assertEquals(scim(""), LEAVER);
  }

  @Test
  public void whatIsSaidCounts() {
    assertTrue(table("email,name,active\njo@saltmarsh.example,Jo,yes\n").active());
    assertEquals(table("email,name,unit\njo@saltmarsh.example,Jo,-\n").unit(), null);
    assertEquals(ldif("cn: Joanna", "userAccountControl: 512").name(), "Joanna");
  }

  @DataProvider
  public Object[][] states() {
    return new Object[][] {
      {scim(",\"active\":\"False\""), false},
      {scim(",\"active\":\"True\""), true},
      {scim(",\"active\":false"), false},
      {scim(",\"active\":true"), true},
      {ldif("userAccountControl: 514"), false},
      {ldif("userAccountControl: 66050"), false},
      {ldif("userAccountControl: 512"), true},
      {ldif("nsAccountLock: TRUE"), false},
      {ldif("nsAccountLock: false"), true},
    };
  }

  @Test(dataProvider = "states")
  public void whoMaySignInIsRead(Person person, boolean active) {
    assertEquals(person.active(), active);
  }

  @Test
  public void aStateThatIsNoneIsRefused() {
    FoundPeople found =
        DirectoryTables.people(
            Tables.read("email,name,active\njo@saltmarsh.example,Jo,perhaps\n"), known());
    assertTrue(found.refused().get(0).place().remarks().get(0).contains("perhaps"));
  }

  private static final String GROUPS =
      """
      version: 1
      dn: uid=ann,dc=x
      mail: ann@saltmarsh.example

      dn: cn=All hands,dc=x
      cn: All hands
      member: CN=Night Watch,DC=x
      member: uid=jo,dc=elsewhere
      member: uid=nobody,dc=x

      dn: cn=Night watch,dc=x
      cn: Night watch
      member: uid=ann,dc=x
      member: cn=All hands,dc=x
      member: cn=Una Quill,ou=old,dc=x

      """;

  /** A group in a group, in a circle, with people whom only the register knows. */
  @Test
  public void groupsInGroupsAreTheirMembers() {
    Map<String, List<String>> lists = new TreeMap<>();
    Ldif.read(GROUPS, known()).lists().forEach(l -> lists.put(l.id(), l.members()));
    assertEquals(
        lists.get("all-hands"),
        List.of("ann@saltmarsh.example", "una@saltmarsh.example", "jo@saltmarsh.example"));
    assertTrue(lists.get("night-watch").contains("una@saltmarsh.example"));
  }

  @Test
  public void twoGroupsOfOneNameStayTwoWhateverTheirOrder() {
    String one = "dn: cn=Pilots,ou=north,dc=x\ncn: Pilots\nmember: uid=ann,dc=x\n\n";
    String two = "dn: cn=Pilots,ou=south,dc=x\ncn: Pilots!\nmember: uid=una,dc=x\n\n";
    List<String> here = ids("version: 1\n" + one + two);
    List<String> there = ids("version: 1\n" + two + one);
    assertEquals(here.stream().distinct().count(), 2);
    assertEquals(here, List.of(there.get(1), there.get(0)));
  }

  private static List<String> ids(String ldif) {
    List<String> ids = new ArrayList<>();
    Ldif.read(ldif, known()).lists().forEach(list -> ids.add(list.id()));
    return ids;
  }

  @Test
  public void idsAndMembersAreCheckedAsABundlesAre() {
    ImportTally tally = new ImportTally();
    var good =
        FoundGroups.checked(
            DirectoryTables.gatherings(
                Tables.read(
                    "id,name,members\nok,Ok,a@x.example\n<b>,Bad,a@x.example\nno,No,nobody\n"),
                "list"),
            "lists",
            tally);
    assertEquals(good.size(), 1);
    assertEquals(tally.report(true, null, "x").refused(), 2);
  }
}
