package app.uprightwarden.core.door;

import java.util.Locale;
import java.util.Map;
import java.util.function.Function;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** Why a step of the door lets somebody pass or not: one sentence each. */
public enum DoorReason {
  LOCKED("The meeting is locked."),
  NOT_LOCKED("The meeting is not locked."),
  MAY_COME_BACK("Someone removed may come back."),
  NOT_REMOVED("They were not removed."),
  MAY_NOT_COME_BACK("Someone removed may not come back."),
  IN_TIME("They are not too late."),
  LOCKED_ITSELF("The meeting has locked itself after the start."),
  REGION_ALLOWED("Their region is allowed."),
  REGION_NOT_ALLOWED("Their region is not allowed."),
  ROUTE_OPEN("Their way of joining is open."),
  NO_PHONE("Nobody may join by phone."),
  ACCOUNT_ENOUGH("Their account, or none, is enough."),
  NOT_SIGNED_IN("They are not signed in as this meeting asks."),
  REGISTRATION_IN_ORDER("Registration does not stop them."),
  NOT_APPROVED("They were not approved beforehand."),
  HOLDS_PASSCODE("They hold the passcode."),
  NO_PASSCODE_ASKED("No passcode is asked."),
  LACKS_PASSCODE("They do not hold the passcode."),
  HOST_IN("A host is in."),
  BEFORE_ANY_HOST("They may be in before any host."),
  NO_HOST_YET("No host is in yet."),
  PAST_WAITING_ROOM("They walk past the waiting room."),
  NO_WAITING_ROOM("There is no waiting room."),
  WAITS("They wait until somebody lets them in.");

  private static final Map<String, DoorReason> BY_ID =
      Stream.of(values())
          .collect(Collectors.toUnmodifiableMap(DoorReason::id, Function.identity()));

  private final String words;

  DoorReason(String words) {
    this.words = words;
  }

  /** As it is stored, stable for ever: {@code not-locked}. */
  public String id() {
    return name().toLowerCase(Locale.ROOT).replace('_', '-');
  }

  /** One sentence, for people. */
  public String words() {
    return words;
  }

  /** The reason of an id, or null where there is none. */
  public static @Nullable DoorReason byId(String id) {
    return BY_ID.get(id);
  }
}
