package app.uprightwarden.server.drafting;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.drafting.Cohort;
import app.uprightwarden.core.drafting.DraftImpact;
import app.uprightwarden.core.drafting.FindingChange;
import app.uprightwarden.core.drafting.Layers;
import app.uprightwarden.core.drafting.RegisterIndex;
import app.uprightwarden.core.people.Person;
import app.uprightwarden.core.rulebook.Mode;
import app.uprightwarden.core.rulebook.ResolvedRule;
import app.uprightwarden.core.rulebook.Scope;
import app.uprightwarden.server.outbox.OutboxService;
import app.uprightwarden.server.people.Organisation;
import app.uprightwarden.server.register.RegisterService;
import app.uprightwarden.server.register.RegisterSnapshot;
import app.uprightwarden.server.register.StoredMeeting;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * Writes to each host of coming meetings what a new edition changes for them: the rules that
 * resolve otherwise, and which of their meetings no longer keep them. Who has nothing to learn gets
 * nothing.
 */
final class HostLetters {
  private final RegisterSnapshot.View view;
  private final Layers before;
  private final Layers after;
  private final Names names;

  HostLetters(RegisterSnapshot.View view, Layers before, Layers after, Organisation organisation) {
    this.view = view;
    this.before = before;
    this.after = after;
    this.names = new Names(organisation);
  }

  List<OutboxService.Letter> letters(
      int number, String reason, String when, RegisterService register) {
    Map<String, List<RegisterIndex.Entry>> byHost = new TreeMap<>();
    for (RegisterIndex.Entry entry : view.index().entries()) {
      if (entry.occurrences() > 0) {
        byHost.computeIfAbsent(entry.host(), h -> new ArrayList<>()).add(entry);
      }
    }
    DraftImpact impact = new DraftImpact(before, after);
    List<OutboxService.Letter> letters = new ArrayList<>();
    byHost.forEach(
        (host, entries) -> {
          Person person = view.directory().find(host);
          if (person != null && person.active()) {
            OutboxService.Letter letter =
                letter(person, entries, impact, number, reason, when, register);
            if (letter != null) {
              letters.add(letter);
            }
          }
        });
    return letters;
  }

  private OutboxService.@Nullable Letter letter(
      Person host,
      List<RegisterIndex.Entry> entries,
      DraftImpact impact,
      int number,
      String reason,
      String when,
      RegisterService register) {
    Map<String, Set<String>> changes = new LinkedHashMap<>();
    Set<String> kinds = new HashSet<>();
    List<Long> falling = new ArrayList<>();
    for (RegisterIndex.Entry entry : entries) {
      Cohort cohort = view.index().cohort(entry);
      String kind = cohort.kind() == null ? "" : cohort.kind();
      kinds.add(kind);
      changes(cohort)
          .forEach(line -> changes.computeIfAbsent(line, l -> new TreeSet<>()).add(kind));
      if (impact.changes(cohort).stream().anyMatch(FindingChange::appears)) {
        falling.add(entry.row());
      }
    }
    if (changes.isEmpty() && falling.isEmpty()) {
      return null;
    }
    StringBuilder body = new StringBuilder();
    body.append("Hello " + host.name() + ",\n\n");
    body.append("edition " + number + " of the rulebook for online meetings " + when + ".");
    body.append(" The reason given: " + reason).append("\n\n");
    if (!changes.isEmpty()) {
      body.append("For meetings you schedule from then on:\n");
      changes.forEach(
          (line, of) ->
              body.append("  - ")
                  .append(line)
                  .append(of.containsAll(kinds) ? "" : " (Kind: " + kinds(of) + ".)")
                  .append('\n'));
      body.append('\n');
    }
    if (!falling.isEmpty()) {
      body.append("Meetings of yours that were fine before and need a look:\n");
      for (StoredMeeting stored : register.rows(falling).values()) {
        body.append("  - ").append(stored.meeting().title()).append('\n');
      }
      body.append("\nNothing about them was changed. Open them in Upright Warden to see what.\n");
    }
    return new OutboxService.Letter(
        host.email(),
        "Rulebook, edition " + number + ": what changes for your meetings",
        "edition:" + number,
        body.toString());
  }

  private String kinds(Set<String> ids) {
    return ids.stream()
        .map(id -> id.isEmpty() ? "none" : names.of(Scope.kind(id)))
        .collect(Collectors.joining(", "));
  }

  private List<String> changes(Cohort cohort) {
    var old = before.of(cohort.unit(), cohort.kind());
    var fresh = after.of(cohort.unit(), cohort.kind());
    List<String> changes = new ArrayList<>();
    for (Control control : Control.all()) {
      String was = words(old.rule(control));
      String is = words(fresh.rule(control));
      if (!was.equals(is)) {
        ResolvedRule rule = fresh.rule(control);
        String why = rule == null || rule.reason().isEmpty() ? "" : " Why: " + rule.reason();
        changes.add(control.title() + ": " + is + "; it was " + was + "." + why);
      }
    }
    return changes;
  }

  private static String words(@Nullable ResolvedRule rule) {
    if (rule == null) {
      return "as you like";
    }
    Control control = rule.control();
    String start = "“" + control.label(rule.start()) + "”";
    if (rule.mode() == Mode.SUGGEST) {
      return "suggested " + start;
    }
    if (rule.mode() == Mode.FIX) {
      return "fixed at " + start;
    }
    return "yours to change, no looser than “"
        + control.label(Objects.requireNonNull(rule.limit()))
        + "”, beginning at "
        + start;
  }
}
