package app.uprightwarden.acceptance;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertTrue;

import java.security.GeneralSecurityException;
import java.time.Instant;
import javax.crypto.Mac;
import javax.crypto.spec.SecretKeySpec;
import org.testng.annotations.Test;

/**
 * Somebody is invited, sets up their account, and signs in with two factors; and strangers' texts.
 */
public class HouseJourneyTest extends Journey {
  private static final String PASSWORD = "heron tarpaulin Sunday 28";

  public HouseJourneyTest() {
    super("warden_house");
  }

  /** RFC 6238 by hand, so that the server's library is held to another. */
  private static String code(String base32) throws GeneralSecurityException {
    String letters = "ABCDEFGHIJKLMNOPQRSTUVWXYZ234567";
    byte[] key = new byte[base32.length() * 5 / 8];
    for (int bit = 0; bit < key.length * 8; bit++) {
      int value = letters.indexOf(base32.charAt(bit / 5)) >> (4 - bit % 5) & 1;
      key[bit / 8] |= (byte) (value << (7 - bit % 8));
    }
    byte[] counter = new byte[8];
    long step = Instant.now().getEpochSecond() / 30;
    for (int i = 7; i >= 0; i--) {
      counter[i] = (byte) step;
      step >>= 8;
    }
    Mac mac = Mac.getInstance("HmacSHA1");
    mac.init(new SecretKeySpec(key, "HmacSHA1"));
    byte[] hash = mac.doFinal(counter);
    int at = hash[19] & 15;
    int number =
        (hash[at] & 127) << 24
            | (hash[at + 1] & 255) << 16
            | (hash[at + 2] & 255) << 8
            | hash[at + 3] & 255;
    return "%06d".formatted(number % 1_000_000);
  }

  @Test
  public void somebodyIsInvitedAndSignsInWithTwoFactors() throws Exception {
    browser.signIn("m.sachs");
    browser.keys("9");
    browser.sees("Invite somebody");
    browser.keys("n");
    browser.until(
        "the address has the focus",
        d -> "email".equals(browser.script("return document.activeElement.type")));
    browser.keys("nora@saltmarsh.example");
    browser.tabTo("input:not([type])");
    browser.keys("Nora Quill");
    browser.press("Make the invitation");
    browser.sees("by a way you trust");
    String link = browser.text().replaceFirst("(?s).*(/welcome#token=[\\w-]+).*", "$1");
    browser.press("I have it");
    browser.sees("invited");
    browser.press("Sign out");
    browser.sees("Password");

    browser.go(link);
    browser.sees("Nora Quill");
    browser.tabTo("input[name=new-password]");
    browser.keys("password1234");
    browser.tabTo("input[name=again]");
    browser.keys("password1234");
    browser.press("Set the password");
    browser.sees("guessed too easily");
    browser.script(
        "for (const e of document.querySelectorAll('input')) { e.value = '';"
            + " e.dispatchEvent(new Event('input')) }");
    browser.leaveField();
    browser.tabTo("input[name=new-password]");
    browser.keys(PASSWORD);
    browser.tabTo("input[name=again]");
    browser.keys(PASSWORD);
    browser.press("Set the password");
    browser.sees("Your password is set");

    browser.signIn("nora@saltmarsh.example", PASSWORD);
    browser.go("/account");
    browser.sees("Where you are signed in");
    browser.tabTo("input[autocomplete=current-password]");
    browser.keys(PASSWORD);
    browser.press("Set it up");
    browser.sees("Point your authenticator");
    assertEquals(browser.all("svg[role=img] path").size(), 1, "there is a code for its camera");
    String secret =
        browser.text().replaceFirst("(?s).*\\n((?:[A-Z2-7]{4} ){7}[A-Z2-7]{4})\\n.*", "$1");
    secret = secret.replace(" ", "");
    assertTrue(secret.matches("[A-Z2-7]{32}"), secret);
    browser.keys(code(secret));
    browser.press("Turn it on");
    browser.sees("recovery codes");
    String recovery = browser.text().replaceFirst("(?s).*?([a-z2-9]{5}-[a-z2-9]{5}).*", "$1");
    browser.press("I have them");
    browser.sees("10 recovery codes are left");
    browser.press("Sign out");

    browser.go("/");
    browser.find("input[name=email]");
    browser.until("the address field has the focus", d -> browser.focused().equals("email"));
    browser.keys("nora@saltmarsh.example", "\t", PASSWORD, "\n");
    browser.sees("The six digits that your authenticator shows");
    browser.keys("000000", "\n");
    browser.sees("The code is wrong");
    browser.tabTo("input[name=code]");
    browser.keys(recovery, "\n");
    browser.sees("Sign out");
    browser.go("/account");
    browser.sees("9 recovery codes are left");
  }

