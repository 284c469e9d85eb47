package app.uprightwarden.server.scheduling;

import java.util.List;
import org.jspecify.annotations.Nullable;

/** Where one joins a meeting; a conference service knows. */
interface ConferenceAddresses {
  /**
   * The address to join by.
   *
   * @param number the meeting's number
   * @param passcode put into the link, or null where it is kept apart
   */
  String link(String number, @Nullable String passcode);

  /**
   * Numbers to dial in by.
   *
   * @param countries ISO 3166 codes; empty for all
   */
  List<String> dialIn(List<String> countries);
}
