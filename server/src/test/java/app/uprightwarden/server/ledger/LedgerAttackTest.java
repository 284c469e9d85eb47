package app.uprightwarden.server.ledger;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.server.ServerTest;
import app.uprightwarden.server.Visitor;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.time.Clock;
import java.util.ArrayList;
import java.util.Base64;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import javax.crypto.Mac;
import javax.crypto.spec.SecretKeySpec;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.test.annotation.DirtiesContext;
import org.springframework.test.context.TestPropertySource;
import org.springframework.transaction.support.TransactionTemplate;
import org.testng.annotations.AfterMethod;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;

/**
 * Somebody who has the database, and not the key file, tells another story: whatever they do to the
 * chain, verification names it. And whatever text is written down is hashed, stored and shown
 * alike.
 */
@DirtiesContext
@TestPropertySource(
    properties = {
      "test.schema=warden_ledger_attack",
      "warden.ledger.anchors=${WARDEN_TEST_DIR}/anchors.jsonl"
    })
public class LedgerAttackTest extends ServerTest {
  private static final List<String> TABLES =
      List.of("ledger_entry", "ledger_touched", "ledger_head");

  private static final Path ANCHORS = Path.of(System.getenv("WARDEN_TEST_DIR"), "anchors.jsonl");

  @Autowired private JdbcClient jdbc;
  @Autowired private LedgerRepository ledger;
  @Autowired private LedgerAnchors anchors;
  @Autowired private LedgerChain chain;
  @Autowired private LedgerSeal seal;
  @Autowired private TransactionTemplate transaction;

  @BeforeMethod
  public void somethingHappens() {
    for (int i = 0; i < 3; i++) {
      Map<String, Object> list = Map.of("name", "List " + i, "members", List.of(HOST));
      send(WARDEN, "PUT", "/api/people/groups/lists/attacked-" + i, list).is(200);
    }
    assertTrue(verified().get("whole").booleanValue(), verified().toString());
    keep();
  }

  /** The demo still works in the background: what is kept, and put back, is of one moment. */
  private void keep() {
    TABLES.forEach(t -> jdbc.sql("create table if not exists kept_" + t + " like " + t).update());
    copy("", "kept_");
  }

  /** Nor is an end of the chain as it was attacked kept elsewhere, which is done by the minute. */
  @AfterMethod(alwaysRun = true)
  public void putBack() throws IOException {
    LedgerAnchors writer = anchors;
    synchronized (writer) {
      putOlderBack();
      Files.deleteIfExists(ANCHORS);
    }
  }

  private void putOlderBack() {
    copy("kept_", "");
  }

  private void copy(String from, String to) {
    transaction.executeWithoutResult(
        status -> {
          jdbc.sql("select seq from ledger_head for update").query(Long.class).list();
          for (String table : TABLES) {
            jdbc.sql("delete from " + to + table).update();
            jdbc.sql("insert into " + to + table + " select * from " + from + table).update();
          }
        });
  }

  private JsonNode verified() {
    return post(AUDITOR, "/api/ledger/verification", null).is(200).json();
  }

  private void assertBroken(String how) {
    JsonNode said = verified();
    assertFalse(said.get("whole").booleanValue(), said.toString());
    assertTrue(said.get("breaks").toString().contains("\"" + how + "\""), said.toString());
  }

  private long end() {
    return jdbc.sql("select seq from ledger_head").query(Long.class).single();
  }

  /** The sum that the chain had before it had a key, which anybody can make. */
  private static String sum(long seq, LedgerChain.Draft d, String previous) throws Exception {
    ByteArrayOutputStream bytes = new ByteArrayOutputStream();
    for (String field :
        List.of(
            previous,
            Long.toString(seq),
            d.at().toString(),
            d.who(),
            d.via(),
            d.address(),
            d.act(),
            d.object(),
            d.objectId(),
            d.title(),
            d.details())) {
      byte[] text = field.getBytes(StandardCharsets.UTF_8);
      bytes.writeBytes((text.length + ":").getBytes(StandardCharsets.UTF_8));
      bytes.writeBytes(text);
    }
    return HexFormat.of()
        .formatHex(MessageDigest.getInstance("SHA-256").digest(bytes.toByteArray()));
  }

