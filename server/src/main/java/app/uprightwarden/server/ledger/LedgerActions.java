package app.uprightwarden.server.ledger;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * What the calls that change something are called in the ledger. Every call that is no mere
 * question is here, or among those that store nothing; a test holds this to what the server offers.
 */
final class LedgerActions {
  private LedgerActions() {}

  /**
   * An act.
   *
   * @param id as it is written, such as {@code meeting.changed}
   * @param object what sort of thing it concerns
   * @param key which of the address's variables names that thing, or nothing
   */
  record Act(String id, String object, String key) {}

  private static final Map<String, Act> BY_CALL = new LinkedHashMap<>();

  /** Questions that are too long for an address; they store nothing that outlives them. */
  static final List<String> QUESTIONS =
      List.of(
          "POST /api/assess",
          "POST /api/rehearse",
          "POST /api/door/rehearsal",
          "POST /api/door/admission",
          "POST /api/rulebook/impact",
          "POST /api/rulebook/appraisal",
          "POST /api/rulebook/guarantee-study",
          "POST /api/scheduling/foretaste",
          "POST /api/scheduling/availability",
          "POST /api/scheduling/letter",
          "POST /api/remedies/sketch",
          "POST /api/remedies/preview",
          "PUT /api/rulebook/drafts/{id}/presence",
          "POST /api/ledger/verification",
          "POST /api/services/attempt",
          "POST /api/calendars/attempt",
          "POST /api/floor/in-session",
          "POST /api/welcome/look",
          "POST /scim/v2/{type:Users|Groups}/.search",
          // what the conference service tells of is kept with its session, in its own order
          "POST /api/bridge/events",
          "POST /api/services/{id}/told");

  private static void act(String call, String id, String object, String key) {
    BY_CALL.put(call, new Act(id, object, key));
  }

