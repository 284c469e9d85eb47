package app.uprightwarden.standins.sessions;

import java.time.Instant;

/**
 * Something that somebody in a script does.
 *
 * @param at by the session's clock
 * @param detail what a control is set to, or a new name
 */
record Step(Instant at, Deed deed, String who, String detail) {
  enum Deed {
    ARRIVE,
    LEAVE,
    SHARE,
    STOP_SHARE,
    RECORD,
    SPEAK,
    CHAT,
    RENAME,
    /** A host lets in those who are expected. */
    LET_IN_EXPECTED,
    /** A host changes a setting behind our back: {@code control=value}. */
    SET,
    END
  }
}