  @Test
  public void theEndCutOffTogetherWithItsHeadIsFound() {
    jdbc.sql("delete from ledger_touched where seq > ?").param(end() - 2).update();
    jdbc.sql("delete from ledger_entry where seq > ?").param(end() - 2).update();
    jdbc.sql(
            "update ledger_head set seq = seq - 2, hash = (select hash from ledger_entry order by"
                + " seq desc limit 1)")
        .update();
    assertBroken("unsealed");
  }

  @Test
  public void whatIsPutBehindTheEndIsFound() {
    jdbc.sql(
            "insert into ledger_entry select seq + 1, at, 'somebody@else.example', via, address,"
                + " act, object, object_id, title, details, hash, hash, key_no from ledger_entry"
                + " where seq = ?")
        .param(end())
        .update();
    assertBroken("added");
  }

  @Test
  public void aLinkTakenAwayOrAddedIsFound() {
    long seq = jdbc.sql("select max(seq) from ledger_touched").query(Long.class).single();
    jdbc.sql("delete from ledger_touched where seq = ?").param(seq).update();
    assertBroken("altered");
    assertEquals(verified().get("brokenAt").longValue(), seq);
    putOlderBack();
    jdbc.sql("insert into ledger_touched values (?, 'meeting', 'another')").param(seq).update();
    assertBroken("altered");
  }

  @Test
  public void aChainWrittenAnewWithSumsThatAnybodyCanMakeIsFound() throws Exception {
    // all of it, under a false name, without a key and as if there never had been one
    String previous = "0".repeat(64);
    List<LedgerChain.Entry> all =
        ledger.after(0, Integer.MAX_VALUE).stream().map(LedgerChain::entry).toList();
    for (LedgerChain.Entry entry : all) {
      LedgerChain.Draft of = entry.of();
      LedgerChain.Draft forged =
          new LedgerChain.Draft(
              of.at(),
              "somebody@else.example",
              of.via(),
              of.address(),
              of.act(),
              of.object(),
              of.objectId(),
              of.title(),
              of.details());
      String hash = sum(entry.seq(), forged, previous);
      jdbc.sql(
              "update ledger_entry set who = ?, prev_hash = ?, hash = ?, key_no = null where seq ="
                  + " ?")
          .params(forged.who(), previous, hash, entry.seq())
          .update();
      previous = hash;
    }
    jdbc.sql("update ledger_head set hash = ?, key_no = null, keyed_from = null, mac = null")
        .param(previous)
        .update();
    assertBroken("unsealed");
    // and it stays found when the server writes on
    send(WARDEN, "PUT", "/api/people/groups/lists/after", Map.of("name", "A", "members", List.of()))
        .is(200);
    assertBroken("unsealed");
  }

  @Test
  public void anOlderDatabasePutBackIsFoundByWhatWasKeptElsewhere() {
    send(WARDEN, "PUT", "/api/people/groups/lists/later", Map.of("name", "L", "members", List.of()))
        .is(200);
    anchors.tell();
    assertTrue(verified().get("whole").booleanValue());
    JsonNode told = get(AUDITOR, "/api/ledger/end").is(200).json();
    putOlderBack(); // with a right seal: it was the end once
    assertBroken("rolled-back");
    // whoever kept the end by hand finds it too
    JsonNode said =
        post(
                AUDITOR,
                "/api/ledger/verification?seq="
                    + told.get("seq").longValue()
                    + "&hash="
                    + told.get("hash").stringValue(),
                null)
            .is(200)
            .json();
    assertTrue(said.get("breaks").toString().contains("rolled-back"), said.toString());
    assertTrue(Files.exists(ANCHORS));
  }

