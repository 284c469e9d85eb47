package app.uprightwarden.core.people;

import org.jspecify.annotations.Nullable;

/**
 * Someone at the door.
 *
 * @param holdsPasscode whether they have the passcode, however they came by it
 * @param removed whether they have been removed from this session before
 * @param region ISO 3166 code of where they join from, null where unknown
 * @param listedPresenter whether they are on the meeting's list of presenters
 * @param contributor whether they were named to take part where the others only watch
 */
public record Joiner(
    Standing standing,
    Tie tie,
    Route route,
    boolean holdsPasscode,
    boolean removed,
    @Nullable String region,
    boolean listedPresenter,
    boolean contributor) {

  /** Somebody who was not named to take part. */
  public Joiner(
      Standing standing,
      Tie tie,
      Route route,
      boolean holdsPasscode,
      boolean removed,
      @Nullable String region,
      boolean listedPresenter) {
    this(standing, tie, route, holdsPasscode, removed, region, listedPresenter, false);
  }

  /**
   * As the door sees them: by phone nobody is recognised, so that the standing is unknown, there is
   * no tie and no place on a list.
   */
  public Joiner asSeen() {
    return route == Route.PHONE
        ? new Joiner(Standing.UNKNOWN, Tie.NONE, route, holdsPasscode, removed, region, false)
        : this;
  }
}
