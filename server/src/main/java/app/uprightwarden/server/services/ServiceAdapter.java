package app.uprightwarden.server.services;

import java.net.URI;

/** Speaks with one make of conference service. */
public interface ServiceAdapter {
  /**
   * The service at an address.
   *
   * @param key what we prove ourselves by
   */
  ConferenceService at(URI address, String key);
}
