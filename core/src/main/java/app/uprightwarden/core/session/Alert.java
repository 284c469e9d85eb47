package app.uprightwarden.core.session;

import java.util.Locale;
import org.jspecify.annotations.Nullable;

/**
 * Something that should not be, and the act that ends it.
 *
 * @param key tells it from every other alert of its session
 * @param seq the event it came with
 * @param who whom it is about, or null
 * @param guarantee id of the guarantee broken, or null
 * @param severity 1 to 5, as for findings
 * @param words what happened, in one sentence
 * @param cause what brought it about, as far as one act can end it: alerts of one cause belong
 *     together, and end with it
 */
public record Alert(
    Kind kind,
    String key,
    long seq,
    @Nullable String who,
    @Nullable String guarantee,
    int severity,
    String words,
    Order end,
    String cause) {

  /** What can be wrong. */
  public enum Kind {
    STRANGER_BEFORE_HOST("A stranger is in before the host"),
    GUARANTEE_BROKEN("A guarantee is broken"),
    SHARE_NOT_ALLOWED("Somebody shares who should not"),
    RECORDING_NOT_ALLOWED("Somebody records who should not"),
    RECORDING_ENDED("A second recording ended the first"),
    REMOVED_BACK("Somebody removed is back"),
    SETTING_BEYOND_RULE("A setting was loosened beyond the rule"),
    OPEN_PAST_END("Past its time, and the door is open");

    private final String title;

    Kind(String title) {
      this.title = title;
    }

    /** As it is written in files and answers, stable for ever. */
    public String id() {
      return name().toLowerCase(Locale.ROOT).replace('_', '-');
    }

    /** What happened, in a few words. */
    public String title() {
      return title;
    }
  }
}
