package app.uprightwarden.server.register;

import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.people.Directory;
import app.uprightwarden.core.people.Person;
import app.uprightwarden.server.people.OrganisationService;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.json.JsonMapper;

/**
 * The one picture of the judged register that lists are read from. A line is written with its
 * meeting, so that a list has just the meetings that there are; how it is judged follows from the
 * audit that is always current, in the transaction that keeps what was found.
 */
@Service
public class MeetingLines {
  private static final int AT_ONCE = 1000;

  private final MeetingLineRepository rows;
  private final OrganisationService organisation;
  private final JsonMapper json;

  MeetingLines(MeetingLineRepository rows, OrganisationService organisation, JsonMapper json) {
    this.rows = rows;
    this.organisation = organisation;
    this.json = json;
  }

  /**
   * How a meeting is judged.
   *
   * @param exposure in tenths, 0 to 1000
   * @param occurrences in the next 90 days, the first of them at {@code next}
   * @param open findings that no waiver covers, the worst of them 1 to 5, or 0 where there are none
   */
  public record Judged(
      String meeting,
      String host,
      @Nullable Instant next,
      int occurrences,
      int exposure,
      int open,
      int worst,
      int invited) {}

  /** How many findings of a meeting are open, and the worst of them. */
  public record Count(int open, int worst) {}

  /**
   * Writes the lines of meetings that are written.
   *
   * @param known those that were stored before
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public void put(Collection<Meeting> meetings, Collection<String> known, Instant at) {
    Map<String, MeetingLineEntity> there = byMeeting(known);
    List<MeetingLineEntity> fresh = new ArrayList<>();
    Directory directory = organisation.directory();
    for (Meeting meeting : meetings) {
      MeetingLineEntity line = there.get(meeting.id());
      if (line == null) {
        line = new MeetingLineEntity();
        line.meeting = meeting.id();
        fresh.add(line);
      }
      line.title = meeting.title();
      line.kind = meeting.kind();
      line.changedAt = at;
      setHost(line, meeting.host(), directory);
    }
    rows.insert(fresh);
    rows.update(List.copyOf(there.values()));
  }

  private static void setHost(MeetingLineEntity line, String host, Directory directory) {
    Person person = directory.find(host);
    line.host = host;
    line.hostName = person == null ? host : person.name();
    line.unit = person == null ? null : person.unit();
    line.searchText = SearchText.of(line.title, line.host, line.hostName);
  }

  private Map<String, MeetingLineEntity> byMeeting(Collection<String> meetings) {
    Map<String, MeetingLineEntity> found = new HashMap<>();
    if (!meetings.isEmpty()) {
      rows.among(meetings).forEach(line -> found.put(line.meeting, line));
    }
    return found;
  }

  @Transactional(propagation = Propagation.MANDATORY)
  public void touch(String meeting, Instant at) {
    rows.touch(meeting, at);
  }

  @Transactional(propagation = Propagation.MANDATORY)
  public void remove(Collection<String> meetings) {
    if (!meetings.isEmpty()) {
      rows.delete(meetings);
    }
  }

  /**
   * Notes how meetings are judged, a thousand at most; of one that is in the register no more
   * nothing is noted.
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public void judged(List<Judged> some) {
    Map<String, MeetingLineEntity> there = byMeeting(some.stream().map(Judged::meeting).toList());
    Directory directory = organisation.directory();
    List<MeetingLineEntity> changed = new ArrayList<>();
    for (Judged judged : some) {
      MeetingLineEntity line = there.get(judged.meeting());
      if (line != null && set(line, judged, directory)) {
        changed.add(line);
      }
    }
    if (!changed.isEmpty()) {
      rows.judged(json.writeValueAsString(changed.stream().map(JudgedLine::of).toList()));
    }
  }

  /** Whether anything is other than it was. */
  private static boolean set(MeetingLineEntity line, Judged judged, Directory directory) {
    String name = line.hostName;
    String unit = line.unit;
    String searchText = line.searchText;
    if (line.host.equals(judged.host())) { // the directory may have changed
      setHost(line, judged.host(), directory);
    }
    boolean isSame =
        name.equals(line.hostName)
            && Objects.equals(unit, line.unit)
            && Objects.equals(searchText, line.searchText)
            && Objects.equals(line.nextStart, judged.next())
            && Objects.equals(line.occurrences, judged.occurrences())
            && Objects.equals(line.exposure, judged.exposure())
            && line.findings == judged.open()
            && line.worst == judged.worst()
            && line.invited == judged.invited();
    line.nextStart = judged.next();
    line.occurrences = judged.occurrences();
    line.exposure = judged.exposure();
    line.findings = judged.open();
    line.worst = judged.worst();
    line.invited = judged.invited();
    return !isSame;
  }

  /** Counts in what was found in each of some meetings besides, a thousand at most. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void countIn(Collection<String> meetings, Count count) {
    if (count.open() > 0) {
      rows.countIn(meetings, count.open(), count.worst());
    }
  }

  /** Notes counts that changed after their meetings were judged. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void counted(Map<String, Count> counts) {
    List<String> all = List.copyOf(counts.keySet());
    for (int i = 0; i < all.size(); i += AT_ONCE) {
      // many have the same counts: those are written together
      Map<Count, List<String>> changed = new HashMap<>();
      for (MeetingLineEntity line : rows.among(all.subList(i, Math.min(i + AT_ONCE, all.size())))) {
        Count count = Objects.requireNonNull(counts.get(line.meeting));
        if (line.findings != count.open() || line.worst != count.worst()) {
          changed.computeIfAbsent(count, c -> new ArrayList<>()).add(line.meeting);
        }
      }
      changed.forEach((count, of) -> rows.count(of, count.open(), count.worst()));
    }
  }
}
