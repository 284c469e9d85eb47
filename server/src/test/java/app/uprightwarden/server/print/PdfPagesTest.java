package app.uprightwarden.server.print;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertTrue;

import com.sun.net.httpserver.HttpServer;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.concurrent.atomic.AtomicInteger;
import org.apache.pdfbox.Loader;
import org.apache.pdfbox.pdmodel.PDDocument;
import org.apache.pdfbox.text.PDFTextStripper;
import org.testng.annotations.AfterClass;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** A page that names other files and addresses, in every way a page can, opens none of them. */
public class PdfPagesTest {
  private final AtomicInteger asked = new AtomicInteger();
  private HttpServer elsewhere;
  private Path secret;

  @BeforeClass
  public void listen() throws Exception {
    secret = Files.createTempFile("secret", ".svg");
    Files.writeString(
        secret,
        "<svg xmlns='http://www.w3.org/2000/svg' width='200' height='40'><text y='20'>the-servers-own</text></svg>");
    elsewhere = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 0);
    elsewhere.createContext(
        "/",
        exchange -> {
          asked.incrementAndGet();
          exchange.sendResponseHeaders(404, -1);
        });
    elsewhere.start();
  }

  @AfterClass(alwaysRun = true)
  public void stop() {
    elsewhere.stop(0);
  }

  @DataProvider
  public Object[][] references() {
    return new Object[][] {
      {"<img src=\"%s\"/>"},
      {"<link rel=\"stylesheet\" href=\"%s\"/>"},
      {"<style>@import url(%s);</style>"},
      {"<p style=\"background-image: url(%s)\">x</p>"},
      {"<object data=\"%s\" type=\"image/svg+xml\"></object>"},
      {
        "<svg xmlns=\"http://www.w3.org/2000/svg\" xmlns:xlink=\"http://www.w3.org/1999/xlink\" width=\"9\" height=\"9\"><image xlink:href=\"%s\" width=\"9\" height=\"9\"/></svg>"
      },
      {
        "<svg xmlns=\"http://www.w3.org/2000/svg\" xmlns:xlink=\"http://www.w3.org/1999/xlink\" width=\"9\" height=\"9\"><use xlink:href=\"%s#a\"/></svg>"
      },
      {"<style>@font-face { font-family: x; src: url(%s); } p { font-family: x }</style><p>x</p>"},
    };
  }

  @Test(dataProvider = "references")
  public void nothingIsOpenedByReference(String reference) throws Exception {
    String web = "http://127.0.0.1:" + elsewhere.getAddress().getPort() + "/x";
    for (String address : new String[] {secret.toUri().toString(), web}) {
      byte[] pdf =
          PdfPages.pdf(
              "<html><head><title>t</title></head><body><p>Kept</p>"
                  + reference.formatted(address)
                  + "</body></html>");
      try (PDDocument read = Loader.loadPDF(pdf)) {
        String text = new PDFTextStripper().getText(read);
        assertTrue(text.contains("Kept"), text);
        assertFalse(text.contains("the-servers-own"), text);
      }
    }
    assertEquals(asked.get(), 0, "no address is called");
  }

  /** XML 1.0, production 2: what no document may hold does not break one here. */
  @Test
  public void whatXmlDoesNotHaveIsLeftOut() throws Exception {
    byte[] pdf =
        PdfPages.pdf(
            "<html><head><title>t</title></head><body><p>a\u0001b\ufffec\ud800d\u0000e</p></body></html>");
    try (PDDocument read = Loader.loadPDF(pdf)) {
      assertEquals(new PDFTextStripper().getText(read).strip(), "abcde");
    }
  }

  @DataProvider
  public Object[][] scripts() {
    return new Object[][] {
      {"Tide-table for all: Ærø, Łódź, Ελλάδα, Київ"},
      {"\u5e02\u6c11\u8aac\u660e\u4f1a"},
      {"\u6e2f\u53e3\u5b89\u5168"},
      {"\ud56d\uad6c\ud68c\uc758"},
      {"\u05e0\u05de\u05dc"},
      {"\u0645\u064a\u0646\u0627\u0621"},
      {"\ud83c\udf0a"},
    };
  }

  /** Each letter is there as itself: none is drawn as a box or “#”. */
  @Test(dataProvider = "scripts")
  public void everyScriptIsWritten(String text) throws Exception {
    byte[] pdf =
        PdfPages.pdf(
            "<html><head><style>body { font-family: Atkinson; }</style></head><body><p>"
                + text
                + "</p></body></html>");
    try (PDDocument document = Loader.loadPDF(pdf)) {
      String read = new PDFTextStripper().getText(document).strip();
      String plain = java.text.Normalizer.normalize(read, java.text.Normalizer.Form.NFKC);
      assertFalse(plain.contains("#"), plain);
      assertEquals(letters(plain), letters(text), plain);
    }
  }

  /** The letters, in whatever order a script that runs from the right is read in. */
  private static java.util.List<Integer> letters(String text) {
    return text.codePoints()
        .filter(c -> !Character.isWhitespace(c) && c != 0xFE0F)
        // two letters that look alike within a word share a shape, and are read back as either
        .map(c -> c == 0x06CC ? 0x064A : c)
        .sorted()
        .boxed()
        .toList();
  }
}