  private static final String SCRIPT =
      "<img src=x onerror=\\\"window.hit=1\\\"><script>window.hit=1</script>{{window.hit=1}}";

  /** Puts it wherever a text can be put, and opens every page that shows it. */
  @Test
  public void noScriptRunsFromAnyText() {
    browser.signIn("m.sachs");
    String put =
        """
        const token = document.cookie.match(/XSRF-TOKEN=([^;]+)/)[1]
        const call = (method, path, body) => {
          const r = new XMLHttpRequest()
          r.open(method, path, false)
          r.setRequestHeader('Content-Type', 'application/json')
          r.setRequestHeader('X-XSRF-TOKEN', token)
          r.send(JSON.stringify(body))
          return r.status + ' ' + r.responseText
        }
        const bad = "%s"
        const form = { title: bad, description: bad, host: 'm.okafor@saltmarsh.example',
          start: '2027-03-01T10:00', zone: 'Europe/Dublin', minutes: 30,
          invitees: [{ email: 'i.solheim@saltmarsh.example', need: 'required' }] }
        const id = JSON.parse(call('POST', '/api/meetings',
          { version: 0, meeting: form, send: true, reason: bad }).slice(4)).id
        const answers = [
          call('PUT', '/api/people/' + encodeURIComponent('x@saltmarsh.example'),
            { name: bad, standing: 'member', unit: 'pilotage', active: true }),
          call('PUT', '/api/people/groups/lists/bad', { name: bad, members: [] }),
          call('POST', '/api/rulebook/drafts', { name: bad.slice(0, 90), from: 'in-force' }),
          call('POST', '/api/tokens', { purpose: bad.slice(0, 190), role: 'auditor', minutes: 5 }),
          call('POST', '/api/accounts', { email: 'bad@x.example', name: bad.slice(0, 190),
            role: 'host' }),
          call('POST', '/api/audit-history/schedules', { name: bad.slice(0, 90), days: ['MO'],
            time: '06:00', zone: 'UTC', windowDays: 9, recipients: [], active: false }),
        ]
        return id + ' ' + answers.map((a) => a.slice(0, 3)).join(' ')"""
            .formatted(SCRIPT);
    String made = String.valueOf(browser.script(put));
    String id = made.split(" ")[0];
    assertFalse(made.matches(".* [45]\\d\\d.*"), made);
    browser.hasNothingToComplainOf();
    for (String path :
        new String[] {
          "/lookout",
          "/register?text=onerror",
          "/register/" + id,
          "/register/" + id + "/edit",
          "/rulebook",
          "/rulebook/editions",
          "/audit",
          "/audit/runs",
          "/door?meeting=" + id,
          "/people",
          "/people/x@saltmarsh.example",
          "/people/groups/lists",
          "/outbox",
          "/ledger?text=onerror",
          "/house",
          "/house/tokens"
        }) {
      browser.go(path);
      browser.until(path + " is drawn", d -> browser.text().length() > 200);
      browser.until(path + " has loaded", d -> !browser.text().contains("Reading the chart"));
      assertEquals(String.valueOf(browser.script("return String(window.hit)")), "undefined", path);
      assertEquals(
          browser.script("return document.querySelectorAll('img[src=x]').length"),
          Long.valueOf(0),
          path);
    }
    // what a page of its own making shows is fetched by the same rules: no inline code runs
    assertEquals(
        String.valueOf(
            browser.script(
                "const s = document.createElement('script'); s.textContent = 'window.hit = 2';"
                    + " document.body.append(s); return String(window.hit)")),
        "undefined",
        "the page's policy refuses inline code");
  }
}
