package app.uprightwarden.server.scheduling;

import app.uprightwarden.core.audit.FactsBuilder;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.people.Directory;
import app.uprightwarden.core.rulebook.ResolvedRulebook;
import app.uprightwarden.core.service.Held;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.judging.Judging;
import app.uprightwarden.server.outbox.OutboxService;
import app.uprightwarden.server.people.Organisation;
import app.uprightwarden.server.people.OrganisationService;
import app.uprightwarden.server.problem.Fault;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.register.HeldMeeting;
import app.uprightwarden.server.register.HeldMeetings;
import app.uprightwarden.server.register.Limits;
import app.uprightwarden.server.register.MeetingRestore;
import app.uprightwarden.server.register.MeetingVersions;
import app.uprightwarden.server.register.RegisterService;
import app.uprightwarden.server.register.Scheduled;
import app.uprightwarden.server.register.ServiceMeans;
import app.uprightwarden.server.register.StoredMeeting;
import app.uprightwarden.server.rulebook.RulebookService;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.JsonNode;

/** Saves meetings from the scheduling page, and tells those concerned. */
@Service
class ScheduleService {
  private final MeetingForm forms;
  private final RegisterService register;
  private final MeetingVersions versions;
  private final MeetingRestore restore;
  private final OrganisationService organisation;
  private final RulebookService rulebook;
  private final Invitations invitations;
  private final Answers answers;
  private final Letters letters;
  private final MeetingHome home;
  private final HeldMeetings held;

  ScheduleService(
      MeetingForm forms,
      RegisterService register,
      MeetingVersions versions,
      MeetingRestore restore,
      OrganisationService organisation,
      RulebookService rulebook,
      Invitations invitations,
      Answers answers,
      Letters letters,
      MeetingHome home,
      HeldMeetings held) {
    this.forms = forms;
    this.register = register;
    this.versions = versions;
    this.restore = restore;
    this.organisation = organisation;
    this.rulebook = rulebook;
    this.invitations = invitations;
    this.answers = answers;
    this.letters = letters;
    this.home = home;
    this.held = held;
  }

  /**
   * How to save.
   *
   * @param send whether invitees are written to
   * @param word to them, or empty
   * @param reason why it goes beyond a limit, or empty
   * @param service the one that a new meeting is to be made in, {@link MeetingHome#NONE}, or null
   *     for the usual one
   */
  record Saving(boolean send, String word, String reason, @Nullable Long service) {}

  /**
   * What came of it.
   *
   * @param madeBy the service that has to make it first; what is sent waits for that
   * @param before it had been saved with the same key before, and nothing was changed or sent now
   */
  record Saved(String id, int sent, @Nullable String madeBy, boolean before) {}

  /**
   * The meeting that somebody has saved with a key before; null where there is none.
   *
   * @throws ProblemException 409 where it was cancelled since
   */
  @Transactional(readOnly = true)
  @Nullable Saved savedBefore(@Nullable String key, Saving how, SignedIn who) {
    if (key == null) {
      return null;
    }
    String id = idOf(key, who);
    StoredMeeting there = register.find(id).orElse(null);
    if (there == null) {
      if (!versions.lastHost(id).isEmpty()) {
        throw ProblemException.conflict(
            "cancelled-since", "This meeting was saved, and has been cancelled since.");
      }
      return null;
    }
    int sent = how.send() ? Recipients.of(there.meeting(), organisation.directory()).size() : 0;
    HeldMeeting held = there.service();
    String madeBy = held != null && home.isBeingMade(id) ? held.service().name() : null;
    return new Saved(id, sent, madeBy, true);
  }

  private static String idOf(@Nullable String key, SignedIn who) {
    if (key == null) {
      return MeetingForm.newId();
    }
    String whole = Directory.fold(who.email()) + "\n" + key;
    return "m-" + UUID.nameUUIDFromBytes(whole.getBytes(StandardCharsets.UTF_8));
  }

