package app.uprightwarden.server.register;

import app.uprightwarden.core.audit.Auditor;
import app.uprightwarden.core.audit.FactsBuilder;
import app.uprightwarden.core.audit.MeetingFacts;
import app.uprightwarden.core.calendar.Occurrences;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.meeting.Occurrence;
import app.uprightwarden.server.judging.Judging;
import app.uprightwarden.server.people.OrganisationService;
import app.uprightwarden.server.rulebook.RulebookService;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import org.springframework.stereotype.Component;

/** Judges a few meetings for a list whose lines the audit has not come to yet. */
@Component
class JudgedMeetings {
  private final MeetingQueries reader;
  private final RulebookService rulebook;
  private final OrganisationService organisation;
  private final Clock clock;

  JudgedMeetings(
      MeetingQueries reader,
      RulebookService rulebook,
      OrganisationService organisation,
      Clock clock) {
    this.reader = reader;
    this.rulebook = rulebook;
    this.organisation = organisation;
    this.clock = clock;
  }

  /** What some meetings are judged by themselves, by the edition in force; 1000 at most. */
  List<MeetingLines.Judged> of(List<String> meetings) {
    if (meetings.isEmpty()) {
      return List.of();
    }
    FactsBuilder builder =
        Judging.builder(
            organisation.organisation(),
            organisation.directory(),
            rulebook.rulebook(rulebook.inForce()));
    Auditor auditor = new Auditor();
    Instant now = clock.instant();
    List<MeetingLines.Judged> judged = new ArrayList<>();
    for (StoredMeeting stored : reader.among(meetings)) {
      judged.add(judged(stored, builder, auditor, now));
    }
    return judged;
  }

  private static MeetingLines.Judged judged(
      StoredMeeting stored, FactsBuilder builder, Auditor auditor, Instant now) {
    Meeting meeting = stored.meeting();
    MeetingFacts facts = builder.build(meeting, stored.held());
    int[] found = new int[2];
    auditor.audit(
        facts,
        (of, occurrence, detail) -> {
          found[0]++;
          found[1] = Math.max(found[1], detail.severity());
        });
    List<Occurrence> coming = coming(meeting, now);
    return new MeetingLines.Judged(
        meeting.id(),
        meeting.host(),
        coming.isEmpty() ? null : coming.get(0).start(),
        coming.size(),
        auditor.judge(facts).basis().exposure().scoreTenths(),
        found[0],
        found[1],
        facts.invited());
  }

  /** One rule that cannot be expanded must not take the whole page away. */
  private static List<Occurrence> coming(Meeting meeting, Instant now) {
    try {
      return Occurrences.between(meeting, now, now.plus(MeetingList.WINDOW));
    } catch (IllegalArgumentException e) {
      return List.of();
    }
  }
}
