package app.uprightwarden.core.audit;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.exposure.Matrix;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What a finding's words are made of. A stored finding keeps these and no words, and is worded when
 * it is read. Values are in their plain form (see {@link Control#plain}).
 *
 * @param control the control concerned, where one is
 * @param isFix whether the rule on it allows one value only
 * @param value as found; null where nothing was
 * @param allowed what may stand; null where that is no value
 * @param worst the worst hold that breaks a guarantee
 * @param defeatedBy the controls to blame for a control without effect
 * @param there what a conference service has to do with it
 */
public record FindingArguments(
    @Nullable Control control,
    boolean isFix,
    @Nullable Object value,
    @Nullable Object allowed,
    Matrix.@Nullable Cell worst,
    List<Control> defeatedBy,
    @Nullable There there) {

  /**
   * What a conference service has to do with a finding.
   *
   * @param service its name
   * @param by who changed something there, where that is known
   * @param at when, {@code 2027-01-04T09:12:00Z}, where that is known
   * @param why why it refused, or null
   */
  public record There(
      String service, @Nullable String by, @Nullable String at, @Nullable String why) {}
}
