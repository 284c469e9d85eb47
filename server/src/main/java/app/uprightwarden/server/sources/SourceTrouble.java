package app.uprightwarden.server.sources;

/** A calendar could not be read. The message goes on from its name: "does not answer". */
final class SourceTrouble extends Exception {
  private static final long serialVersionUID = 1;

  /** What went wrong. */
  enum Kind {
    /** It does not answer, or answers what cannot be read. */
    AWAY,
    /** It does not know the account or its password. */
    REFUSED,
    /** It does not know up to where it was read: everything is to be read again. */
    MARKER_GONE,
    /** It does not do what was asked; there may be another way. */
    UNABLE
  }

  private final Kind kind;

  SourceTrouble(Kind kind, String message) {
    super(message);
    this.kind = kind;
  }

  Kind kind() {
    return kind;
  }

  String words() {
    return String.valueOf(getMessage());
  }
}
