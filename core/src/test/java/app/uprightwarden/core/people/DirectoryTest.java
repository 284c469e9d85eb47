package app.uprightwarden.core.people;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertNull;
import static org.testng.Assert.assertTrue;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

public class DirectoryTest {
  private static Directory directory() {
    Map<String, @Nullable String> parents = new HashMap<>();
    parents.put("harbour", null);
    parents.put("pilotage", "harbour");
    // two that name each other
    parents.put("east", "west");
    parents.put("west", "east");
    return new Directory(
        List.of(
            new Person("Ann@Saltmarsh.example", "Ann", Standing.MEMBER, "pilotage", true),
            new Person("g@elsewhere.example", "G", Standing.GUEST, null, true)),
        List.of("Partner.example"),
        parents,
        Map.of("list:all", List.of("a@x.example"), "space:quay", List.of("b@x.example")));
  }

  @DataProvider
  public Object[][] addresses() {
    return new Object[][] {
      {" ann@saltmarsh.EXAMPLE ", Standing.MEMBER},
      {"g@elsewhere.example", Standing.GUEST},
      {"somebody@PARTNER.example", Standing.PARTNER},
      // what is before the last @ is no domain, and a part of a domain is not the domain
      {"\"a@partner.example\"@other.example", Standing.OUTSIDER},
      {"somebody@not-partner.example", Standing.OUTSIDER},
      {"somebody@sub.partner.example", Standing.OUTSIDER},
      {"somebody@saltmarsh.example", Standing.OUTSIDER},
    };
  }

  @Test(dataProvider = "addresses")
  public void whatSomebodyIsFollowsFromTheirAddress(String email, Standing standing) {
    assertEquals(directory().standingOf(email), standing);
  }

  @Test
  public void groupsAndUnitsThatNobodyKnowsAreEmpty() {
    Directory directory = directory();
    assertEquals(directory.membersOfList("all"), List.of("a@x.example"));
    assertEquals(directory.membersOfSpace("quay"), List.of("b@x.example"));
    assertEquals(directory.membersOfList("quay"), List.of());
    assertEquals(directory.membersOfSpace("all"), List.of());
    assertEquals(directory.unitPath("pilotage"), List.of("harbour", "pilotage"));
    assertEquals(directory.unitPath("nowhere"), List.of());
    assertEquals(directory.unitPath(null), List.of());
    assertEquals(directory.unitPath("east"), List.of("west", "east"), "it comes to an end");
  }

  @Test
  public void rightsAndPersonasAreFoundByTheirIds() {
    for (Right right : Right.all()) {
      assertEquals(Right.byId(right.id()), right);
    }
    assertNull(Right.byId("nothing"));
    for (Persona persona : Persona.all()) {
      assertEquals(Objects.requireNonNull(Persona.byId(persona.id())), persona);
    }
    assertNull(Persona.byId("nobody"));
    assertTrue(Right.all().size() > 5);
  }
}
