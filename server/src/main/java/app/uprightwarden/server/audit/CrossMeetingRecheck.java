package app.uprightwarden.server.audit;

import app.uprightwarden.core.audit.Register;
import app.uprightwarden.core.people.Directory;
import app.uprightwarden.server.register.RegisterService;
import app.uprightwarden.server.register.StoredMeeting;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/**
 * The checks between meetings again, over what shares a host, a number or a passcode with a change.
 */
@Component
class CrossMeetingRecheck {
  /** Which check concerns what meetings have in common. */
  private static final Map<RegisterService.Shared, String> CHECK_OF =
      Map.of(
          RegisterService.Shared.HOST, "host-double-booked",
          RegisterService.Shared.NUMBER, "number-spillover",
          RegisterService.Shared.PASSCODE, "reused-passcode");

  private final FindingStore store;
  private final RegisterService register;
  private final FindingHistory told;

  CrossMeetingRecheck(FindingStore store, RegisterService register, FindingHistory told) {
    this.store = store;
    this.register = register;
    this.told = told;
  }

  /** What changed meetings share with others, before and after. */
  static final class Keys {
    private final Map<RegisterService.Shared, Set<String>> keys =
        new EnumMap<>(RegisterService.Shared.class);

    void add(FindingStore.Shared shared) {
      add(shared.host(), shared.number(), shared.passcode());
    }

    void add(StoredMeeting stored) {
      var passcode = stored.meeting().passcode();
      add(
          stored.meeting().host(),
          stored.meeting().number(),
          passcode == null ? null : passcode.fingerprint());
    }

    private void add(String host, @Nullable String number, @Nullable String passcode) {
      add(RegisterService.Shared.HOST, Directory.fold(host));
      add(RegisterService.Shared.NUMBER, number);
      add(RegisterService.Shared.PASSCODE, passcode);
    }

    void addAll(Keys others) {
      others.keys.forEach((what, some) -> some.forEach(key -> add(what, key)));
    }

    /** Each key by itself. */
    List<Keys> apart() {
      List<Keys> apart = new ArrayList<>();
      keys.forEach(
          (what, some) ->
              some.forEach(
                  key -> {
                    Keys one = new Keys();
                    one.add(what, key);
                    apart.add(one);
                  }));
      return apart;
    }

    private void add(RegisterService.Shared what, @Nullable String key) {
      if (key != null) {
        keys.computeIfAbsent(what, w -> new HashSet<>()).add(key);
      }
    }
  }

  /** Puts what is found now in place of what was, for each of the three checks. */
  void lookAgain(long id, MeetingAuditor auditor, Keys keys, Set<String> changed, String cause) {
    if (keys.keys.isEmpty() && changed.isEmpty()) {
      return;
    }
    CHECK_OF.forEach(
        (what, check) ->
            between(
                id,
                auditor,
                what,
                check,
                Objects.requireNonNullElse(keys.keys.get(what), Set.of()),
                changed,
                cause));
  }

  /** One check between meetings again, over everything that shares a key with what changed. */
  private void between(
      long id,
      MeetingAuditor auditor,
      RegisterService.Shared what,
      String check,
      Set<String> keys,
      Set<String> changed,
      String cause) {
    List<StoredMeeting> group = register.sharing(what, keys);
    Set<String> concerned = new HashSet<>(changed);
    Register together = new Register();
    for (StoredMeeting stored : group) {
      auditor.addOnly(together, stored);
      concerned.add(stored.meeting().id());
    }
    List<FindingStore.FindingRow> before = store.whole(id, concerned, Set.of(check));
    Map<String, FindingStore.Old> old =
        FindingHistory.byIdentity(before.stream().map(FindingStore.FindingRow::old).toList());
    Map<String, FindingStore.Audited> audited = store.audited(id, concerned);
    List<FindingStore.FindingRow> fresh = new ArrayList<>();
    auditor.auditTogether(
        together,
        (meeting, detail) -> {
          FindingStore.Audited of = audited.get(group.get(meeting).meeting().id());
          if (of != null && detail.check().id().equals(check)) {
            fresh.add(auditor.together(of, detail));
          }
        });
    if (!replace(id, check, before, fresh, old)) {
      return;
    }
    told.note(
        old,
        fresh,
        meeting -> {
          FindingStore.Audited of = audited.get(meeting);
          return new FindingHistory.Because(
              cause, null, of == null ? meeting : of.title(), of == null ? null : of.unit());
        });
  }

  /**
   * Puts what a check found between meetings in place of what it had found in them, where that is
   * not the same: most of what shares something with a change is found as it was.
   *
   * @return whether anything is not the same
   */
  boolean replace(
      long id,
      String check,
      List<FindingStore.FindingRow> before,
      List<FindingStore.FindingRow> fresh,
      Map<String, FindingStore.Old> old) {
    Set<String> touched = differing(before, fresh);
    if (touched.isEmpty()) {
      return false;
    }
    store.deleteFindings(id, withAny(before, touched), Set.of(check));
    store.write(
        id, told.dated(fresh.stream().filter(f -> touched.contains(f.meeting())).toList(), old));
    store.recount(id, touched);
    return true;
  }

  /** Those of some meetings in which anything was found: only there is anything to delete. */
  static Set<String> withAny(List<FindingStore.FindingRow> found, Set<String> meetings) {
    Set<String> with = new HashSet<>();
    found.forEach(row -> with.add(row.meeting()));
    with.retainAll(meetings);
    return with;
  }

  /** The meetings in which not the same is found as before. */
  static Set<String> differing(
      List<FindingStore.FindingRow> before, List<FindingStore.FindingRow> now) {
    Set<FindingStore.FindingRow> old = new HashSet<>();
    before.forEach(row -> old.add(row.seenSince(null)));
    Set<String> differing = new HashSet<>();
    for (FindingStore.FindingRow row : now) {
      if (!old.remove(row.seenSince(null))) {
        differing.add(row.meeting());
      }
    }
    old.forEach(row -> differing.add(row.meeting()));
    return differing;
  }
}
