package app.uprightwarden.core.meeting;

/** Someone invited by their own address. */
public record Invitee(String email, Need need) {
  /** How much they are needed. */
  public enum Need {
    REQUIRED,
    OPTIONAL
  }
}
