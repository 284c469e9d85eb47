package app.uprightwarden.server.calendars;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertTrue;

import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.testng.annotations.Test;

/** Against java.util.regex: the same places, though not every place is tried. */
public class WordFinderTest {
  private static final WordFinder FINDER =
      new WordFinder(
          "(?:meeting )?(?:password|passcode)|key(?: code)?|código|пароль|ölkanne|sesam",
          "密码|パスワード|비밀",
          "\\h{0,3}:\\h{0,3}(?:\\R)?(\\S{1,8})",
          Pattern.CASE_INSENSITIVE | Pattern.UNICODE_CASE);

  /** Words, what stands before and behind them, and letters that are others in another case. */
  private static final List<String> PIECES =
      List.of(
          "password",
          "PassCode",
          "meeting ",
          "Meeting password",
          "key",
          "KEY CODE",
          "\u212aey",
          "Código",
          "CÓDIGO",
          "пароль",
          "Пароль",
          "ÖLKANNE",
          "ölkanne",
          "sesam",
          "\u017fesam",
          "密码",
          "パスワード",
          "비밀",
          ":",
          " : ",
          "：",
          " ",
          "\n",
          "_",
          "-",
          "x",
          "7",
          "\u2460",
          "\u216b",
          "é",
          "e\u0301",
          "\ud83d\ude00",
          "\ud835\udfd8",
          "\ud83d",
          "884210",
          "kelp-41",
          ".");

  private static List<Integer> plainly(String text) {
    List<Integer> found = new ArrayList<>();
    Matcher matcher = FINDER.in(text);
    for (int from = 0; from <= text.length() && matcher.find(from); ) {
      found.add(matcher.start());
      from = Math.max(matcher.start(1), from + 1);
    }
    return found;
  }

  private static List<Integer> quickly(String text) {
    List<Integer> found = new ArrayList<>();
    Matcher matcher = FINDER.in(text);
    for (int from = 0; FINDER.find(matcher, text, from); ) {
      found.add(matcher.start());
      from = Math.max(matcher.start(1), from + 1);
    }
    return found;
  }

  @Test
  public void theSamePlacesAreFound() {
    Random random = new Random(20261129);
    int all = 0;
    for (int i = 0; i < 20_000; i++) {
      StringBuilder text = new StringBuilder();
      for (int pieces = random.nextInt(12); pieces >= 0; pieces--) {
        text.append(PIECES.get(random.nextInt(PIECES.size())));
      }
      List<Integer> places = plainly(text.toString());
      assertEquals(quickly(text.toString()), places, text.toString());
      all += places.size();
    }
    assertTrue(all > 1000, all + " were found");
  }
}
