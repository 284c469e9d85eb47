package app.uprightwarden.server.reports;

import app.uprightwarden.server.audit.AuditRun;
import app.uprightwarden.server.audit.FindingQueries;
import app.uprightwarden.server.people.OrganisationService;
import app.uprightwarden.server.register.ControlsJson;
import app.uprightwarden.server.register.RegisterService;
import app.uprightwarden.server.remedies.RemedyService;
import app.uprightwarden.server.rulebook.RulebookService;
import app.uprightwarden.server.waivers.WaiverService;
import java.io.FilterOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.time.Duration;
import java.util.HexFormat;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.TreeMap;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import org.springframework.stereotype.Component;
import tools.jackson.core.JsonGenerator;
import tools.jackson.core.StreamWriteFeature;
import tools.jackson.databind.SerializationFeature;
import tools.jackson.databind.json.JsonMapper;

/**
 * What an outside auditor takes away: the edition, the run, what it judged and found, waivers and
 * remedies, in one archive with a checksum for each file.
 */
@Component
class Evidence implements ReportFormat {
  private static final Duration REMEDIES_BEFORE = Duration.ofDays(92);

  private final FindingQueries reading;
  private final FindingTable table;
  private final JsonReport report;
  private final RulebookService rulebook;
  private final RegisterService register;
  private final OrganisationService organisation;
  private final WaiverService waivers;
  private final RemedyService remedies;
  private final JsonMapper json;

  Evidence(
      FindingQueries reading,
      FindingTable table,
      JsonReport report,
      RulebookService rulebook,
      RegisterService register,
      OrganisationService organisation,
      WaiverService waivers,
      RemedyService remedies,
      JsonMapper json) {
    this.reading = reading;
    this.table = table;
    this.report = report;
    this.rulebook = rulebook;
    this.register = register;
    this.organisation = organisation;
    this.waivers = waivers;
    this.remedies = remedies;
    this.json =
        json.rebuild()
            .disable(StreamWriteFeature.AUTO_CLOSE_TARGET)
            .enable(SerializationFeature.INDENT_OUTPUT)
            .build();
  }

  private interface Content {
    void write(OutputStream out) throws IOException;
  }

  /** One archive being written, with the checksums of what is in it so far. */
  private static final class Archive {
    private final ZipOutputStream zip;
    private final StringBuilder sums = new StringBuilder();

    Archive(OutputStream out) {
      zip = new ZipOutputStream(out, StandardCharsets.UTF_8);
    }

    void add(String name, Content content) throws IOException {
      MessageDigest digest = sha256();
      zip.putNextEntry(new ZipEntry(name));
      content.write(new Summed(zip, digest));
      zip.closeEntry();
      sums.append(HexFormat.of().formatHex(digest.digest())).append("  ").append(name).append('\n');
    }

    void end() throws IOException {
      zip.putNextEntry(new ZipEntry("SHA256SUMS"));
      zip.write(sums.toString().getBytes(StandardCharsets.UTF_8));
      zip.closeEntry();
      zip.finish();
    }
  }

  /** Sums what goes through; what closes it does not close the archive. */
  private static final class Summed extends FilterOutputStream {
    private final MessageDigest digest;

    Summed(OutputStream out, MessageDigest digest) {
      super(out);
      this.digest = digest;
    }

    @Override
    public void write(int b) throws IOException {
      digest.update((byte) b);
      out.write(b);
    }

    @Override
    public void write(byte[] bytes, int offset, int length) throws IOException {
      digest.update(bytes, offset, length);
      out.write(bytes, offset, length);
    }

    @Override
    public void close() throws IOException {
      flush();
    }
  }

  private static MessageDigest sha256() {
    try {
      return MessageDigest.getInstance("SHA-256");
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException("every Java has it", e);
    }
  }

  @Override
  public String id() {
    return "evidence";
  }

  @Override
  public String title() {
    return "Evidence for an auditor";
  }

  @Override
  public String mediaType() {
    return "application/zip";
  }

  @Override
  public String ending() {
    return "-evidence.zip";
  }

  @Override
  public int place() {
    return 50;
  }

  @Override
  public void write(AuditRun run, Wish wish, OutputStream out) {
    write(run, out);
  }

  void write(AuditRun run, OutputStream out) {
    try {
      Archive archive = new Archive(out);
      archive.add("README.txt", to -> to.write(readme(run).getBytes(StandardCharsets.UTF_8)));
      archive.add("run.json", to -> json.writeValue(to, run));
      archive.add("edition.json", to -> json.writeValue(to, rulebook.edition(run.edition())));
      archive.add("organisation.json", to -> json.writeValue(to, organisation.organisation()));
      archive.add("findings.csv", to -> table.write(run.id(), to));
      archive.add("findings.json", to -> report.write(run, to));
      archive.add("meetings.json", to -> meetings(run, to));
      archive.add("control-values.json", to -> json.writeValue(to, sets(run)));
      archive.add("waivers.json", to -> json.writeValue(to, waivers.list(null, null, 10_000)));
      archive.add(
          "remedies.json",
          to -> json.writeValue(to, remedies.doneSince(run.startedAt().minus(REMEDIES_BEFORE))));
      archive.end();
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  private void meetings(AuditRun run, OutputStream out) {
    try (JsonGenerator to = json.createGenerator(out)) {
      to.writeStartArray();
      reading.eachMeeting(run.id(), to::writePOJO);
      to.writeEndArray();
    }
  }

  private Map<Long, Object> sets(AuditRun run) {
    Map<Long, Object> sets = new TreeMap<>();
    for (long id : reading.judgedSets(run.id())) {
      sets.put(id, new LinkedHashMap<>(ControlsJson.plain(register.set(id))));
    }
    return sets;
  }

  private static String readme(AuditRun run) {
    return """
        Audit %d by Upright Warden, begun %s by %s, state %s.

        run.json             the run: window, scope, counts
        edition.json         the edition of the rulebook it judged against
        organisation.json    units, kinds, plan, lists and spaces
        meetings.json        every meeting judged: exposure, counts, the number of its control values
        control-values.json  the sets of control values judged, by number
        findings.csv         findings in the order in which to fix them
        findings.json        the same with the rule's trace and the way through the door
        waivers.json         waivers, whoever granted them and until when
        remedies.json        remedies carried out from 92 days before the run
        SHA256SUMS           checksums; check them with  sha256sum -c SHA256SUMS

        Passcodes are nowhere in it.
        """
        .formatted(run.id(), run.startedAt(), run.startedBy(), run.state());
  }
}