  static {
    // reading what is secret, and taking much away, is an act too
    act("GET /api/meetings/{id}/passcode", "passcode.read", "meeting", "id");
    act("GET /api/outbox", "messages.read", "outbox", "");
    act("GET /api/outbox/{id}/mail", "message.read", "outbox", "id");
    act("GET /api/exchange/bundle", "bundle.taken-out", "register", "");
    act("GET /api/exchange/calendar", "calendar.taken-out", "register", "");
    act("GET /api/exchange/table", "table.taken-out", "register", "");
    act("GET /api/ledger/file", "ledger.taken-out", "ledger", "");
    act("GET /api/audits/{id}/report", "report.taken-out", "audit", "id");
    act("GET /api/floor/sessions/{id}/attendance", "attendance.taken-out", "session", "id");
    act("POST /api/session", "session.opened", "account", "");
    act("DELETE /api/session", "session.closed", "account", "");
    act("POST /api/tokens", "token.issued", "token", "");
    act("DELETE /api/tokens/{id}", "token.ended", "token", "id");
    act("POST /api/accounts", "account.invited", "account", "");
    act("PUT /api/accounts/{email}", "account.changed", "account", "email");
    act("POST /api/accounts/{email}/link", "account.link-made", "account", "email");
    act("DELETE /api/accounts/{email}/second-factor", "account.factor-taken", "account", "email");
    act("DELETE /api/accounts/{email}/sessions", "account.sessions-ended", "account", "email");
    act("PUT /api/alerting", "alerting.set", "house", "");
    act("POST /api/alerting/test", "alerting.tested", "house", "");
    act("POST /api/services", "service.linked", "house", "");
    act("POST /api/services/proposals", "service.proposed", "house", "");
    act("POST /api/services/proposals/{id}", "service.consented", "house", "id");
    act("DELETE /api/services/proposals/{id}", "service.proposal-dropped", "house", "id");
    act("PUT /api/services/{id}", "service.set", "house", "id");
    act("PUT /api/services/{id}/key", "service.key-given", "house", "id");
    act("POST /api/services/{id}/defaults", "service.defaults-set-back", "house", "id");
    act("DELETE /api/services/{id}", "service.unlinked", "house", "id");
    act("PUT /api/deputies/{email}", "deputy.named", "account", "email");
    act("DELETE /api/deputies/{email}", "deputy.ended", "account", "email");
    act("POST /api/calendars", "calendar.added", "house", "");
    act("PUT /api/calendars/{id}", "calendar.set", "house", "id");
    act("POST /api/calendars/{id}/reading", "calendar.read-now", "house", "id");
    act("POST /api/calendars/{id}/gone", "calendar.gone-agreed", "house", "id");
    act("DELETE /api/calendars/{id}", "calendar.removed", "house", "id");
    act("PUT /api/meetings/{id}/service", "meeting.made-in-service", "meeting", "id");
    act("POST /api/meetings/{id}/service/decided", "meeting.set-back", "meeting", "id");
    act("POST /api/meetings/{id}/service/held", "meeting.accepted", "meeting", "id");
    act("PUT /api/keeping/{what}", "keeping.set", "house", "what");
    act("POST /api/service/keys", "keys.rotated", "house", "");
    act("DELETE /api/service/keys/old", "keys.dropped", "house", "");
    act("POST /api/service/work/{kind}/{item}/again", "work.tried-again", "work", "item");
    act("DELETE /api/service/work/{kind}/{item}", "work.given-up", "work", "item");
    act("PUT /api/accounts/settings", "access.set", "house", "");
    act("PUT /api/account/password", "password.changed", "account", "");
    act("PUT /api/account/language", "language.chosen", "account", "");
    act("POST /api/account/second-factor", "factor.begun", "account", "");
    act("PUT /api/account/second-factor", "factor.set", "account", "");
    act("POST /api/account/second-factor/end", "factor.ended", "account", "");
    act("POST /api/account/recovery-codes", "recovery-codes.made", "account", "");
    act("DELETE /api/account/sessions/{id}", "session.ended", "account", "");
    act("POST /api/welcome", "password.set-by-link", "account", "");
    act("POST /api/meetings", "meeting.scheduled", "meeting", "");
    act("PUT /api/meetings/{id}", "meeting.changed", "meeting", "id");
    act("PATCH /api/meetings/{id}/controls", "meeting.controls-changed", "meeting", "id");
    act("DELETE /api/meetings/{id}", "meeting.cancelled", "meeting", "id");
    act("POST /api/meetings/{id}/restore", "meeting.restored", "meeting", "id");
    act("POST /api/meetings/{id}/waiver-requests", "waiver.asked-for", "meeting", "id");
    act("POST /api/meetings/many", "meetings.changed", "register", "");
    act("POST /api/scheduling/answers", "answer.taken", "meeting", "");
    act("POST /api/feeds", "feed.made", "feed", "");
    act("DELETE /api/feeds/{id}", "feed.ended", "feed", "id");
    act("POST /api/people/{email}/hand-over", "meetings.handed-over", "person", "email");
    act("PUT /api/people/{email}", "person.changed", "person", "email");
    act("PUT /api/people/groups/{sort}/{id}", "group.changed", "group", "id");
    act("PATCH /api/people/groups/{sort}/{id}", "group.changed", "group", "id");
    act("PUT /api/people/groups/rooms/{id}", "room.changed", "room", "id");
    act("DELETE /api/people/groups/{sort}/{id}", "group.removed", "group", "id");
    act("PUT /api/people/house", "house.changed", "house", "");
    act("POST /api/exchange/files", "file.taken-in", "register", "");
    act("POST /api/exchange/bundle", "bundle.taken-in", "register", "");
    act("POST /api/exchange/imports/{id}/take-back", "import.taken-back", "import", "id");
    act("POST /api/rulebook/drafts", "draft.begun", "draft", "");
    act("PATCH /api/rulebook/drafts/{id}", "draft.renamed", "draft", "id");
    act("DELETE /api/rulebook/drafts/{id}", "draft.discarded", "draft", "id");
    act("POST /api/rulebook/drafts/{id}/edits", "draft.changed", "draft", "id");
    act("POST /api/rulebook/drafts/{id}/bring-up", "draft.brought-up", "draft", "id");
    act("POST /api/rulebook/drafts/{id}/publish", "edition.published", "draft", "id");
    act("POST /api/rulebook/drafts/{id}/consent", "edition.consented-to", "draft", "id");
    act("POST /api/rulebook/drafts/{id}/decline", "edition.declined", "draft", "id");
    act("POST /api/rulebook/drafts/{id}/withdraw", "proposal.withdrawn", "draft", "id");
    act("PUT /api/rulebook/drafts/consent", "consent.set", "house", "");
    act("POST /api/rulebook/file", "draft.taken-in", "draft", "");
    act("POST /api/rulebook/editions/{number}/withdraw", "edition.withdrawn", "edition", "number");
    act("POST /api/audits", "audit.begun", "audit", "");
    act("POST /api/audits/{id}/cancel", "audit.stopped", "audit", "id");
    act("POST /api/audits/{id}/resume", "audit.resumed", "audit", "id");
    act("PUT /api/audits/{id}/baseline", "baseline.set", "audit", "id");
    act("DELETE /api/audits/{id}/baseline", "baseline.dropped", "audit", "id");
    act("POST /api/audit-history/schedules", "audit.scheduled", "schedule", "");
    act("PUT /api/audit-history/schedules/{id}", "schedule.changed", "schedule", "id");
    act("DELETE /api/audit-history/schedules/{id}", "schedule.removed", "schedule", "id");
    act("POST /api/waivers", "waiver.granted", "waiver", "");
    act("POST /api/waivers/{id}/second", "waiver.seconded", "waiver", "id");
    act("POST /api/waivers/{id}/end", "waiver.ended", "waiver", "id");
    act("PUT /api/waivers/settings", "waivers.set", "house", "");
    act("POST /api/remedies", "remedy.ordered", "remedy", "");
    act("POST /api/remedies/{id}/undo", "remedy.undo-ordered", "remedy", "id");
    act("POST /api/remedies/{id}/retry", "remedy.retried", "remedy", "id");
    act("PUT /api/bridge", "bridge.set", "bridge", "");
    act("POST /api/floor/sessions", "floor.session-practised", "session", "");
    act("POST /api/floor/sessions/{id}/orders", "floor.ordered", "session", "id");
    act("POST /api/floor/sessions/{id}/incidents", "incident.written", "session", "id");
    act("PUT /api/log-collector", "collector.set", "alerting", "");
    act("POST /scim/v2/{type:Users|Groups}", "directory.made", "directory", "type");
    act("PUT /scim/v2/{type:Users|Groups}/{id}", "directory.replaced", "directory", "id");
    act("PATCH /scim/v2/{type:Users|Groups}/{id}", "directory.changed", "directory", "id");
    act("DELETE /scim/v2/{type:Users|Groups}/{id}", "directory.deleted", "directory", "id");
    act("POST /scim/v2/Bulk", "directory.changed-many", "directory", "");
    act("POST /api/meetings/{id}/registrations", "registrations.decided", "meeting", "id");
    act("POST /api/floor/sessions/{id}/hold", "session.held", "session", "id");
    act("DELETE /api/floor/sessions/{id}/hold", "session.released", "session", "id");
    act("POST /api/floor/sessions/{id}/draft", "draft.begun-from-session", "session", "id");
    act("POST /api/floor/meetings/{id}/start", "floor.started", "meeting", "id");
    act("PUT /api/waivers/settings/units", "waivers.units-set", "house", "");
    act("PUT /api/scheduling/announcing", "scheduling.announcing-set", "house", "");
    act("PUT /api/floor/set-back", "floor.set-back", "house", "");
    act("POST /api/floor/lockdowns", "floor.locked-down", "floor", "");
    act("DELETE /api/floor/lockdowns/{id}", "floor.lockdown-undone", "floor", "id");
    act("POST /api/floor/alerts/{id}", "alert.handled", "alert", "id");
    act("POST /api/floor/sessions/{id}/alerts", "alerts.handled", "session", "id");
    act("POST /api/host-requests", "hosts.asked", "request", "");
    act("POST /api/host-requests/items/{id}/answer", "request.answered", "request", "id");
    act("POST /api/host-requests/items/{id}/accept", "request.accepted", "request", "id");
    act("POST /api/host-requests/items/{id}/close", "request.closed", "request", "id");
    act("POST /api/host-requests/waivers/{id}/answer", "waiver.answered", "request", "id");
    act("PUT /api/host-requests/settings", "asking.set", "house", "");
  }

  static Optional<Act> of(String call) {
    return Optional.ofNullable(BY_CALL.get(call));
  }

  static Map<String, Act> byCall() {
    return Map.copyOf(BY_CALL);
  }
}
