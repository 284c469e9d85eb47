package app.uprightwarden.server.audit;

import app.uprightwarden.core.audit.Auditor;
import app.uprightwarden.core.audit.Check;
import app.uprightwarden.core.audit.RegisterCheck;
import app.uprightwarden.server.people.OrganisationService;
import app.uprightwarden.server.register.MeetingLines;
import app.uprightwarden.server.register.RegisterService;
import app.uprightwarden.server.register.StoredMeeting;
import app.uprightwarden.server.rulebook.RulebookService;
import app.uprightwarden.server.waivers.WaiverService;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;

/** What meetings are found to be, put in the place of what they were found to be before. */
@Component
class AuditWriter {
  /** The checks of what lies between meetings. */
  static final Set<String> TOGETHER =
      Auditor.catalogue().stream()
          .filter(RegisterCheck.class::isInstance)
          .map(Check::id)
          .collect(Collectors.toUnmodifiableSet());

  /** The checks of a meeting by itself. */
  static final Set<String> ALONE =
      Auditor.catalogue().stream()
          .map(Check::id)
          .filter(id -> !TOGETHER.contains(id))
          .collect(Collectors.toUnmodifiableSet());

  private final FindingStore store;
  private final RegisterService register;
  private final MeetingLines lines;
  private final RulebookService rulebook;
  private final OrganisationService organisation;
  private final WaiverService waivers;
  private final FindingHistory told;
  private final JsonMapper json;
  private final Clock clock;

  AuditWriter(
      FindingStore store,
      RegisterService register,
      MeetingLines lines,
      RulebookService rulebook,
      OrganisationService organisation,
      WaiverService waivers,
      FindingHistory told,
      JsonMapper json,
      Clock clock) {
    this.store = store;
    this.register = register;
    this.lines = lines;
    this.rulebook = rulebook;
    this.organisation = organisation;
    this.waivers = waivers;
    this.told = told;
    this.json = json;
    this.clock = clock;
  }

  /** Judges meetings by an edition and the waivers and people of this moment. */
  MeetingAuditor auditor(int edition, Instant from, Instant to) {
    return new MeetingAuditor(
        register,
        organisation,
        rulebook.rulebook(rulebook.edition(edition)),
        waivers.inForce(),
        json,
        from,
        to);
  }

  /**
   * Puts what meetings are found to be by themselves in place of what they were.
   *
   * @param inspected what they are found to be now, in the same order
   * @param cause of what came and went; null where that is not to be told
   * @param looked by meeting, what the checks between meetings have looked at: another key than
   *     that is kept only once they have. Null where they look at everything afterwards.
   * @param isNew whether nothing of them is stored: nothing is looked for then
   */
  void replace(
      long id,
      MeetingAuditor auditor,
      List<StoredMeeting> meetings,
      List<MeetingAuditor.Inspected> inspected,
      @Nullable String cause,
      @Nullable Map<String, FindingStore.Shared> looked,
      boolean isNew) {
    Map<String, StoredMeeting> byId = new LinkedHashMap<>();
    meetings.forEach(stored -> byId.put(stored.meeting().id(), stored));
    List<FindingStore.FindingRow> before =
        isNew ? List.of() : store.whole(id, byId.keySet(), ALONE);
    Map<String, FindingStore.Old> old =
        FindingHistory.byIdentity(before.stream().map(FindingStore.FindingRow::old).toList());
    List<FindingStore.FindingRow> fresh =
        inspected.stream().flatMap(i -> i.findings().stream()).toList();
    // most is found as it was: an edition changes some rules, a day moves some dates
    Set<String> differing = CrossMeetingRecheck.differing(before, fresh);
    store.deleteFindings(id, CrossMeetingRecheck.withAny(before, differing), ALONE);
    store.write(
        id, told.dated(fresh.stream().filter(f -> differing.contains(f.meeting())).toList(), old));
    Map<String, FindingRepository.Counted> sharing =
        isNew ? Map.of() : store.counted(id, byId.keySet(), TOGETHER);
    List<FindingStore.MeetingRow> rows =
        auditor.rows(inspected).stream()
            .map(row -> row.withMore(sharing.get(row.id())))
            .map(
                row ->
                    looked == null || isSame(looked.get(row.id()), row)
                        ? row
                        : row.withShared(null))
            .toList();
    if (isNew) {
      store.add(id, rows);
    } else {
      store.put(id, rows);
    }
    List<MeetingLines.Judged> judged = new ArrayList<>();
    for (int i = 0; i < rows.size(); i++) {
      judged.add(MeetingAuditor.line(rows.get(i), inspected.get(i).starts().length));
    }
    lines.judged(judged);
    if (cause != null) {
      told.note(
          old,
          fresh,
          meeting -> {
            StoredMeeting stored = Objects.requireNonNull(byId.get(meeting));
            return new FindingHistory.Because(
                cause,
                cause.equals("change") ? stored.changedBy() : null,
                stored.meeting().title(),
                auditor.unitOf(stored.meeting().host()));
          });
    }
  }

  /** Judges meetings and puts what they are found to be in place of what they were. */
  List<MeetingAuditor.Inspected> judge(
      long id,
      MeetingAuditor auditor,
      Collection<StoredMeeting> meetings,
      @Nullable String cause,
      Map<String, FindingStore.Shared> looked) {
    List<StoredMeeting> all = List.copyOf(meetings);
    List<MeetingAuditor.Inspected> inspected = all.stream().map(auditor::inspect).toList();
    replace(id, auditor, all, inspected, cause, looked, false);
    return inspected;
  }

  /** Whether a meeting shares with others what it did. */
  static boolean isSame(FindingStore.@Nullable Shared was, FindingStore.MeetingRow is) {
    return was != null && was.key() != null && was.key().equals(is.shared());
  }

  /** Takes out meetings that are in the register no more; their findings are over. */
  void remove(long id, List<String> gone) {
    if (gone.isEmpty()) {
      return;
    }
    Set<String> every = new HashSet<>(ALONE);
    every.addAll(TOGETHER);
    Map<String, FindingStore.Audited> audited = store.audited(id, gone);
    List<FindingStore.Event> events =
        store.old(id, gone, every).stream()
            .map(
                finding -> {
                  FindingStore.Audited meeting = audited.get(finding.meeting());
                  return FindingHistory.event(
                      "gone",
                      new FindingHistory.Because(
                          "over",
                          null,
                          meeting == null ? finding.meeting() : meeting.title(),
                          meeting == null ? null : meeting.unit()),
                      finding);
                })
            .toList();
    store.note(clock.instant(), events);
    store.deleteFindings(id, gone, every);
    store.deleteMeetings(id, gone);
  }
}
