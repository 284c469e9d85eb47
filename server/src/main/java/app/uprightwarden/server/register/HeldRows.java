package app.uprightwarden.server.register;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.control.Value;
import java.util.Arrays;
import java.util.Collection;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.stereotype.Component;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.json.JsonMapper;

/** Rows of held meetings as records, and back. */
@Component
class HeldRows {
  private static final TypeReference<List<String>> STRINGS = new TypeReference<>() {};
  private static final TypeReference<TreeMap<String, Map<String, Object>>> DECIDED =
      new TypeReference<>() {};
  private static final TypeReference<TreeMap<String, HeldMeeting.Note>> NOTES =
      new TypeReference<>() {};

  private final HeldMeetingRepository rows;
  private final ObjectProvider<ServiceMeans> services;
  private final JsonMapper json;

  HeldRows(HeldMeetingRepository rows, ObjectProvider<ServiceMeans> services, JsonMapper json) {
    this.rows = rows;
    this.services = services;
    this.json = json;
  }

  /** Those of some meetings that services hold, by meeting. */
  Map<String, HeldMeeting> of(Collection<String> meetings) {
    Map<String, HeldMeeting> held = new HashMap<>();
    if (!meetings.isEmpty()) {
      for (MeetingHeldEntity row : rows.among(meetings)) {
        HeldMeeting one = read(row);
        if (one != null) {
          held.put(row.meeting, one);
        }
      }
    }
    return held;
  }

  /** That a service holds a meeting, as lists show it. */
  record InService(String name, String writing) {}

  /** The same of meetings on a list, by meeting. */
  Map<String, InService> inService(Collection<String> meetings) {
    Map<String, InService> in = new HashMap<>();
    if (!meetings.isEmpty()) {
      for (HeldMeetingRepository.Writing row : rows.writing(meetings)) {
        ServiceMeans.Named service = services.getObject().service(row.service());
        if (service != null && !service.unlinked()) {
          in.put(row.meeting(), new InService(service.name(), row.writing()));
        }
      }
    }
    return in;
  }

  /** The services that are linked, for a condition: never empty. */
  Collection<Long> linked() {
    List<Long> ids =
        services.getObject().choices(null).linked().stream().map(ServiceMeans.Named::id).toList();
    return ids.isEmpty() ? List.of(-1L) : ids;
  }

  /** The same of one; nothing where it is not linked. */
  Collection<Long> linkedAmong(long service) {
    return linked().contains(service) ? List.of(service) : List.of(-1L);
  }

  /** The service that held a meeting until it was unlinked; null where none did. */
  @org.jspecify.annotations.Nullable
  String formerly(String meeting) {
    return rows.find(meeting)
        .map(row -> services.getObject().service(row.service))
        .filter(ServiceMeans.Named::unlinked)
        .map(ServiceMeans.Named::name)
        .orElse(null);
  }

  /** A row as a record; null where its service is gone or was unlinked. */
  @org.jspecify.annotations.Nullable
  HeldMeeting read(MeetingHeldEntity row) {
    ServiceMeans.Named service = services.getObject().service(row.service);
    if (service == null || service.unlinked()) {
      return null;
    }
    return new HeldMeeting(
        service,
        row.there,
        row.revision,
        row.readAt,
        row.link,
        json.readValue(row.dialIn, STRINGS),
        decided(row),
        notes(row),
        fields(row),
        HeldMeeting.Writing.byId(row.writing),
        row.command,
        row.why,
        row.late,
        row.decidedBy,
        row.decidedAt,
        row.confirmedAt);
  }

  Map<String, ControlValues> decided(MeetingHeldEntity row) {
    Map<String, ControlValues> decided = new LinkedHashMap<>();
    json.readValue(row.decided, DECIDED).forEach((date, plain) -> decided.put(date, values(plain)));
    return decided;
  }

  private static ControlValues values(Map<String, Object> plain) {
    Map<Control, Value> values = new EnumMap<>(Control.class);
    plain.forEach(
        (id, value) -> {
          Control control = Control.byId(id);
          if (control != null) {
            values.put(control, control.parse(value));
          }
        });
    return ControlValues.of(values);
  }

  Map<String, HeldMeeting.Note> notes(MeetingHeldEntity row) {
    return json.readValue(row.notes, NOTES);
  }

  static List<String> fields(MeetingHeldEntity row) {
    return row.fields.isEmpty() ? List.of() : Arrays.asList(row.fields.split(","));
  }

  void set(
      MeetingHeldEntity row,
      Map<String, ControlValues> decided,
      Map<String, HeldMeeting.Note> notes) {
    Map<String, Map<String, Object>> plain = new TreeMap<>();
    decided.forEach(
        (date, values) -> {
          if (!values.asMap().isEmpty()) {
            plain.put(date, ControlsJson.plain(values));
          }
        });
    row.decided = json.writeValueAsString(plain);
    row.notes = json.writeValueAsString(notes);
  }

  String write(List<String> list) {
    return json.writeValueAsString(list);
  }
}
