package app.uprightwarden.server.register;

import app.uprightwarden.core.service.Held;
import app.uprightwarden.server.problem.Worded;
import app.uprightwarden.server.schema.Plain;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * That a conference service holds a meeting, as it is told.
 *
 * @param level {@code read}, {@code suggest} or {@code write}
 * @param readAt up to when what is held is known
 * @param writing how far what was decided has come: {@code none}, {@code waiting}, {@code sent},
 *     {@code confirmed}, {@code refused}, {@code other} for holds something else, {@code kept} for
 *     not sent
 * @param why why it was not taken
 * @param late it has not been confirmed for longer than is allowed
 * @param link the address to join by; not for auditors
 * @param toWrite what else than controls is still to be written, as the meeting's fields are called
 * @param differences where what is held is not what was decided
 */
public record HeldView(
    long service,
    String name,
    String level,
    Instant readAt,
    String writing,
    @Worded @Nullable String why,
    boolean late,
    @Nullable String decidedBy,
    @Nullable Instant decidedAt,
    @Nullable Instant confirmedAt,
    @Nullable String link,
    List<String> dialIn,
    List<String> toWrite,
    List<HeldDifference> differences) {

  /**
   * A control that is held otherwise than was decided.
   *
   * @param occurrence the date concerned; null for the series
   * @param held null where it holds nothing
   * @param cause {@code under-way}, {@code changed-there}, {@code refused} or {@code late}
   * @param by who changed it there, where that is known
   */
  public record HeldDifference(
      @Nullable String occurrence,
      String control,
      @Plain Object decided,
      @Plain @Nullable Object held,
      String cause,
      @Nullable String by,
      @Nullable Instant at,
      @Worded String why,
      boolean looser) {}

  static @Nullable HeldView of(StoredMeeting stored, boolean seesLink) {
    HeldMeeting of = stored.service();
    if (of == null) {
      return null;
    }
    Instant contact = of.service().contactAt();
    return new HeldView(
        of.service().id(),
        of.service().name(),
        of.service().level(),
        contact != null && contact.isAfter(of.readAt()) ? contact : of.readAt(),
        of.writing().id(),
        of.why(),
        of.late(),
        of.decidedBy(),
        of.decidedAt(),
        of.confirmedAt(),
        seesLink ? of.link() : null,
        of.dialIn(),
        of.fields(),
        of.held(stored.meeting()).differences().stream().map(HeldView::difference).toList());
  }

  private static HeldDifference difference(Held.Difference of) {
    return new HeldDifference(
        of.occurrence() == null ? null : of.occurrence().toString(),
        of.control().id(),
        of.control().plain(of.decided()),
        of.held() == null ? null : of.control().plain(of.held()),
        of.cause().id(),
        of.by(),
        of.at(),
        of.why(),
        of.isLooser());
  }
}