  /**
   * Schedules a new meeting, stamped with the starts in force.
   *
   * @param key by which it is known again, or null
   */
  @Transactional
  public Saved schedule(JsonNode form, @Nullable String key, Saving how, SignedIn who) {
    Organisation all = organisation.organisation();
    FactsBuilder builder = builder(all);
    ResolvedRulebook rules =
        builder.rulesFor(form.path("host").stringValue(""), form.path("kind").stringValue(null));
    Scheduled read = read(forms.stamped(form, rules), idOf(key, who), null, all);
    ResolvedRulebook exact = builder.rulesFor(read.meeting().host(), read.meeting().kind());
    ServiceMeans.Named service = home.of(read.meeting().host(), how.service());
    Scheduled whole = forms.completed(read, exact, service != null);
    if (service != null) {
      // numbers are the service's
      Meeting unnumbered = whole.meeting().withNumber(null);
      whole =
          new Scheduled(
              unnumbered, whole.details(), whole.passcode(), false, whole.phonePasscode());
    }
    mayHost(whole.meeting(), null, who);
    mayUseNumber(whole.meeting(), null, who);
    checkLimits(whole.meeting(), null, exact, how, who);
    checkDates(whole.meeting(), null, MeetingHome.held(null, service));
    register.put(whole, "scheduled", blankToNull(how.reason()), who.email());
    String id = whole.meeting().id();
    if (service != null) {
      held.hold(register.find(id).orElseThrow(), service, who.email());
    }
    int sent = how.send() ? send(whole, null, Invitations.Sort.NEW, how.word(), who) : 0;
    return new Saved(id, sent, service == null ? null : service.name(), false);
  }

  /**
   * Changes a meeting.
   *
   * @throws ProblemException 409 where it was changed meanwhile
   */
  @Transactional
  public Saved change(String id, long version, JsonNode form, Saving how, SignedIn who) {
    StoredMeeting before = register.get(id, who);
    RegisterService.checkVersion(before, version);
    Organisation all = organisation.organisation();
    FactsBuilder builder = builder(all);
    Scheduled read = read(form, id, before, all);
    ResolvedRulebook rules = builder.rulesFor(read.meeting().host(), read.meeting().kind());
    Scheduled whole =
        sequenced(forms.completed(read, rules, before.service() != null), before, how.send());
    mayHost(whole.meeting(), before.meeting(), who);
    mayUseNumber(whole.meeting(), before.meeting(), who);
    checkLimits(whole.meeting(), before.decided(), rules, how, who);
    checkDates(whole.meeting(), before.decided(), MeetingHome.held(before, null));
    register.put(whole, "changed", blankToNull(how.reason()), who.email());
    boolean wasSent = !answers.of(id).isEmpty();
    Invitations.Sort sort = wasSent ? Invitations.Sort.CHANGED : Invitations.Sort.NEW;
    int sent = how.send() ? send(whole, before, sort, how.word(), who) : 0;
    return new Saved(id, sent, null, false);
  }

  /** What goes out next is newer, where it is about another time (RFC 5546 section 2.1.4). */
  private Scheduled sequenced(Scheduled whole, StoredMeeting before, boolean isSent) {
    Meeting now = whole.meeting();
    Meeting was = before.meeting();
    boolean otherTime =
        !now.start().equals(was.start())
            || !now.zone().equals(was.zone())
            || now.minutes() != was.minutes()
            || !java.util.Objects.equals(now.recurrence(), was.recurrence())
            || !now.exDates().equals(was.exDates())
            || !now.rDates().equals(was.rDates())
            || !times(now).equals(times(was));
    // a cancellation to those who are no longer invited has to be newer than their invitation
    boolean isNewer = otherTime || isSent && !gone(now, was, organisation.directory()).isEmpty();
    int sequence = before.details().sequence() + (isNewer ? 1 : 0);
    return new Scheduled(
        now,
        whole.details().withSequence(sequence),
        whole.passcode(),
        false,
        whole.phonePasscode());
  }

  private static List<String> times(Meeting meeting) {
    return meeting.changes().stream()
        .map(c -> c.at() + "|" + c.start() + "|" + c.minutes())
        .sorted()
        .toList();
  }

  private FactsBuilder builder(Organisation all) {
    return Judging.builder(all, organisation.directory(), rulebook.rulebook(rulebook.inForce()));
  }

  private Scheduled read(
      JsonNode form, String id, @Nullable StoredMeeting before, Organisation all) {
    List<Fault> faults = new ArrayList<>();
    Scheduled read = forms.read(form, id, before, all, faults);
    if (read == null) {
      throw ProblemException.invalid("The meeting has faults. Nothing was saved.", faults);
    }
    return read;
  }

  /**
   * Hosts schedule for themselves. A meeting that is there keeps its host: neither a co-host nor
   * whoever hosted it once takes it over, and nobody is made to host.
   */
  private static void mayHost(Meeting meeting, @Nullable Meeting before, SignedIn who) {
    String keeps = Directory.fold(before == null ? who.email() : before.host());
    boolean stays = Directory.fold(meeting.host()).equals(keeps);
    if (who.isHost() && !(stays && RegisterService.hosts(meeting, who))) {
      throw ProblemException.forbidden(
          "not-your-meeting",
          "You schedule meetings that you host. Ask a warden to hand one over.");
    }
  }

