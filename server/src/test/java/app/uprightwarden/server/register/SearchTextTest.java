package app.uprightwarden.server.register;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertNotEquals;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.server.ServerTest;
import java.util.List;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.testng.annotations.Test;

/**
 * Against the Unicode Collation Algorithm as MariaDB has it ({@code utf8mb4_unicode_520_ci}): what
 * it would find in a text is found in the folded one.
 */
public class SearchTextTest extends ServerTest {
  private static final List<String> WORDS =
      List.of(
          "Réunion",
          "reunion",
          "RÉUNION",
          "re\u0301union",
          "naïve",
          "NAIVE",
          "Łódź",
          "lodz",
          "Straße",
          "STRASSE",
          "strasse",
          "Ærø",
          "aero",
          "Œuvre",
          "oeuvre",
          "Đakovo",
          "dakovo",
          "Ångström",
          "angstrom",
          "\u212bngstrom",
          "İzmir",
          "izmir",
          "IZMIR",
          "ΟΔΟΣ",
          "οδος",
          "όδος",
          "МОЛ",
          "мол",
          "ёлка",
          "елка",
          "ﬁn",
          "fin",
          "Ｆull",
          "full",
          "①",
          "1",
          "パス",
          "ﾊﾟｽ",
          "ぱす",
          "Ħal",
          "hal",
          "ij",
          "ĳ",
          "ñandú",
          "nandu",
          "100%",
          "_",
          "שָׁלוֹם",
          "שלום",
          "مُحَمَّد",
          "محمد",
          "किताब",
          "कताब",
          "ที่",
          "ท",
          "Gatt og vík",
          "vik");

  @Autowired private JdbcClient jdbc;

  @Test
  public void whatADatabaseWouldFindIsFound() {
    int both = 0;
    for (String in : WORDS) {
      for (String text : WORDS) {
        boolean byDatabase =
            jdbc.sql(
                    "select (? collate utf8mb4_unicode_520_ci) like concat('%', replace(replace(?,"
                        + " '%', '!%'), '_', '!_'), '%') escape '!'")
                .params(in, text)
                .query(Boolean.class)
                .single();
        if (byDatabase) {
          both++;
          String message = "“" + text + "” in “" + in + "”";
          assertTrue(SearchText.folded(in).contains(SearchText.folded(text)), message);
        }
      }
    }
    assertTrue(both > WORDS.size() + 20, both + " pairs");
  }

  @Test
  public void lettersThatStandForTwoAreFoundAsTwo() {
    assertEquals(SearchText.folded("Große Œuvres auf Ærø"), "grosse oeuvres auf aero");
    assertEquals(SearchText.folded("Straße"), SearchText.folded("STRASSE"));
  }

  @Test
  public void vowelsThatAreMarksAreToldApart() {
    for (String[] two : new String[][] {{"किताब", "कताब"}, {"की", "कि"}, {"กิน", "กน"}}) {
      assertNotEquals(SearchText.folded(two[0]), SearchText.folded(two[1]));
    }
  }

  @Test
  public void noMoreThanAnIndexTakes() {
    String longest = SearchText.of("ﷺ".repeat(500), "h@x.example", "H");
    assertEquals(longest.length(), SearchText.MAX);
    // one character that would be cut in two
    assertTrue(SearchText.of("\ud83d\ude00".repeat(380), "", "").length() <= SearchText.MAX);
  }
}
