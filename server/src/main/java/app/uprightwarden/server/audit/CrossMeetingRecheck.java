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
      add(RegisterService.Shared.HOST, Directory.fold(shared.host()));
      add(RegisterService.Shared.NUMBER, shared.number());
      add(RegisterService.Shared.PASSCODE, shared.passcode());
    }

    void add(StoredMeeting stored) {
      var passcode = stored.meeting().passcode();
      add(
          new FindingStore.Shared(
              stored.meeting().host(),
              stored.meeting().number(),
              passcode == null ? null : passcode.fingerprint()));
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
  void lookAgain(long id, MeetingAuditor inspection, Keys keys, Set<String> changed, String cause) {
    CHECK_OF.forEach(
        (what, check) ->
            between(
                id,
                inspection,
                what,
                check,
                Objects.requireNonNullElse(keys.keys.get(what), Set.of()),
                changed,
                cause));
  }

  /** One check between meetings again, over everything that shares a key with what changed. */
  private void between(
      long id,
      MeetingAuditor inspection,
      RegisterService.Shared what,
      String check,
      Set<String> keys,
      Set<String> changed,
      String cause) {
    List<StoredMeeting> group = register.sharing(what, keys);
    Set<String> concerned = new HashSet<>(changed);
    Register together = new Register();
    for (StoredMeeting stored : group) {
      inspection.addOnly(together, stored);
      concerned.add(stored.meeting().id());
    }
    List<FindingStore.Old> before = store.old(id, concerned, Set.of(check));
    Map<String, FindingStore.Old> old = FindingHistory.byIdentity(before);
    Map<String, FindingStore.Audited> audited = store.audited(id, concerned);
    List<FindingStore.FindingRow> fresh = new ArrayList<>();
    inspection.auditTogether(
        together,
        (meeting, detail) -> {
          FindingStore.Audited of = audited.get(group.get(meeting).meeting().id());
          if (of != null && detail.check().id().equals(check)) {
            fresh.add(inspection.together(of, detail));
          }
        });
    if (before.isEmpty() && fresh.isEmpty()) {
      return;
    }
    store.deleteFindings(id, concerned, Set.of(check));
    store.write(id, told.dated(fresh, old));
    Set<String> touched = new HashSet<>();
    before.forEach(f -> touched.add(f.meeting()));
    fresh.forEach(f -> touched.add(f.meeting()));
    store.recount(id, touched);
    told.note(
        old,
        fresh,
        meeting -> {
          FindingStore.Audited of = audited.get(meeting);
          return new FindingHistory.Because(
              cause, null, of == null ? meeting : of.title(), of == null ? null : of.unit());
        });
  }
}