  /** A host takes a fresh number or one of the meeting's host, never one that is another's. */
  private void mayUseNumber(Meeting meeting, @Nullable Meeting before, SignedIn who) {
    String number = meeting.number();
    boolean kept = before != null && java.util.Objects.equals(number, before.number());
    if (who.isHost()
        && number != null
        && !kept
        && register.hasNumber(number)
        && !register.numbersOf(meeting.host()).contains(number)) {
      throw ProblemException.invalid(
          "That number is another meeting's. Nothing was saved.",
          List.of(new Fault("/number", "take a fresh one, or one of your own")));
    }
  }

  private static void checkDates(Meeting meeting, @Nullable Meeting before, @Nullable Held held) {
    List<Fault> faults = MeetingHome.dateFaults(meeting, before, held);
    if (!faults.isEmpty()) {
      throw ProblemException.invalid(
          "The conference service cannot hold that for one date. Nothing was saved.", faults);
    }
  }

  private void checkLimits(
      Meeting meeting, @Nullable Meeting before, ResolvedRulebook rules, Saving how, SignedIn who) {
    List<Limits.Beyond> beyond = Limits.beyond(meeting, before, rules, organisation.directory());
    if (beyond.isEmpty()) {
      return;
    }
    List<Fault> faults = beyond.stream().map(Limits.Beyond::fault).toList();
    if (who.isHost()) {
      throw ProblemException.invalid(
          "That goes beyond what the rulebook allows. Nothing was saved. Change it, or ask for a"
              + " waiver.",
          faults);
    }
    boolean looser = beyond.stream().anyMatch(Limits.Beyond::looser);
    if (looser && how.reason().isBlank()) {
      throw ProblemException.invalid(
          "That is looser than the rulebook allows. Say why, and save again. Nothing was saved.",
          faults);
    }
  }

  /** Writes to those invited, and to those who were. */
  int send(
      Scheduled now,
      @Nullable StoredMeeting before,
      Invitations.Sort sort,
      @Nullable String word,
      SignedIn who) {
    Invitations.Ground ground = invitations.ground(now, null);
    List<Recipients.Recipient> to = Recipients.of(now.meeting(), ground.directory());
    boolean newTime = before == null || before.details().sequence() != now.details().sequence();
    List<Recipients.Recipient> gone =
        before == null ? List.of() : gone(now.meeting(), before.meeting(), ground.directory());
    List<String> changes =
        before == null || sort != Invitations.Sort.CHANGED
            ? List.of()
            : MeetingChanges.between(
                new Scheduled(before.meeting(), before.details(), null), now, ground);
    int written =
        letters.write(new Letters.Round(now, sort, word, newTime, who.email(), changes), to);
    return written
        + letters.write(
            new Letters.Round(now, Invitations.Sort.WITHDRAWN, word, false, who.email()), gone);
  }

  /** Those who were invited and no longer are. */
  private static List<Recipients.Recipient> gone(Meeting now, Meeting before, Directory directory) {
    Set<String> still = new HashSet<>();
    Recipients.of(now, directory).forEach(r -> still.add(Directory.fold(r.email())));
    return Recipients.of(before, directory).stream()
        .filter(r -> !still.contains(Directory.fold(r.email())))
        .toList();
  }

  /**
   * Cancels a meeting. It can be put back from its versions.
   *
   * @return how many were written to
   */
  @Transactional
  public int cancel(String id, long version, boolean send, @Nullable String word, SignedIn who) {
    StoredMeeting before = register.get(id, who);
    RegisterService.checkVersion(before, version);
    int sequence = before.details().sequence() + 1;
    Scheduled last = new Scheduled(before.meeting(), before.details().withSequence(sequence), null);
    int written = 0;
    if (send) {
      List<Recipients.Recipient> to = Recipients.of(before.meeting(), organisation.directory());
      written =
          letters.write(
              new Letters.Round(last, Invitations.Sort.CANCELLED, word, false, who.email()), to);
    }
    register.cancel(id, blankToNull(word), who.email());
    return written;
  }

