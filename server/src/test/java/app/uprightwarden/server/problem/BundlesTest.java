package app.uprightwarden.server.problem;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertTrue;

import com.ibm.icu.text.MessageFormat;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Bundles have the same texts in each language, and templates ask for no other. */
public class BundlesTest {
  private static final Path PRINT = Path.of("src/main/resources/print");

  @DataProvider
  public static Object[][] bundles() {
    return new Object[][] {{"report"}, {"recurrence"}, {"audit-page"}, {"rulebook-page"}};
  }

  @Test(dataProvider = "bundles")
  public void haveTheSameTextsWithTheSamePlaces(String name) {
    Map<String, String> english = Wording.of(name, Locale.ENGLISH).all();
    for (Locale language : Languages.ALL) {
      Map<String, String> other = Wording.of(name, language).all();
      assertEquals(new TreeSet<>(other.keySet()), new TreeSet<>(english.keySet()));
      other.forEach((key, text) -> assertEquals(places(text), places(english.get(key)), key));
    }
  }

  private static Set<String> places(String text) {
    return text.contains("'") || !text.contains("{")
        ? Set.of()
        : new TreeSet<>(new MessageFormat(text, Locale.ROOT).getArgumentNames());
  }

  @Test
  public void withoutALanguagesBundleItIsEnglishWhateverTheMachineSpeaks() {
    Locale before = Locale.getDefault();
    Locale.setDefault(Locale.GERMAN);
    try {
      assertEquals(Wording.of("report", Locale.ENGLISH).text("name5"), "grave");
      assertEquals(Wording.of("report", Locale.FRENCH).text("name5"), "grave");
    } finally {
      Locale.setDefault(before);
    }
  }

  @Test
  public void templatesHoldNoWordsAndAskForNoneThatIsMissing() throws IOException {
    for (String name : Set.of("audit", "rulebook")) {
      String template =
          Files.readString(PRINT.resolve(name + ".mustache"))
              .replaceAll("(?s)<style>.*?</style>", "");
      Set<String> asked =
          Pattern.compile("\\{t\\.([a-zA-Z]+)}")
              .matcher(template)
              .results()
              .map(found -> found.group(1))
              .collect(Collectors.toCollection(TreeSet::new));
      Set<String> had = Wording.of(name + "-page", Locale.ENGLISH).all().keySet();
      asked.forEach(key -> assertTrue(had.contains(key), name + " asks for " + key));
      String words = template.replaceAll("\\{\\{\\{?[^}]*}}}?", "").replaceAll("<[^>]*>", "");
      assertFalse(Pattern.compile("\\p{L}{3,}").matcher(words).find(), words);
    }
  }
}
