package app.uprightwarden.server.alerting;

import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.Map;

/**
 * An event in the JSON format of CloudEvents 1.0: required are {@code id}, {@code source}, {@code
 * specversion} and {@code type}; source and id together are one event (section 3.1 of the core
 * specification).
 */
final class CloudEvent {
  /** The media type of one event in structured mode (HTTP protocol binding, section 3.2). */
  static final String MEDIA_TYPE = "application/cloudevents+json; charset=UTF-8";

  private static final String SESSIONS = "/upright-warden/sessions";

  static final String ALERT = "app.uprightwarden.session.alert";
  static final String TEST = "app.uprightwarden.test";

  private CloudEvent() {}

  /**
   * @param subject what in the source it is about
   */
  static Map<String, Object> of(
      String id, String type, String subject, Instant time, Map<String, Object> data) {
    return of(SESSIONS, id, type, subject, time, data);
  }

  static Map<String, Object> of(
      String source, String id, String type, String subject, Instant time, Object data) {
    Map<String, Object> event = new LinkedHashMap<>();
    event.put("specversion", "1.0");
    event.put("id", id);
    event.put("source", source);
    event.put("type", type);
    event.put("subject", subject);
    event.put("time", time.toString());
    event.put("datacontenttype", "application/json");
    event.put("data", data);
    return event;
  }
}
