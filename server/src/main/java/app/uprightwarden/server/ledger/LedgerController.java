package app.uprightwarden.server.ledger;

import app.uprightwarden.server.limits.Takes;
import app.uprightwarden.server.problem.Sentences;
import jakarta.servlet.http.HttpServletResponse;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.Pattern;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVPrinter;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpHeaders;
import org.springframework.security.access.prepost.PreAuthorize;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** The ledger: read, verified, taken out. Nobody writes to it by a call. */
@RestController
@RequestMapping("/api/ledger")
class LedgerController {
  /** Things that people gave no name: what they are called in the ledger is ours. */
  private static final Set<String> OURS =
      Set.of("account", "alerting", "audit", "house", "ledger", "outbox", "token");

  private final LedgerReading reading;
  private final LedgerVerification verification;
  private final LedgerAnchors anchors;
  private final JsonMapper json;

  LedgerController(
      LedgerReading reading,
      LedgerVerification verification,
      LedgerAnchors anchors,
      JsonMapper json) {
    this.reading = reading;
    this.verification = verification;
    this.anchors = anchors;
    this.json = json;
  }

  /**
   * An entry.
   *
   * @param via {@code session}, {@code token} or {@code background}
   * @param address from where, as the server saw it
   * @param details what was asked, and what changed before and after
   */
  record LedgerEntry(
      long seq,
      Instant at,
      String who,
      String via,
      String address,
      String act,
      String object,
      String objectId,
      String title,
      JsonNode details,
      String previous,
      String hash) {}

  /** A page of the ledger, the newest first. */
  record LedgerPage(List<LedgerEntry> items, int page, int size, int total) {}

  @GetMapping
  @PreAuthorize("hasAnyRole('WARDEN', 'AUDITOR')")
  LedgerPage page(
      @RequestParam(required = false) @Nullable String who,
      @RequestParam(required = false) @Nullable String act,
      @RequestParam(required = false) @Nullable String object,
      @RequestParam(required = false) @Nullable String objectId,
      @RequestParam(required = false) @Nullable Instant from,
      @RequestParam(required = false) @Nullable Instant to,
      @RequestParam(required = false) @Nullable String text,
      @RequestParam(defaultValue = "0") @Min(0) @Max(1_000_000) int page,
      @RequestParam(defaultValue = "100") @Min(1) @Max(500) int size) {
    LedgerReading.EntryPage found =
        reading.page(
            new LedgerReading.LedgerFilter(who, act, object, objectId, from, to, text), page, size);
    return new LedgerPage(
        found.items().stream().map(this::view).toList(), page, size, found.total());
  }

  private LedgerEntry view(LedgerChain.Entry entry) {
    LedgerChain.Draft of = entry.of();
    return new LedgerEntry(
        entry.seq(),
        of.at(),
        of.who(),
        of.via(),
        of.address(),
        of.act(),
        of.object(),
        of.objectId(),
        OURS.contains(of.object()) ? Sentences.said(of.title()) : of.title(),
        json.readTree(of.details()),
        entry.previous(),
        entry.hash());
  }

  /** Everybody and every act in the ledger, to filter by. */
  @GetMapping("/known")
  @PreAuthorize("hasAnyRole('WARDEN', 'AUDITOR')")
  LedgerReading.Known known() {
    return reading.known();
  }

  /**
   * Reads the whole chain and names every place where it does not hold.
   *
   * @param seq with {@code hash}: an end of the chain as it was told before and kept elsewhere,
   *     which must still be part of it
   */
  @PostMapping("/verification")
  @Takes(costly = true)
  @PreAuthorize("hasAnyRole('WARDEN', 'AUDITOR')")
  LedgerVerification.Verified verify(
      @RequestParam(required = false) @Nullable @Min(1) Long seq,
      @RequestParam(required = false) @Nullable @Pattern(regexp = "[0-9a-f]{64}") String hash) {
    return verification.verify(
        seq == null || hash == null ? null : new LedgerVerification.Held(seq, hash));
  }

  /** Where the chain ends now, sealed: kept elsewhere, it shows later whether anything was lost. */
  @GetMapping("/end")
  @PreAuthorize("hasAnyRole('WARDEN', 'AUDITOR')")
  LedgerAnchors.LedgerEnd end() {
    return anchors.signed();
  }

  /** The entries that a filter keeps, the oldest first, as JSON Lines or CSV. */
  @GetMapping("/file")
  @PreAuthorize("hasAnyRole('WARDEN', 'AUDITOR')")
  void file(
      @RequestParam @Pattern(regexp = "jsonl|csv") String as,
      @RequestParam(required = false) @Nullable String who,
      @RequestParam(required = false) @Nullable String act,
      @RequestParam(required = false) @Nullable String object,
      @RequestParam(required = false) @Nullable String objectId,
      @RequestParam(required = false) @Nullable Instant from,
      @RequestParam(required = false) @Nullable Instant to,
      @RequestParam(required = false) @Nullable String text,
      HttpServletResponse response)
      throws IOException {
    boolean isCsv = as.equals("csv");
    response.setContentType(isCsv ? "text/csv;charset=UTF-8" : "application/jsonl;charset=UTF-8");
    response.setCharacterEncoding(StandardCharsets.UTF_8);
    response.setHeader(
        HttpHeaders.CONTENT_DISPOSITION, "attachment; filename=\"ledger." + as + "\"");
    LedgerReading.LedgerFilter filter =
        new LedgerReading.LedgerFilter(who, act, object, objectId, from, to, text);
    Writer out = response.getWriter();
    if (isCsv) {
      CSVPrinter csv = new CSVPrinter(out, CSVFormat.RFC4180);
      csv.printRecord(
          "seq",
          "at",
          "who",
          "via",
          "address",
          "act",
          "object",
          "id",
          "title",
          "details",
          "previous",
          "hash");
      reading.each(filter, entry -> record(csv, entry));
      csv.flush();
    } else {
      reading.each(filter, entry -> line(out, entry));
      out.flush();
    }
  }

  private static void record(CSVPrinter csv, LedgerChain.Entry entry) {
    LedgerChain.Draft of = entry.of();
    try {
      csv.printRecord(
          entry.seq(),
          of.at(),
          safe(of.who()),
          of.via(),
          of.address(),
          of.act(),
          of.object(),
          safe(of.objectId()),
          safe(of.title()),
          of.details(),
          entry.previous(),
          entry.hash());
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  /** So that a spreadsheet takes it for text. */
  private static String safe(String cell) {
    return cell.matches("(?s)[=+\\-@\\t\\r].*") ? "'" + cell : cell;
  }

  private void line(Writer out, LedgerChain.Entry entry) {
    LedgerChain.Draft of = entry.of();
    Map<String, Object> fields = new LinkedHashMap<>();
    fields.put("seq", entry.seq());
    fields.put("at", of.at().toString());
    fields.put("who", of.who());
    fields.put("via", of.via());
    fields.put("address", of.address());
    fields.put("act", of.act());
    fields.put("object", of.object());
    fields.put("id", of.objectId());
    fields.put("title", of.title());
    // as text, character by character, so that the hash can be worked out from the line
    fields.put("details", of.details());
    fields.put("previous", entry.previous());
    fields.put("hash", entry.hash());
    fields.put("key", String.valueOf(entry.key()));
    try {
      out.write(json.writeValueAsString(fields));
      out.write('\n');
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }
}
