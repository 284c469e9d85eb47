package app.uprightwarden.server.floor;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.rulebook.ResolvedRule;
import app.uprightwarden.core.session.Alert;
import app.uprightwarden.core.session.Guard;
import app.uprightwarden.core.session.Order;
import app.uprightwarden.core.session.SessionBook;
import app.uprightwarden.server.access.Role;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.ledger.Ledger;
import app.uprightwarden.server.people.SettingsService;
import app.uprightwarden.server.problem.Fault;
import app.uprightwarden.server.problem.InOrder;
import app.uprightwarden.server.problem.ProblemException;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/**
 * A limit is a limit in a session too: who would go beyond it is refused, and what was loosened in
 * the service itself is set back, where the organisation says so. A warden may allow it for one
 * session.
 */
@Component
class FloorLimits {
  private static final String OURS = "upright-warden";

  private final FloorStore store;
  private final FloorBooks books;
  private final FloorAllowanceRepository allowances;
  private final FloorOrders orders;
  private final SettingsService settings;
  private final Ledger ledger;
  private final Clock clock;

  FloorLimits(
      FloorStore store,
      FloorBooks books,
      FloorAllowanceRepository allowances,
      FloorOrders orders,
      SettingsService settings,
      Ledger ledger,
      Clock clock) {
    this.store = store;
    this.books = books;
    this.allowances = allowances;
    this.orders = orders;
    this.settings = settings;
    this.ledger = ledger;
    this.clock = clock;
  }

  /**
   * Checks an order against the rules of its session.
   *
   * @param reason why a warden allows it for this session, or null
   * @throws ProblemException 422 where it goes beyond a rule and nobody has allowed it
   */
  @Transactional
  public void check(FloorSession session, Order order, @Nullable String reason, SignedIn who) {
    Control control = order.control();
    String text = order.value();
    if (order.act() != Order.Act.SET || control == null || text == null) {
      return;
    }
    ResolvedRule rule = books.with(session, kept -> kept.rules.rule(control));
    Value wanted = SessionBook.value(control, text);
    if (rule == null || Guard.keeps(rule, wanted) || isAllowed(session.id(), control, wanted)) {
      return;
    }
    boolean mayAllow = who.role() == Role.WARDEN;
    if (!mayAllow || reason == null || reason.isBlank()) {
      throw ProblemException.invalid(refusal(rule, mayAllow), List.of(fault(rule, mayAllow)));
    }
    FloorAllowanceEntity row = new FloorAllowanceEntity();
    row.session = session.id();
    row.control = control.id();
    row.value = text;
    row.reason = reason.strip();
    row.byWhom = who.email();
    row.at = clock.instant();
    allowances.insert(row);
    ledger.changed(
        "session",
        session.id(),
        session.title(),
        null,
        () ->
            InOrder.map(
                "allowed", control.id(), "value", text, "reason", row.reason, "ends", "session"),
        who.email());
  }

  private static Fault fault(ResolvedRule rule, boolean mayAllow) {
    return new Fault(
        mayAllow ? "/reason" : "/value",
        mayAllow
            ? "say why it is allowed for this session"
            : rule.control().title() + " goes beyond its rule");
  }

  private static String refusal(ResolvedRule rule, boolean mayAllow) {
    Control control = rule.control();
    Value limit = java.util.Objects.requireNonNull(rule.limit());
    String why = rule.reason().isBlank() ? "" : " " + sentence(rule.reason());
    return control.title()
        + " may be no looser than “"
        + control.label(limit)
        + "” in this session."
        + why
        + (mayAllow
            ? " You can allow it for this session, with a reason."
            : " A warden can allow it for this session.");
  }

  private static String sentence(String reason) {
    String text = reason.strip();
    return text.endsWith(".") ? text : text + ".";
  }

  private boolean isSetBack(ResolvedRule rule) {
    return switch (settings.setBack()) {
      case NONE -> false;
      case SEALED -> rule.sealed();
      case ALL -> true;
    };
  }

  private boolean isAllowed(String session, Control control, Value value) {
    return allowances.of(session, control.id()).stream()
        .map(row -> SessionBook.value(control, row.value))
        .anyMatch(allowed -> control.within(value, allowed));
  }

  /**
   * Leaves out what was allowed, and has set back what a rule forbids where the organisation says
   * so, in the transaction that takes the events in.
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public List<FloorAlerts.Raised> settle(List<FloorAlerts.Raised> raised) {
    List<FloorAlerts.Raised> kept = new ArrayList<>();
    for (FloorAlerts.Raised each : raised) {
      Alert alert = each.alert();
      Control control = alert.end().control();
      if (alert.kind() != Alert.Kind.SETTING_BEYOND_RULE || control == null) {
        kept.add(each);
        continue;
      }
      FloorSession session = store.find(each.session()).orElseThrow();
      Value now = books.with(session, of -> of.book.values().effective(control));
      if (isAllowed(session.id(), control, now)) {
        continue;
      }
      kept.add(each);
      ResolvedRule rule = books.with(session, of -> of.rules.rule(control));
      if (rule != null && isSetBack(rule)) {
        String name = session.id() + "/" + alert.seq();
        orders.later(
            session.id(),
            "back-" + UUID.nameUUIDFromBytes(name.getBytes(StandardCharsets.UTF_8)),
            alert.end(),
            OURS);
      }
    }
    return kept;
  }
}
