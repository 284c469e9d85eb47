package app.uprightwarden.server.services;

import app.uprightwarden.server.people.Organisation;
import app.uprightwarden.server.people.OrganisationService;
import app.uprightwarden.server.problem.Fault;
import app.uprightwarden.server.register.HeldReadings;
import app.uprightwarden.server.register.MeetingJsonParser;
import app.uprightwarden.server.register.RegisterService;
import app.uprightwarden.server.register.Scheduled;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.zip.CRC32;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;

/**
 * Meetings as a service tells of them, as the register knows meetings. What a service says of
 * kinds, spaces, lists and rooms that the organisation has not is left out; a meeting that cannot
 * be read at all is passed over, and the log says so.
 */
@Component
class ServiceReading {
  private static final Logger LOG = LoggerFactory.getLogger(ServiceReading.class);

  private final OrganisationService organisation;
  private final RegisterService register;
  private final HeldReadings held;

  ServiceReading(OrganisationService organisation, RegisterService register, HeldReadings held) {
    this.organisation = organisation;
    this.register = register;
    this.held = held;
  }

  List<HeldReadings.Told> read(ServiceLinks.Link link, List<ConferenceService.Told> some) {
    Organisation all = organisation.organisation();
    Map<String, String> known =
        held.known(link.id(), some.stream().map(ConferenceService.Told::id).toList());
    Set<String> taken =
        new HashSet<>(
            register.present(
                some.stream()
                    .map(ConferenceService.Told::id)
                    .filter(id -> !known.containsKey(id))
                    .toList()));
    List<HeldReadings.Told> told = new ArrayList<>();
    for (ConferenceService.Told each : some) {
      JsonNode meeting = each.meeting();
      Scheduled scheduled = null;
      if (meeting != null) {
        String id = known.get(each.id());
        scheduled = parse(meeting, id == null ? idFor(link, each.id(), taken) : id, all);
        if (scheduled == null) {
          LOG.warn("a meeting of {} cannot be read: {}", link.name(), each.id());
          continue;
        }
      }
      told.add(
          new HeldReadings.Told(
              each.id(),
              each.revision(),
              each.changedAt(),
              each.changedBy(),
              scheduled,
              link(each.link(), scheduled),
              each.dialIn()));
    }
    return told;
  }

  /** A link that holds the passcode is kept without it: passcodes are sealed here. */
  private static @Nullable String link(@Nullable String link, @Nullable Scheduled scheduled) {
    if (link == null || scheduled == null || scheduled.passcode() == null) {
      return link;
    }
    String passcode = scheduled.passcode();
    boolean holdsIt =
        link.contains(passcode)
            || link.contains(URLEncoder.encode(passcode, StandardCharsets.UTF_8));
    return holdsIt ? link.replaceFirst("[?#].*$", "") : link;
  }

  /** Its own id where nobody has it and it is one here; else one made of it. */
  private static String idFor(ServiceLinks.Link link, String there, Set<String> taken) {
    if (there.matches("[A-Za-z0-9][A-Za-z0-9._-]{0,63}") && !taken.contains(there)) {
      return there;
    }
    CRC32 sum = new CRC32();
    sum.update(there.getBytes(StandardCharsets.UTF_8));
    String readable = there.replaceAll("[^A-Za-z0-9._-]", "-");
    return "s"
        + link.id()
        + "-"
        + HexFormat.of().toHexDigits((int) sum.getValue())
        + "-"
        + (readable.length() > 40 ? readable.substring(0, 40) : readable);
  }

  private @Nullable Scheduled parse(JsonNode given, String id, Organisation all) {
    if (!(given instanceof ObjectNode from)) {
      return null;
    }
    ObjectNode meeting = from.deepCopy();
    meeting.put("id", id);
    MeetingJsonParser.Known known = MeetingJsonParser.Known.of(all);
    drop(meeting, "kind", known.kind().test(meeting.path("kind").stringValue("")));
    drop(meeting, "space", known.space().test(meeting.path("space").stringValue("")));
    drop(meeting, "room", known.room().test(meeting.path("room").stringValue("")));
    if (meeting.path("lists") instanceof ArrayNode lists) {
      ArrayNode kept = meeting.putArray("lists");
      lists.forEach(
          list -> {
            if (known.list().test(list.stringValue(""))) {
              kept.add(list);
            }
          });
    }
    List<Fault> faults = new ArrayList<>();
    Scheduled scheduled =
        new MeetingJsonParser(faults, known, (p, t, d, h) -> register.judge(p, t, d, h))
            .read(meeting, "");
    if (scheduled == null || scheduled.meeting().minutes() < 1) {
      LOG.debug("unreadable: {}", faults);
      return null;
    }
    return scheduled;
  }

  private static void drop(ObjectNode meeting, String part, boolean isKnown) {
    if (!isKnown) {
      meeting.remove(part);
    }
  }
}