  /** The end moves, and is kept elsewhere, at any moment of a verification. */
  @Test
  public void anEndKeptWhileItVerifiesIsNoBreak() {
    LedgerAnchors busy =
        new LedgerAnchors(ANCHORS.toString(), chain, json, Clock.systemUTC()) {
          @Override
          List<LedgerVerification.Held> held() {
            Map<String, Object> list = Map.of("name", "Meanwhile", "members", List.of());
            send(WARDEN, "PUT", "/api/people/groups/lists/meanwhile-" + end(), list).is(200);
            tell();
            return super.held();
          }
        };
    LedgerVerification.Verified said = new LedgerVerification(chain, seal, busy).verify(null);
    assertTrue(said.whole(), said.toString());
  }

  @Test
  public void everyBreakIsNamedAndNotTheFirstAlone() {
    long end = end();
    jdbc.sql("update ledger_entry set title = 'x' where seq in (?, ?)")
        .params(end - 3, end - 1)
        .update();
    JsonNode said = verified();
    assertEquals(said.get("count").longValue(), 2, said.toString());
    assertEquals(said.at("/breaks/0/seq").longValue(), end - 3);
    assertEquals(said.at("/breaks/1/seq").longValue(), end - 1);
  }

  /** An entry's hash, worked out from the key file and what the standards say. */
  @Test
  public void aHashIsTheHmacOfTheEntryAndItsLinks() throws Exception {
    LedgerChain.Entry entry =
        ledger
            .page(
                "exists (select 1 from LedgerTouchedEntity t where t.seq = e.seq)", Map.of(), 0, 1)
            .stream()
            .map(LedgerChain::entry)
            .findFirst()
            .orElseThrow();
    List<String> fields =
        new ArrayList<>(
            List.of(
                entry.previous(),
                Long.toString(entry.seq()),
                entry.of().at().toString(),
                entry.of().who(),
                entry.of().via(),
                entry.of().address(),
                entry.of().act(),
                entry.of().object(),
                entry.of().objectId(),
                entry.of().title(),
                entry.of().details(),
                String.valueOf(entry.key())));
    jdbc.sql("select object, object_id from ledger_touched where seq = ? order by 1, 2")
        .param(entry.seq())
        .query((r, n) -> fields.add(r.getString(1)) && fields.add(r.getString(2)))
        .list();
    ByteArrayOutputStream bytes = new ByteArrayOutputStream();
    for (String field : fields) {
      byte[] text = field.getBytes(StandardCharsets.UTF_8);
      bytes.writeBytes((text.length + ":").getBytes(StandardCharsets.UTF_8));
      bytes.writeBytes(text);
    }
    String line =
        Files.readAllLines(
                Path.of(System.getenv("WARDEN_TEST_DIR"), "warden_ledger_attack_" + FORK + ".key"))
            .stream()
            .filter(l -> l.startsWith(entry.key() + " "))
            .findFirst()
            .orElseThrow();
    byte[] key = Base64.getDecoder().decode(line.substring(line.indexOf(' ') + 1));
    byte[] own = hmac(key, "upright-warden/ledger".getBytes(StandardCharsets.UTF_8));
    assertEquals(entry.hash(), HexFormat.of().formatHex(hmac(own, bytes.toByteArray())));
  }

  private static byte[] hmac(byte[] key, byte[] text) throws Exception {
    Mac mac = Mac.getInstance("HmacSHA256");
    mac.init(new SecretKeySpec(key, "HmacSHA256"));
    return mac.doFinal(text);
  }

  @Test
  public void keysThatAreChangedAndDroppedLeaveOldEntriesVerifiable() {
    post(WARDEN, "/api/service/keys", null);
    for (int i = 0; i < 100; i++) {
      if (send(WARDEN, "DELETE", "/api/service/keys/old", null).status() == 200) {
        break;
      }
      java.util.concurrent.locks.LockSupport.parkNanos(200_000_000L);
    }
    send(
            WARDEN,
            "PUT",
            "/api/people/groups/lists/rotated",
            Map.of("name", "R", "members", List.of()))
        .is(200);
    assertTrue(
        jdbc.sql("select count(distinct key_no) from ledger_entry where key_no is not null")
                .query(Integer.class)
                .single()
            > 1);
    assertTrue(verified().get("whole").booleanValue(), verified().toString());
    keep();
  }

