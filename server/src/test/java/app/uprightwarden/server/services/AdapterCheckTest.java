package app.uprightwarden.server.services;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.standins.Make;
import app.uprightwarden.standins.StandIn;
import com.sun.net.httpserver.HttpServer;
import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.time.Clock;
import java.util.List;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** The kit finds both stand-ins right, and wrong ones wrong in the place where they are. */
public class AdapterCheckTest {
  private static final String KEY = "a key";

  @DataProvider
  public Object[][] makes() {
    return new Object[][] {{Make.REDSHANK}, {Make.CURLEW}};
  }

  private static StandIn standIn(Make make) throws IOException {
    return new StandIn(
        make, 0, KEY, Files.createTempDirectory("check").resolve("held.jsonl"), Clock.systemUTC());
  }

  private static List<String> failing(String address, String key) throws InterruptedException {
    return AdapterCheck.check(address, key).stream()
        .filter(result -> !result.holds())
        .map(AdapterCheck.Result::rule)
        .toList();
  }

  @Test(dataProvider = "makes")
  public void theStandInsHoldEveryRule(Make make) throws IOException, InterruptedException {
    try (StandIn standIn = standIn(make)) {
      assertEquals(failing(standIn.address().toString(), KEY), List.of());
      assertEquals(standIn.tooMany(), 0);
      assertEquals(standIn.ids(), List.of(), "nothing is left behind");
    }
  }

  @Test
  public void oneThatSaysDoneAndDoesNothingFails() throws IOException, InterruptedException {
    try (StandIn standIn = standIn(Make.REDSHANK)) {
      standIn.faults().lies = true;
      List<AdapterCheck.Result> results =
          AdapterCheck.check(standIn.address().toString(), KEY).stream()
              .filter(result -> !result.holds())
              .toList();
      assertFalse(results.isEmpty());
      assertTrue(results.get(0).line().contains("GET /v2/meetings/"), results.get(0).line());
      assertTrue(
          results.stream().anyMatch(result -> result.rule().startsWith("What is ordered is done")),
          results.toString());
    }
  }

  @Test
  public void oneThatTellsTwiceFails() throws IOException, InterruptedException {
    try (StandIn standIn = standIn(Make.REDSHANK)) {
      standIn.make("h@example.org", java.util.Map.of("title", "One"));
      standIn.faults().repeats = true;
      assertTrue(
          failing(standIn.address().toString(), KEY).get(0).startsWith("Everything is told"));
    }
  }

  @Test
  public void aWrongKeyAndAStrangerFailFromTheStart() throws IOException, InterruptedException {
    try (StandIn standIn = standIn(Make.CURLEW)) {
      assertTrue(
          failing(standIn.address().toString(), "another").get(0).startsWith("It says what"));
    }
    HttpServer stranger =
        HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 0);
    stranger.createContext(
        "/",
        exchange -> {
          byte[] page = "<html>hello</html>".getBytes(StandardCharsets.UTF_8);
          exchange.sendResponseHeaders(200, page.length);
          exchange.getResponseBody().write(page);
          exchange.close();
        });
    stranger.start();
    try {
      List<AdapterCheck.Result> results =
          AdapterCheck.check("http://127.0.0.1:" + stranger.getAddress().getPort(), KEY);
      assertTrue(results.stream().noneMatch(AdapterCheck.Result::holds), "" + results);
    } finally {
      stranger.stop(0);
    }
  }
}