  /** Puts an earlier version back, of a cancelled meeting too. */
  @Transactional
  public void restore(String id, long version, SignedIn who) {
    MeetingVersions.Version old = versions.get(id, version);
    StoredMeeting now = register.find(id).orElse(null);
    if (who.isHost()) {
      // whose it is now decides, or whose it was when it was cancelled; not whose it ever was
      String owner = now == null ? versions.lastHost(id) : now.meeting().host();
      boolean mine =
          now == null
              ? Directory.fold(owner).equals(Directory.fold(who.email()))
              : RegisterService.hosts(now.meeting(), who);
      if (!mine) {
        throw ProblemException.notFound("There is no meeting " + id + " for you.");
      }
      if (!Directory.fold(old.host()).equals(Directory.fold(owner))) {
        throw ProblemException.forbidden(
            "not-your-meeting",
            "That version has another host than the meeting has now. Ask a warden.");
      }
    }
    restore.restore(id, version, "restored", who.email());
    if (who.isHost()) {
      StoredMeeting after = register.get(id, who);
      ResolvedRulebook rules =
          builder(organisation.organisation())
              .rulesFor(after.meeting().host(), after.meeting().kind());
      // thrown, it takes the whole of this back
      checkLimits(
          after.meeting(),
          now == null ? null : now.meeting(),
          rules,
          new Saving(false, "", "", null),
          who);
    }
  }

  /**
   * Where one joins a meeting.
   *
   * @param link null where there is none, or none yet
   * @param instead what is said in place of a link
   * @param text all of it, to be passed on
   */
  record JoinView(
      @Nullable String link,
      String instead,
      @Nullable String number,
      List<String> dialIn,
      String text) {}

  @Transactional(readOnly = true)
  public JoinView join(String id, SignedIn who) {
    StoredMeeting stored = register.get(id, who);
    Scheduled whole = new Scheduled(stored.meeting(), stored.details(), register.passcode(id));
    Invitations.Ground ground = invitations.ground(whole, null);
    MeetingHome.Join join = ground.join();
    return new JoinView(
        join.link(),
        join.instead(),
        stored.meeting().number(),
        join.dialIn(),
        invitations.joinText(whole, ground));
  }

  /** The letter somebody would get, of a form that need not be saved. */
  @Transactional(readOnly = true)
  public Letter letter(
      JsonNode form,
      @Nullable StoredMeeting before,
      @Nullable Long wanted,
      @Nullable String email,
      String word) {
    Organisation all = organisation.organisation();
    FactsBuilder builder = builder(all);
    JsonNode stamped =
        before == null
            ? forms.stamped(
                form,
                builder.rulesFor(
                    form.path("host").stringValue(""), form.path("kind").stringValue(null)))
            : form;
    String id = before == null ? MeetingForm.newId() : before.meeting().id();
    Scheduled read = read(stamped, id, before, all);
    ServiceMeans.Named service = before == null ? home.of(read.meeting().host(), wanted) : null;
    Scheduled whole =
        forms.completed(
            read,
            builder.rulesFor(read.meeting().host(), read.meeting().kind()),
            service != null || before != null && before.service() != null);
    Invitations.Ground ground = invitations.ground(whole, service);
    List<Recipients.Recipient> to = Recipients.of(whole.meeting(), ground.directory());
    Recipients.Recipient chosen =
        to.stream()
            .filter(r -> email != null && Directory.fold(r.email()).equals(Directory.fold(email)))
            .findFirst()
            .orElse(to.isEmpty() ? null : to.get(0));
    List<String> addresses = to.stream().map(Recipients.Recipient::email).toList();
    if (chosen == null) {
      return new Letter(null, addresses, "", "", "", "");
    }
    boolean sent = before != null && !answers.of(before.meeting().id()).isEmpty();
    OutboxService.Letter letter =
        invitations.letter(
            whole,
            chosen,
            sent ? Invitations.Sort.CHANGED : Invitations.Sort.NEW,
            word,
            before != null && sent
                ? MeetingChanges.between(
                    new Scheduled(before.meeting(), before.details(), null), whole, ground)
                : List.of(),
            ground);
    OutboxService.CalendarPart calendar = letter.calendar();
    return new Letter(
        chosen.email(),
        addresses,
        letter.subject(),
        letter.body(),
        String.valueOf(letter.html()),
        calendar == null ? "" : calendar.text());
  }

  /**
   * A letter before it is sent.
   *
   * @param to null where nobody is invited
   * @param all everybody who would get one
   */
  record Letter(
      @Nullable String to,
      List<String> all,
      String subject,
      String text,
      String html,
      String calendar) {}

  private static @Nullable String blankToNull(@Nullable String text) {
    return text == null || text.isBlank() ? null : text.strip();
  }
}