  /** Texts that are not the same everywhere: half characters, long ones, what columns cut. */
  @DataProvider
  public Object[][] texts() {
    return new Object[][] {
      {"\\ud800"},
      {"\\udc00 behind"},
      {"before \\ud83d"},
      {"\\ud83d\\ude00 whole"},
      {"\\u0000 nothing"},
      {"\\uffff"},
      {"\\ufeff"},
      {"e\\u0301"},
      {"trailing   "},
    };
  }

  @Test(dataProvider = "texts")
  public void aStrangersTextBreaksNothingAndIsTheSameEverywhere(String text) throws Exception {
    // sent at sign-in, by somebody who has no account
    Visitor stranger = new Visitor(port);
    stranger.get("/api/session");
    stranger.sendText(
        "POST",
        "/api/session",
        "{\"email\":\"" + text + "@x.example\",\"password\":\"" + text + "\"}");
    send(
            WARDEN,
            "PUT",
            "/api/people/groups/lists/texts",
            "{\"name\":\"" + text + "|" + "y\",\"members\":[]}")
        .is(200);
    JsonNode said = verified();
    assertTrue(said.get("whole").booleanValue(), said.toString());
    // what was stored is what is shown, and what is written out
    String stored =
        jdbc.sql(
                "select json_value(details, '$.asked.name') from ledger_entry where act ="
                    + " 'group.changed' order by seq desc limit 1")
            .query(String.class)
            .single();
    String shown =
        get(AUDITOR, "/api/ledger?act=group.changed&size=1")
            .json()
            .at("/items/0/details/asked/name")
            .stringValue();
    assertEquals(shown, stored);
    String lines = get(AUDITOR, "/api/ledger/file?as=jsonl&act=group.changed").is(200).body();
    JsonNode last = json.readTree(lines.strip().lines().reduce((a, b) -> b).orElseThrow());
    assertEquals(
        json.readTree(last.get("details").stringValue()).at("/asked/name").stringValue(), stored);
  }

  @Test
  public void readingASecretAndTakingMuchAwayIsWritten() {
    String meeting =
        jdbc.sql("select public_id from meeting where passcode_cipher is not null limit 1")
            .query(String.class)
            .single();
    get(WARDEN, "/api/meetings/" + meeting + "/passcode").is(200);
    Visitor browser = new Visitor(port);
    browser.signIn(WARDEN, "low-water-0642").is(200);
    // in a browser session too, where an answer that streams once could not save the session
    for (String path :
        List.of(
            "/api/exchange/bundle",
            "/api/exchange/calendar",
            "/api/exchange/table?of=people",
            "/api/ledger/file?as=jsonl",
            "/api/ledger/file?as=csv",
            "/api/outbox")) {
      assertEquals(browser.visit(path).statusCode(), 200, path);
    }
    String audit = get(WARDEN, "/api/audits").json().get(0).get("id").asString();
    for (String as : List.of("csv", "json", "sarif", "evidence", "pdf")) {
      String path = "/api/audits/" + audit + "/report?as=" + as;
      assertEquals(browser.visit(path).statusCode(), 200, path);
    }
    for (String act :
        List.of(
            "report.taken-out",
            "passcode.read",
            "bundle.taken-out",
            "calendar.taken-out",
            "table.taken-out",
            "ledger.taken-out",
            "messages.read")) {
      JsonNode found = get(AUDITOR, "/api/ledger?act=" + act + "&who=" + WARDEN).json();
      assertTrue(found.get("total").intValue() > 0, act);
    }
    long before = get(AUDITOR, "/api/ledger?act=passcode.read").json().get("total").longValue();
    get(AUDITOR, "/api/meetings/" + meeting + "/passcode").is(403);
    assertEquals(
        get(AUDITOR, "/api/ledger?act=passcode.read").json().get("total").longValue(),
        before,
        "what was refused was not read");
  }
}
