package app.uprightwarden.server.drafting;

import app.uprightwarden.core.drafting.Comparison;
import app.uprightwarden.server.access.Role;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.limits.Takes;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.problem.Worded;
import app.uprightwarden.server.rulebook.RulebookWriter;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.Pattern;
import jakarta.validation.constraints.Size;
import java.io.IOException;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.security.access.prepost.PreAuthorize;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.validation.annotation.Validated;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Rulebooks compared, written out, brought in and printed. */
@RestController
@RequestMapping("/api/rulebook")
@Validated
class RulebookFilesController {
  private static final MediaType YAML = MediaType.parseMediaType("application/yaml");

  private final RulebookSources sources;
  private final RulebookFiles files;
  private final PrintedRulebook printed;
  private final DraftService drafts;

  RulebookFilesController(
      RulebookSources sources, RulebookFiles files, PrintedRulebook printed, DraftService drafts) {
    this.sources = sources;
    this.files = files;
    this.printed = printed;
    this.drafts = drafts;
  }

  /** A rule that differs; {@code words} say how: tighter, looser, new, gone, sealed now. */
  record RuleLine(
      String layer,
      String control,
      @Nullable Map<String, Object> before,
      @Nullable Map<String, Object> after,
      List<String> words) {}

  /** A guarantee that differs. */
  record GuaranteeLine(
      String layer,
      String id,
      @Nullable Map<String, Object> before,
      @Nullable Map<String, Object> after,
      List<String> words) {}

  /** Two rulebooks and how they differ. */
  record ComparisonView(
      String from,
      @Worded String fromTitle,
      String to,
      @Worded String toTitle,
      List<RuleLine> rules,
      List<GuaranteeLine> guarantees) {}

  /**
   * @param from {@code in-force}, {@code starter}, {@code edition:2} or {@code draft:4}
   * @param to the same
   */
  @GetMapping("/comparison")
  @PreAuthorize("isAuthenticated()")
  ComparisonView compare(
      @RequestParam String from, @RequestParam String to, @AuthenticationPrincipal SignedIn who) {
    RulebookSources.Source a = sources.find(from, who);
    RulebookSources.Source b = sources.find(to, who);
    Comparison comparison = Comparison.of(a.rulebook(), b.rulebook());
    return new ComparisonView(
        a.id(),
        a.title(),
        b.id(),
        b.title(),
        comparison.rules().stream()
            .map(
                l ->
                    new RuleLine(
                        l.layer().toString(),
                        l.control().id(),
                        l.before() == null ? null : RulebookWriter.plain(l.before()),
                        l.after() == null ? null : RulebookWriter.plain(l.after()),
                        phrases(l.words())))
            .toList(),
        comparison.guarantees().stream()
            .map(
                l ->
                    new GuaranteeLine(
                        l.layer().toString(),
                        l.id(),
                        l.before() == null ? null : RulebookWriter.plain(l.before()),
                        l.after() == null ? null : RulebookWriter.plain(l.after()),
                        phrases(l.words())))
            .toList());
  }

  private static List<String> phrases(Set<Comparison.Word> words) {
    return words.stream().map(Comparison.Word::phrase).toList();
  }

  /** A rulebook as a file, in an order that only changes where the rulebook does. */
  @GetMapping(
      value = "/file",
      produces = {MediaType.APPLICATION_JSON_VALUE, "application/yaml"})
  @PreAuthorize("isAuthenticated()")
  ResponseEntity<byte[]> file(
      @RequestParam String of,
      @RequestParam(defaultValue = "json") @Pattern(regexp = "json|yaml") String format,
      @AuthenticationPrincipal SignedIn who) {
    RulebookSources.Source source = sources.find(of, who);
    boolean yaml = format.equals("yaml");
    byte[] text = yaml ? files.yaml(source.rulebook()) : files.json(source.rulebook());
    return ResponseEntity.ok()
        .contentType(yaml ? YAML : MediaType.APPLICATION_JSON)
        .header("Content-Disposition", attachment(source, format))
        .body(text);
  }

  /** Takes a rulebook file, JSON or YAML, in as a draft. */
  @Takes(kilobytes = 512, costly = true)
  @PostMapping(
      value = "/file",
      consumes = {MediaType.APPLICATION_JSON_VALUE, "application/yaml", MediaType.TEXT_PLAIN_VALUE})
  @PreAuthorize("hasRole('WARDEN')")
  @ResponseStatus(HttpStatus.CREATED)
  Begun take(
      @RequestParam @NotBlank @Size(max = 100) String name,
      @RequestParam(defaultValue = "json") @Pattern(regexp = "json|yaml") String format,
      HttpServletRequest request,
      @AuthenticationPrincipal SignedIn who)
      throws IOException {
    var document =
        format.equals("yaml")
            ? files.readYaml(request.getInputStream())
            : files.readJson(request.getInputStream());
    Draft draft = drafts.create(name, document, who);
    return new Begun(draft.id(), draft.name());
  }

  /** The draft that a file became. */
  record Begun(long id, String name) {}

  /**
   * A rulebook for hosts to read: what is fixed, what they may change and how far, and why.
   *
   * @param unit whose hosts' meetings it is for; with {@code person}, that person's unit
   * @param format {@code html} or {@code pdf}
   */
  @GetMapping(
      value = "/print",
      produces = {MediaType.TEXT_HTML_VALUE, MediaType.APPLICATION_PDF_VALUE})
  @PreAuthorize("isAuthenticated()")
  ResponseEntity<byte[]> print(
      @RequestParam String of,
      @RequestParam(required = false) @Nullable String unit,
      @RequestParam(required = false) @Nullable String kind,
      @RequestParam(required = false) @Nullable String person,
      @RequestParam(defaultValue = "html") @Pattern(regexp = "html|pdf") String format,
      @AuthenticationPrincipal SignedIn who) {
    boolean readsOwn = who.isHost() || who.role() == Role.UNIT_WARDEN;
    if (person != null && readsOwn && !person.equalsIgnoreCase(who.email())) {
      throw ProblemException.forbidden("not-allowed", "You can print what applies to yourself.");
    }
    RulebookSources.Source source = sources.find(of, who);
    DraftImpactService.Whom whom = new DraftImpactService.Whom(unit, kind, person);
    boolean pdf = format.equals("pdf");
    return ResponseEntity.ok()
        .contentType(
            pdf ? MediaType.APPLICATION_PDF : MediaType.parseMediaType("text/html;charset=utf-8"))
        .header("Content-Disposition", pdf ? attachment(source, "pdf") : "inline")
        .body(pdf ? printed.pdf(source, whom) : printed.html(source, whom));
  }

  private static String attachment(RulebookSources.Source source, String extension) {
    String name = source.id().replace(':', '-').toLowerCase(Locale.ROOT);
    return "attachment; filename=\"rulebook-" + name + "." + extension + "\"";
  }
}
