package app.uprightwarden.server.sources;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertNull;
import static org.testng.Assert.assertThrows;
import static org.testng.Assert.assertTrue;

import org.testng.annotations.Test;

/** Answers of WebDAV servers, as the standards print them. */
public class MultiStatusTest {
  /** RFC 6578 section 3.9, "Example: Reporting Changes since Last Synchronization". */
  private static final String SYNC =
      """
      <?xml version="1.0" encoding="utf-8" ?>
      <D:multistatus xmlns:D="DAV:">
        <D:response>
          <D:href>http://www.example.com/webdav/file.xml</D:href>
          <D:propstat>
            <D:prop>
              <D:getetag>"00004-abcd1"</D:getetag>
            </D:prop>
            <D:status>HTTP/1.1 200 OK</D:status>
          </D:propstat>
          <D:propstat>
            <D:prop>
              <R:bigbox xmlns:R="urn:ns.example.com:boxschema"/>
            </D:prop>
            <D:status>HTTP/1.1 404 Not Found</D:status>
          </D:propstat>
        </D:response>
        <D:response>
          <D:href>http://www.example.com/webdav/test.doc</D:href>
          <D:status>HTTP/1.1 404 Not Found</D:status>
        </D:response>
        <D:sync-token>http://example.com/ns/sync/1238</D:sync-token>
      </D:multistatus>
      """;

  @Test
  public void whatWasChangedAndWhatIsGone() throws SourceTrouble {
    MultiStatus read = MultiStatus.read(SYNC);
    assertEquals(read.token(), "http://example.com/ns/sync/1238");
    assertEquals(read.responses().size(), 2);
    MultiStatus.Response changed = read.responses().get(0);
    assertEquals(changed.status(), 200);
    assertEquals(changed.text(MultiStatus.DAV, "getetag"), "\"00004-abcd1\"");
    assertNull(changed.text("urn:ns.example.com:boxschema", "bigbox"), "it was not found");
    assertEquals(read.responses().get(1).status(), 404);
  }

  /** RFC 6578 section 3.10: more is to come. */
  @Test
  public void thatThereIsMore() throws SourceTrouble {
    MultiStatus read =
        MultiStatus.read(
            """
            <D:multistatus xmlns:D="DAV:">
              <D:response>
                <D:href>http://www.example.com/webdav/</D:href>
                <D:status>HTTP/1.1 507 Insufficient Storage</D:status>
                <D:error><D:number-of-matches-within-limits/></D:error>
              </D:response>
              <D:sync-token>http://example.com/ns/sync/1233</D:sync-token>
            </D:multistatus>
            """);
    assertEquals(read.responses().get(0).status(), 507);
  }

  /** RFC 4918 section 16, and the condition of RFC 6578 section 3.2. */
  @Test
  public void thatAMarkerIsNoLongerKnown() {
    String error = "<D:error xmlns:D=\"DAV:\"><D:valid-sync-token/></D:error>";
    assertTrue(MultiStatus.isError(error, "valid-sync-token"));
    assertTrue(!MultiStatus.isError(error, "lock-token-submitted"));
    assertTrue(!MultiStatus.isError("<p>valid-sync-token</p>", "valid-sync-token"));
  }

  /** Nothing is expanded, and nothing is fetched. */
  @Test
  public void aDocumentTypeIsNotRead() {
    String entity =
        "<!DOCTYPE d [<!ENTITY e SYSTEM \"file:///etc/hostname\">]>"
            + "<D:multistatus xmlns:D=\"DAV:\"><D:sync-token>&e;</D:sync-token></D:multistatus>";
    assertThrows(SourceTrouble.class, () -> MultiStatus.read(entity));
    assertThrows(SourceTrouble.class, () -> MultiStatus.read("<html/>"));
    assertThrows(SourceTrouble.class, () -> MultiStatus.read("no XML"));
  }
}
