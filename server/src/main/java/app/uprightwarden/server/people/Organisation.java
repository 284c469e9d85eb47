package app.uprightwarden.server.people;

import java.util.List;
import org.jspecify.annotations.Nullable;

/** The organisation as bundles write it, without its people. */
public record Organisation(
    String name,
    List<String> domains,
    List<Partner> partners,
    Plan plan,
    List<Unit> units,
    List<Kind> kinds,
    List<Gathering> spaces,
    List<Gathering> lists,
    List<Room> rooms) {

  public Organisation {
    rooms = List.copyOf(rooms);
  }

  /** An organisation whose signed-in people are partners. */
  public record Partner(String name, List<String> domains) {}

  /** What the organisation pays for. */
  public record Plan(int maxParticipants, int maxMinutes) {}

  public record Unit(String id, String name, @Nullable String parent) {}

  public record Kind(String id, String name, boolean confidential) {}

  /** A distribution list or a space, with the addresses it reaches. */
  public record Gathering(String id, String name, List<String> members) {}

  /** A room that meetings are held in; calendars invite it by its address. */
  public record Room(String id, String name, String email, int seats) {}

  public static final Organisation EMPTY =
      new Organisation(
          "New organisation",
          List.of(),
          List.of(),
          new Plan(100, 240),
          List.of(),
          List.of(),
          List.of(),
          List.of(),
          List.of());
}
