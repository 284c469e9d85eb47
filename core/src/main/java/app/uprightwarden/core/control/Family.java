package app.uprightwarden.core.control;

/** A group of controls that an administrator thinks of together. */
public enum Family {
  PASSCODE("passcode", "Passcode", "Pass"),
  WAITING_ROOM("waiting-room", "Waiting room", "Wait"),
  ENTRY("entry", "Entry", "Entry"),
  ROLES("roles", "Roles", "Roles"),
  SCREEN_SHARING("screen-sharing", "Screen sharing", "Share"),
  CHAT("chat", "Chat", "Chat"),
  SOUND_AND_PICTURE("sound-and-picture", "Sound and picture", "Sound"),
  RECORDING("recording", "Recording", "Rec"),
  FOLLOW_UP("follow-up", "Follow-up", "After");

  private final String id;
  private final String title;
  private final String shortTitle;

  Family(String id, String title, String shortTitle) {
    this.id = id;
    this.title = title;
    this.shortTitle = shortTitle;
  }

  /** As it is written in files and answers, stable for ever. */
  public String id() {
    return id;
  }

  /** What the family is called. */
  public String title() {
    return title;
  }

  /** At most five letters, for a column head. */
  public String shortTitle() {
    return shortTitle;
  }
}
