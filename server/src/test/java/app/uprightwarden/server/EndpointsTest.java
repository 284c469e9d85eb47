package app.uprightwarden.server;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertNotEquals;
import static org.testng.Assert.assertTrue;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.beans.factory.annotation.Qualifier;
import org.springframework.core.annotation.AnnotatedElementUtils;
import org.springframework.security.access.prepost.PreAuthorize;
import org.springframework.util.AntPathMatcher;
import org.springframework.web.bind.annotation.RequestMethod;
import org.springframework.web.servlet.mvc.method.annotation.RequestMappingHandlerMapping;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/**
 * The table of endpoints in the guide: it is what the server offers, and every role is tried on
 * every line of it. Statuses on other people's objects are {@link AccessTest}'s.
 */
public class EndpointsTest extends ServerTest {
  private static final Path GUIDE = Path.of("../docs/guide/endpoints.md");
  private static final List<String> ROLES = List.of("HOST", "UNIT_WARDEN", "AUDITOR", "WARDEN");

  /** Calls that take a file as it is. */
  private static final List<String> FILES =
      List.of("/api/exchange/files", "/api/scheduling/answers");

  private static final Pattern NAMES = Pattern.compile("'([A-Z_]+)'");

  @Autowired
  @Qualifier("requestMappingHandlerMapping")
  private RequestMappingHandlerMapping mappings;

  /** Call → who may, from the code. */
  private Map<String, List<String>> offered() {
    Map<String, List<String>> calls = new TreeMap<>();
    mappings
        .getHandlerMethods()
        .forEach(
            (info, method) -> {
              PreAuthorize rule =
                  AnnotatedElementUtils.findMergedAnnotation(
                      method.getMethod(), PreAuthorize.class);
              for (String path : info.getPatternValues()) {
                for (RequestMethod verb : info.getMethodsCondition().getMethods()) {
                  if (path.startsWith("/api/")) {
                    calls.put(
                        path + " " + verb,
                        path.equals("/api/session")
                            ? List.of("anybody")
                            : may(rule == null ? "isAuthenticated()" : rule.value()));
                  }
                }
              }
            });
    return calls;
  }

  private static List<String> may(String rule) {
    if (rule.startsWith("permitAll")) {
      return List.of("anybody");
    }
    if (rule.startsWith("isAuthenticated")) {
      return ROLES;
    }
    List<String> named = new ArrayList<>();
    Matcher names = NAMES.matcher(rule);
    while (names.find()) {
      named.add(names.group(1));
    }
    return ROLES.stream().filter(named::contains).toList();
  }

  private static String line(String call, List<String> may) {
    int space = call.lastIndexOf(' ');
    StringBuilder line = new StringBuilder();
    line.append("| `%s %s` |".formatted(call.substring(space + 1), call.substring(0, space)));
    for (String role : ROLES) {
      line.append(may.contains("anybody") ? " anybody |" : may.contains(role) ? " yes |" : " |");
    }
    return line.toString();
  }

  @Test
  public void theGuideSaysWhatTheServerOffers() throws IOException {
    List<String> lines = new ArrayList<>();
    offered().forEach((call, may) -> lines.add(line(call, may)));
    String guide = Files.readString(GUIDE);
    if (Boolean.getBoolean("warden.openapi.write")) {
      String head =
          guide.substring(0, guide.indexOf("| `") < 0 ? guide.length() : guide.indexOf("| `"));
      Files.writeString(GUIDE, head + String.join("\n", lines) + "\n");
      guide = Files.readString(GUIDE);
    }
    List<String> told = guide.lines().filter(l -> l.startsWith("| `")).toList();
    assertEquals(told, lines, "run ./warden openapi and commit what it writes");
  }

  @DataProvider
  public Object[][] lines() throws IOException {
    return Files.readString(GUIDE)
        .lines()
        .filter(l -> l.startsWith("| `"))
        .map(
            l -> {
              String[] cells = l.split("\\|", -1);
              String[] call = cells[1].strip().replace("`", "").split(" ");
              List<String> may = new ArrayList<>();
              for (int i = 0; i < ROLES.size(); i++) {
                may.add(cells[2 + i].strip());
              }
              return new Object[] {call[0], call[1], may};
            })
        .toArray(Object[][]::new);
  }

  /** An address like this that means something, out of the other test's. */
  private static String sample(String method, String pattern) {
    AntPathMatcher matcher = new AntPathMatcher();
    Optional<String> known =
        Arrays.stream(new AccessTest().denials())
            .filter(row -> row[0].equals(method))
            .map(row -> (String) row[1])
            .filter(path -> matcher.match(pattern, path.replaceAll("\\?.*", "")))
            // where another call is meant that reads like one of this pattern
            .filter(
                path -> pattern.indexOf('{') < 0 || path.matches(".*\\d.*|.*@.*|.*/x.*|.*none.*"))
            .findFirst();
    return known.orElse(
        pattern.replaceAll("\\{(id|number|version)}", "999999").replaceAll("\\{[^}]+}", "nobody"));
  }

  @Test(dataProvider = "lines")
  public void everyRoleIsTriedOnEveryLine(String method, String pattern, List<String> may) {
    String path = sample(method, pattern);
    Object body = method.equals("GET") ? null : AccessTest.body(method, path);
    boolean isOpen = may.get(0).equals("anybody");
    if (pattern.equals("/api/live") || isOpen) {
      return; // the one does not end by itself; the others are tried where they are used
    }
    assertEquals(send(null, method, path, body).status(), 401, "nobody");
    List<String> people = List.of(HOST, UNIT_WARDEN, AUDITOR, WARDEN);
    for (int i = 0; i < people.size(); i++) {
      boolean mayDoIt = may.get(i).equals("yes");
      if (!mayDoIt) {
        boolean isFile = FILES.contains(pattern);
        Answer answer =
            isFile
                ? sendRaw(people.get(i), path + "?name=x.csv", "x")
                : send(people.get(i), method, path, body);
        assertEquals(answer.status(), 403, people.get(i) + ": " + answer.body());
        assertEquals(answer.json().get("code").stringValue(), "not-allowed", path);
      } else if (method.equals("GET")) {
        Answer answer = send(people.get(i), method, path, null);
        assertNotEquals(answer.status(), 401, people.get(i));
        assertTrue(
            answer.status() != 403
                || !answer.json().get("code").stringValue().equals("not-allowed")
                || path.contains("of=draft")
                || path.contains("draft:")
                || path.contains("person="),
            people.get(i) + ": " + answer.body());
      }
    }
  }
}
