package app.uprightwarden.core.session;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.door.Roles;
import app.uprightwarden.core.people.Persona;
import app.uprightwarden.core.people.Right;
import app.uprightwarden.core.people.Role;
import app.uprightwarden.core.rulebook.Guarantee;
import app.uprightwarden.core.rulebook.Level;
import app.uprightwarden.core.rulebook.Mode;
import app.uprightwarden.core.rulebook.ResolvedRule;
import app.uprightwarden.core.rulebook.ResolvedRulebook;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/**
 * Judges what happens in a session against what the rulebook promises. It looks at each event after
 * the book has taken it in; which act ends what it finds comes with the alert.
 */
public final class Guard {
  /** A meeting may run over by this much before anybody is asked to look. */
  public static final Duration GRACE = Duration.ofMinutes(10);

  private static final int WORST = 5;
  private static final String SETTING = "setting/";
  private static final String PERSON = "person/";

  private final ResolvedRulebook rules;
  private final Instant end;

  /**
   * A guard of one session.
   *
   * @param rules in force for its meeting
   * @param end when it is to be over
   */
  public Guard(ResolvedRulebook rules, Instant end) {
    this.rules = rules;
    this.end = end;
  }

  /**
   * What an event made wrong.
   *
   * @param wasRecording who recorded before it, or null
   */
  public List<Alert> after(SessionBook book, SessionEvent event, @Nullable String wasRecording) {
    List<Alert> alerts = new ArrayList<>();
    Seat seat = event.who() == null ? null : book.seat(event.who());
    switch (event.kind()) {
      case ENTERED -> {
        if (seat != null && seat.place() == Seat.Place.INSIDE) {
          entered(book, seat, event.seq(), alerts);
        }
      }
      case ROLE -> {
        if (seat != null) {
          guarantees(book, seat, event.seq(), alerts);
        }
      }
      case SETTING -> {
        beyond(book, event, alerts);
        Control control = Control.byId(event.get(SessionEvent.CONTROL));
        if (control != null) {
          List<Alert> broken = new ArrayList<>();
          book.seats().forEach(each -> guarantees(book, each, event.seq(), broken));
          broken.forEach(alert -> alerts.add(broughtBy(control, alert)));
        }
      }
      case SHARE_STARTED -> {
        if (seat != null) {
          shares(book, seat, event.seq(), alerts);
        }
      }
      case RECORDING_STARTED -> {
        if (seat != null) {
          records(book, seat, event.seq(), wasRecording, alerts);
        }
      }
      default -> {}
    }
    return alerts;
  }

  /** What the passing of time alone made wrong. */
  public List<Alert> at(SessionBook book, Instant now) {
    boolean isOver = now.isAfter(end.plus(GRACE));
    long inside = book.seats().stream().filter(s -> s.place() == Seat.Place.INSIDE).count();
    if (book.ended() || !isOver || !isOpen(book)) {
      return List.of();
    }
    return List.of(
        new Alert(
            Alert.Kind.OPEN_PAST_END,
            Alert.Kind.OPEN_PAST_END.id(),
            book.seq(),
            null,
            null,
            book.hostsIn() == 0 ? 3 : 2,
            "The session should have ended "
                + Duration.between(end, now).toMinutes()
                + " minutes ago; "
                + inside
                + (inside == 1 ? " person is" : " people are")
                + " in, anybody can still come in"
                + (book.hostsIn() == 0 ? ", and no host is there." : "."),
            Order.of(Order.Act.END),
            Alert.Kind.OPEN_PAST_END.id()));
  }

  /**
   * Whether what an alert was about still is so. Alerts whose cause is gone end by themselves.
   *
   * @param who whom the alert is about, or null
   * @param guarantee the guarantee that it says is broken, or null
   * @param cause as the alert has it
   */
  public boolean stands(
      SessionBook book,
      Alert.Kind kind,
      @Nullable String who,
      @Nullable String guarantee,
      String cause) {
    if (book.ended()) {
      return false;
    }
    Seat seat = who == null ? null : book.seat(who);
    boolean isInside = seat != null && seat.place() == Seat.Place.INSIDE;
    return switch (kind) {
      case STRANGER_BEFORE_HOST, REMOVED_BACK -> isInside;
      case GUARANTEE_BROKEN -> isInside && seat != null && isBroken(book, seat, guarantee);
      case SHARE_NOT_ALLOWED -> isInside && seat != null && seat.who().equals(book.sharing());
      case RECORDING_NOT_ALLOWED, RECORDING_ENDED ->
          isInside && seat != null && seat.who().equals(book.recording());
      case SETTING_BEYOND_RULE -> isBeyond(book, cause);
      case OPEN_PAST_END -> isOpen(book);
    };
  }

