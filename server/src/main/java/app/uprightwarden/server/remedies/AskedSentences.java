package app.uprightwarden.server.remedies;

import app.uprightwarden.core.people.Directory;
import app.uprightwarden.server.access.AccountLanguages;
import app.uprightwarden.server.audit.AuditRun;
import app.uprightwarden.server.audit.ContinuousAudit;
import app.uprightwarden.server.audit.FindingQueries;
import app.uprightwarden.server.judging.FindingView;
import app.uprightwarden.server.problem.Languages;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Stream;
import org.springframework.stereotype.Component;

/**
 * What hosts were asked about, in the language of who reads it. Kept is the English of the moment
 * of asking; what is found still is worded anew, what is not stays as it was.
 */
@Component
class AskedSentences {
  private static final int MEETINGS_AT_ONCE = 50;

  /** Of so many meetings; beyond it what they were asked stays as it was kept. */
  private static final int MAX_AT_ONCE = 5_000;

  private final ContinuousAudit standing;
  private final FindingQueries findings;
  private final AccountLanguages languages;

  AskedSentences(ContinuousAudit standing, FindingQueries findings, AccountLanguages languages) {
    this.standing = standing;
    this.findings = findings;
    this.languages = languages;
  }

  /** What makes a finding the one that was asked about. */
  private record Key(String meeting, String occurrence, String check, String subject) {}

  private static Key key(RequestRows.AskedItem item) {
    return new Key(item.meeting(), item.occurrence(), item.check(), item.subject());
  }

  private static Key key(RequestRows.NewItem item) {
    return new Key(item.meeting(), item.occurrence(), item.check(), item.subject());
  }

  private static Key key(FindingQueries.Listed listed) {
    FindingView finding = listed.finding();
    return new Key(
        listed.meeting(),
        Objects.requireNonNullElse(finding.occurrence(), ""),
        finding.check(),
        HostRequests.subject(finding));
  }

  /** For whoever asks now. */
  List<RequestRows.HostRequest> worded(List<RequestRows.HostRequest> requests) {
    if (isEnglish()) {
      return requests;
    }
    Map<Key, String> texts =
        texts(
            requests.stream()
                .flatMap(request -> request.items().stream())
                .map(RequestRows.AskedItem::meeting));
    return requests.stream()
        .map(
            request ->
                request.with(
                    request.items().stream()
                        .map(item -> item.saying(said(texts, key(item), item.sentence())))
                        .toList()))
        .toList();
  }

  /** For whoever asks now. */
  RequestRows.AskedItem worded(RequestRows.AskedItem item) {
    return isEnglish()
        ? item
        : item.saying(said(texts(Stream.of(item.meeting())), key(item), item.sentence()));
  }

  /** For somebody who is written to. */
  List<RequestRows.NewItem> to(String person, List<RequestRows.NewItem> items) {
    return Languages.in(of(person), () -> isEnglish() ? items : newly(items));
  }

  private List<RequestRows.NewItem> newly(List<RequestRows.NewItem> items) {
    Map<Key, String> texts = texts(items.stream().map(RequestRows.NewItem::meeting));
    return items.stream()
        .map(item -> item.saying(said(texts, key(item), item.sentence())))
        .toList();
  }

  /** For somebody who is written to. */
  RequestRows.HostRequest to(String person, RequestRows.HostRequest request) {
    return Languages.in(of(person), () -> worded(List.of(request)).get(0));
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

  private static String said(Map<Key, String> texts, Key key, String kept) {
    return texts.getOrDefault(key, kept);
  }

  /** What is open in these meetings, in the language in hand. */
  private Map<Key, String> texts(Stream<String> of) {
    Long audit = standing.now().map(AuditRun::id).orElse(null);
    if (audit == null) {
      return Map.of();
    }
    List<String> meetings = of.distinct().toList();
    Map<Key, String> texts = new HashMap<>();
    for (int from = 0; from < meetings.size(); from += MEETINGS_AT_ONCE) {
      int to = Math.min(from + MEETINGS_AT_ONCE, meetings.size());
      findings
          .openOf(audit, meetings.subList(from, to), MAX_AT_ONCE)
          .forEach(each -> texts.putIfAbsent(key(each), each.finding().text()));
    }
    return texts;
  }
}
