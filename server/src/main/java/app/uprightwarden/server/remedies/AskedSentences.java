package app.uprightwarden.server.remedies;

import app.uprightwarden.core.people.Directory;
import app.uprightwarden.server.access.AccountLanguages;
import app.uprightwarden.server.audit.AuditRun;
import app.uprightwarden.server.audit.ContinuousAudit;
import app.uprightwarden.server.audit.FindingQueries;
import app.uprightwarden.server.problem.Languages;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import org.springframework.stereotype.Component;

/**
 * What hosts were asked about, in the language of who reads it. Kept is the English of the moment
 * of asking; what is found still is worded anew, what is not stays as it was.
 */
@Component
class AskedSentences {
  private static final int MAX_OF_A_MEETING = 1000;

  /** Of a longer list the others stay as they were kept: each is looked up. */
  private static final int MAX_WORDED = 200;

  private final ContinuousAudit standing;
  private final FindingQueries findings;
  private final AccountLanguages languages;

  AskedSentences(ContinuousAudit standing, FindingQueries findings, AccountLanguages languages) {
    this.standing = standing;
    this.findings = findings;
    this.languages = languages;
  }

  /** For whoever asks now. */
  List<RequestRows.HostRequest> worded(List<RequestRows.HostRequest> requests) {
    if (isEnglish()) {
      return requests;
    }
    List<RequestRows.HostRequest> said = new ArrayList<>();
    int items = 0;
    for (RequestRows.HostRequest each : requests) {
      items += each.items().size();
      said.add(items <= MAX_WORDED ? worded(each) : each);
    }
    return said;
  }

  /** For whoever asks now. */
  RequestRows.AskedItem worded(RequestRows.AskedItem item) {
    return isEnglish()
        ? item
        : item.saying(
            sentence(
                item.meeting(), item.occurrence(), item.check(), item.subject(), item.sentence()));
  }

  private RequestRows.HostRequest worded(RequestRows.HostRequest request) {
    return request.with(request.items().stream().map(this::worded).toList());
  }

  /** For somebody who is written to. */
  List<RequestRows.NewItem> to(String person, List<RequestRows.NewItem> items) {
    return Languages.in(
        of(person),
        () ->
            isEnglish()
                ? items
                : items.stream()
                    .map(
                        item ->
                            item.saying(
                                sentence(
                                    item.meeting(),
                                    item.occurrence(),
                                    item.check(),
                                    item.subject(),
                                    item.sentence())))
                    .toList());
  }

  /** For somebody who is written to. */
  RequestRows.HostRequest to(String person, RequestRows.HostRequest request) {
    return Languages.in(of(person), () -> isEnglish() ? request : worded(request));
  }

  /** For somebody who is written to. */
  RequestRows.AskedItem to(String person, RequestRows.AskedItem item) {
    return Languages.in(of(person), () -> worded(item));
  }

  private Locale of(String person) {
    return languages.others().getOrDefault(Directory.fold(person), Locale.ENGLISH);
  }

  private static boolean isEnglish() {
    return Languages.current().equals(Locale.ENGLISH);
  }

  private String sentence(
      String meeting, String occurrence, String check, String subject, String kept) {
    Long audit = standing.now().map(AuditRun::id).orElse(null);
    if (audit == null) {
      return kept;
    }
    FindingQueries.FindingFilter filter =
        new FindingQueries.FindingFilter(
            meeting, check, subject.isEmpty() ? null : subject, null, null, false);
    return findings.findings(audit, filter, 0, MAX_OF_A_MEETING).items().stream()
        .map(FindingQueries.Listed::finding)
        .filter(each -> Objects.requireNonNullElse(each.occurrence(), "").equals(occurrence))
        .filter(each -> HostRequests.subject(each).equals(subject))
        .findFirst()
        .map(each -> each.text())
        .orElse(kept);
  }
}
