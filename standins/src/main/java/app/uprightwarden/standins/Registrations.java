package app.uprightwarden.standins;

import java.time.Instant;
import java.util.Locale;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;

/** The form by which people ask to take part. Kept with the meeting, and told beside it. */
final class Registrations {
  static final String FIELD = "registrations";

  private static final int MAX = 5_000;

  private Registrations() {}

  /** A meeting as it is told: without who asked. */
  static ObjectNode without(ObjectNode meeting) {
    if (!meeting.has(FIELD)) {
      return meeting;
    }
    ObjectNode copy = meeting.deepCopy();
    copy.remove(FIELD);
    return copy;
  }

  private static @Nullable ObjectNode of(JsonNode meeting, String address) {
    for (JsonNode each : meeting.path(FIELD)) {
      if (each.path("address").stringValue("").equalsIgnoreCase(address)) {
        return (ObjectNode) each;
      }
    }
    return null;
  }

  /** Somebody asks; twice is once. With {@code registration} at {@code open} they are let in. */
  static void ask(
      Make make, Store store, Store.Entry entry, String address, String name, Instant at) {
    String how = entry.meeting().path("controls").path("registration").stringValue("none");
    if (make != Make.REDSHANK || how.equals("none")) {
      throw new IllegalArgumentException("nobody registers for this meeting");
    }
    if (!address.contains("@") || address.length() > 254 || name.isBlank()) {
      throw new IllegalArgumentException("a name and an address are wanted");
    }
    ObjectNode meeting = entry.meeting().deepCopy();
    ArrayNode all = meeting.withArray("/" + FIELD);
    if (of(meeting, address) != null || all.size() >= MAX) {
      return;
    }
    ObjectNode one = all.addObject();
    one.put("address", address.strip().toLowerCase(Locale.ROOT));
    one.put("name", name.strip());
    one.put("askedAt", at.toString());
    one.put("state", how.equals("open") ? "approved" : "asked");
    // who asks changes nothing about the meeting: whoever did that last stays so
    store.put(entry.id(), meeting, entry.changedBy(), entry.changedAt());
  }

  /** Approves or declines somebody; who is approved is invited. */
  static Store.Entry decide(Make make, Store store, Store.Entry entry, JsonNode body, String by)
      throws Problem {
    String state = body.path("state").stringValue("");
    String address = body.path("address").stringValue("");
    ObjectNode meeting = entry.meeting().deepCopy();
    ObjectNode one = of(meeting, address);
    if (make != Make.REDSHANK || one == null) {
      throw new Problem(422, make.title() + " knows nobody who asked by that address");
    }
    if (!state.equals("approved") && !state.equals("declined")) {
      throw new Problem(400, "state is approved or declined.");
    }
    one.put("state", state);
    ArrayNode invitees = meeting.withArray("/invitees");
    boolean isInvited =
        invitees
            .valueStream()
            .anyMatch(i -> i.path("email").stringValue("").equalsIgnoreCase(address));
    if (state.equals("approved") && !isInvited) {
      invitees
          .addObject()
          .put("email", one.path("address").stringValue(""))
          .put("need", "optional");
    }
    return store.put(entry.id(), meeting, by, false);
  }
}