  private boolean isBroken(SessionBook book, Seat seat, @Nullable String guarantee) {
    List<Alert> now = new ArrayList<>();
    guarantees(book, seat, book.seq(), now);
    return now.stream().anyMatch(alert -> Objects.equals(alert.guarantee(), guarantee));
  }

  private boolean isBeyond(SessionBook book, String cause) {
    Control control =
        cause.startsWith(SETTING) ? Control.byId(cause.substring(SETTING.length())) : null;
    ResolvedRule rule = control == null ? null : rules.rule(control);
    return control != null && rule != null && !keeps(rule, book.values().effective(control));
  }

  /** Whether a value is no looser than a rule allows; stricter is no harm in a session. */
  public static boolean keeps(ResolvedRule rule, Value value) {
    Value limit = rule.limit();
    return limit == null || rule.control().within(value, limit);
  }

  private static boolean isOpen(SessionBook book) {
    return !book.locked()
        && !book.values().is(Control.WAITING_ROOM, "on")
        && book.seats().stream().anyMatch(s -> s.place() == Seat.Place.INSIDE);
  }

  /**
   * What a setting has let many do is ended by setting it back where a rule says how, before
   * anybody is removed for it.
   */
  private Alert broughtBy(Control control, Alert alert) {
    ResolvedRule rule = rules.rule(control);
    Value limit = rule == null ? null : rule.limit();
    return new Alert(
        alert.kind(),
        alert.key(),
        alert.seq(),
        alert.who(),
        alert.guarantee(),
        alert.severity(),
        alert.words(),
        limit == null ? alert.end() : setTo(control, limit),
        SETTING + control.id());
  }

  private static Order setTo(Control control, Value value) {
    return new Order(Order.Act.SET, List.of(), control, plainText(control, value));
  }

  private void entered(SessionBook book, Seat seat, long seq, List<Alert> alerts) {
    Persona persona = seat.persona();
    if (persona == null) {
      return;
    }
    if (wasRemoved(book, seat)) {
      alerts.add(
          alert(
              Alert.Kind.REMOVED_BACK,
              seat,
              seq,
              4,
              seat.name() + " was removed and is in again.",
              Order.of(Order.Act.REMOVE_AND_BAR, seat.who())));
    }
    if (!persona.invited() && !seat.moment().hostIn()) {
      alerts.add(
          alert(
              Alert.Kind.STRANGER_BEFORE_HOST,
              seat,
              seq,
              4,
              seat.name() + ", who was not invited, is in and no host is.",
              Order.of(Order.Act.REMOVE_AND_BAR, seat.who())));
    }
    guarantees(book, seat, seq, alerts);
  }

  /** On this device, or under this address on another. */
  private static boolean wasRemoved(SessionBook book, Seat seat) {
    String address = seat.address();
    return seat.removals() > 0
        || address != null
            && book.seats().stream()
                .anyMatch(other -> other.removals() > 0 && address.equals(other.address()));
  }

  private void guarantees(SessionBook book, Seat seat, long seq, List<Alert> alerts) {
    Persona persona = seat.persona();
    Role role = seat.role();
    if (persona == null || role == null) {
      return;
    }
    Level level = level(seat);
    int held = Roles.rights(book.values(), role, seat.joiner().route());
    for (ResolvedRulebook.Given given : rules.guarantees()) {
      Guarantee guarantee = given.guarantee();
      int broken = held & guarantee.rightsMask();
      if (broken == 0
          || !guarantee.who().contains(persona)
          || level.compareTo(guarantee.ceiling()) <= 0) {
        continue;
      }
      Right worst = worst(broken);
      alerts.add(
          new Alert(
              Alert.Kind.GUARANTEE_BROKEN,
              Alert.Kind.GUARANTEE_BROKEN.id() + "/" + guarantee.id() + "/" + seat.who(),
              seq,
              seat.who(),
              guarantee.id(),
              Math.min(WORST, guarantee.importance() + (level == Level.UNATTENDED ? 1 : 0)),
              seat.name()
                  + ", someone who "
                  + persona.phrase()
                  + ", can "
                  + worst.phrase()
                  + " "
                  + howTheyCame(level)
                  + ".",
              Order.of(Order.Act.REMOVE_AND_BAR, seat.who()),
              PERSON + seat.who()));
    }
  }

  private static String howTheyCame(Level level) {
    return switch (level) {
      case UNATTENDED -> "and came in before any host was there";
      case FREE -> "and came in without being let in";
      case PEER_LETS_IN -> "and was let in by somebody who is no host";
      default -> "and was let in by a host";
    };
  }

  private static Right worst(int mask) {
    return Right.all().stream()
        .filter(right -> (mask & right.bit()) != 0)
        .max(java.util.Comparator.comparingInt(Right::weight))
        .orElseThrow();
  }

  /** At which level somebody holds what they may do, by the way they came in. */
  static Level level(Seat seat) {
    return switch (seat.way()) {
      case LET_IN_BY_HOST -> Level.HOST_LETS_IN;
      case LET_IN_BY_PEER -> Level.PEER_LETS_IN;
      case BY_THEMSELVES ->
          !seat.moment().hostIn() && seat.moment().minutesFromStart() < 0
              ? Level.UNATTENDED
              : Level.FREE;
    };
  }

  private void beyond(SessionBook book, SessionEvent event, List<Alert> alerts) {
    Control control = Control.byId(event.get(SessionEvent.CONTROL));
    ResolvedRule rule = control == null ? null : rules.rule(control);
    Value limit = rule == null ? null : rule.limit();
    if (control == null || rule == null || limit == null) {
      return;
    }
    Value value = book.values().effective(control);
    if (!keeps(rule, value)) {
      alerts.add(
          new Alert(
              Alert.Kind.SETTING_BEYOND_RULE,
              Alert.Kind.SETTING_BEYOND_RULE.id() + "/" + control.id() + "/" + event.seq(),
              event.seq(),
              null,
              null,
              rule.importance(),
              control.title()
                  + " was set to “"
                  + control.label(value)
                  + (rule.mode() == Mode.FIX
                      ? "”; the rule says “"
                      : "”; the rule allows no looser than “")
                  + control.label(limit)
                  + "”.",
              setTo(control, limit),
              SETTING + control.id()));
    }
  }

  /** As orders and events write values. */
  private static String plainText(Control control, Value value) {
    return control.plain(value) instanceof List<?> names
        ? String.join(",", names.stream().map(String::valueOf).toList())
        : String.valueOf(control.plain(value));
  }

  private void shares(SessionBook book, Seat seat, long seq, List<Alert> alerts) {
    String why = whyNot(book, seat, Right.SHARE_SCREEN, Control.SCREEN_SHARE);
    if (why != null) {
      alerts.add(
          alert(
              Alert.Kind.SHARE_NOT_ALLOWED,
              seat,
              seq,
              WORST,
              seat.name() + " shares the screen " + why,
              Order.of(Order.Act.STOP_SHARE)));
    }
  }

  private void records(
      SessionBook book, Seat seat, long seq, @Nullable String was, List<Alert> alerts) {
    String why = whyNot(book, seat, Right.RECORD, Control.RECORDING);
    if (why != null) {
      alerts.add(
          alert(
              Alert.Kind.RECORDING_NOT_ALLOWED,
              seat,
              seq,
              4,
              seat.name() + " records " + why,
              Order.of(Order.Act.STOP_RECORDING)));
    }
    if (was != null && !was.equals(seat.who())) {
      Seat first = book.seat(was);
      alerts.add(
          alert(
              Alert.Kind.RECORDING_ENDED,
              seat,
              seq,
              3,
              seat.name()
                  + " began a recording, which ended that of "
                  + (first == null ? was : first.name())
                  + ".",
              Order.of(Order.Act.STOP_RECORDING)));
    }
  }

  /** Why somebody should not do what they do, to end a sentence with; null where they may. */
  private @Nullable String whyNot(SessionBook book, Seat seat, Right right, Control control) {
    Persona persona = seat.persona();
    if (persona == null) {
      return null;
    }
    if (!persona.invited()) {
      return "and was not invited.";
    }
    Role role = seat.role();
    ControlValues asTheRuleSays = withinRule(book.values(), control);
    boolean may =
        role != null
            && (Roles.rights(asTheRuleSays, role, seat.joiner().route()) & right.bit()) != 0;
    return may ? null : "as " + (role == null ? "nobody" : role.id()) + ", more than the rule has.";
  }

  private ControlValues withinRule(ControlValues values, Control control) {
    ResolvedRule rule = rules.rule(control);
    Value limit = rule == null ? null : rule.limit();
    boolean isBeyond = limit != null && !control.within(values.effective(control), limit);
    return isBeyond ? values.with(control, limit) : values;
  }

  private static Alert alert(
      Alert.Kind kind, Seat seat, long seq, int severity, String words, Order end) {
    return new Alert(
        kind,
        kind.id() + "/" + seat.who() + "/" + seq,
        seq,
        seat.who(),
        null,
        severity,
        words,
        end,
        cause(kind, seat));
  }

  private static String cause(Alert.Kind kind, Seat seat) {
    return switch (kind) {
      case SHARE_NOT_ALLOWED -> "share/" + seat.who();
      case RECORDING_NOT_ALLOWED, RECORDING_ENDED -> "recording/" + seat.who();
      default -> PERSON + seat.who();
    };
  }
}
