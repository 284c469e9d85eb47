package app.uprightwarden.server.register;

import app.uprightwarden.core.calendar.Occurrences;
import app.uprightwarden.core.drafting.Cohort;
import app.uprightwarden.core.drafting.RegisterIndex;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.meeting.Occurrence;
import app.uprightwarden.core.meeting.Reach;
import app.uprightwarden.core.people.Directory;
import app.uprightwarden.server.people.OrganisationService;
import app.uprightwarden.server.people.SettingsService;
import app.uprightwarden.server.vault.VaultRevision;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.Iterator;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;

/**
 * The register in memory, in short, for questions about all of it at once. What has changed in the
 * database, by whomever, is noticed by a sum over rows and versions, and only that is read again.
 */
@Component
public class RegisterSnapshot {
  private static final Logger LOG = LoggerFactory.getLogger(RegisterSnapshot.class);
  private static final Duration STALE = Duration.ofHours(1);
  private static final int PAGE = 1000;

  private final MeetingQueries reader;
  private final OrganisationService organisation;
  private final SettingsService settings;
  private final MeetingRepository meetings;
  private final VaultRevision fingerprints;
  private final Clock clock;
  private volatile @Nullable State state;

  RegisterSnapshot(
      MeetingQueries reader,
      OrganisationService organisation,
      SettingsService settings,
      MeetingRepository meetings,
      VaultRevision fingerprints,
      Clock clock) {
    this.reader = reader;
    this.organisation = organisation;
    this.settings = settings;
    this.meetings = meetings;
    this.fingerprints = fingerprints;
    this.clock = clock;
  }

  /** Tells whether two states of the register are the same. */
  private record Sum(MeetingRepository.Sum rows, long fingerprints) {}

  private record State(
      RegisterIndex index, Sum sum, long directoryRevision, Directory directory, Instant from) {}

  /**
   * The register and the directory it was read with.
   *
   * @param directoryRevision equal numbers mean equal directories
   */
  public record View(RegisterIndex index, Directory directory, long directoryRevision) {}

  /** Reads the register in the background, so that the first question need not wait for it. */
  @EventListener(ApplicationReadyEvent.class)
  void warmUp() {
    Thread thread =
        new Thread(
            () -> {
              try {
                current();
              } catch (RuntimeException e) {
                LOG.info("the register could not be read ahead: {}", e.getMessage());
              }
            },
            "register-snapshot");
    thread.setDaemon(true);
    thread.start();
  }

  /** The register as it is in the database now. */
  public View current() {
    State now = refreshed();
    return new View(now.index(), now.directory(), now.directoryRevision());
  }

  private State refreshed() {
    State known = state;
    Sum sum = sum();
    long revision = settings.directoryRevision();
    if (known != null && isCurrent(known, sum, revision)) {
      return known;
    }
    synchronized (this) {
      known = state;
      if (known == null || !isCurrent(known, sum, revision)) {
        boolean whole =
            known == null
                || known.directoryRevision() != revision
                || known.sum().fingerprints() != sum.fingerprints()
                || known.from().isBefore(clock.instant().minus(STALE));
        known = whole || known == null ? readAll(sum, revision) : readChanged(known, sum);
        state = known;
      }
      return known;
    }
  }

  private boolean isCurrent(State known, Sum sum, long revision) {
    return known.sum().equals(sum)
        && known.directoryRevision() == revision
        && !known.from().isBefore(clock.instant().minus(STALE));
  }

  private Sum sum() {
    return new Sum(meetings.sum(), fingerprints.now());
  }

  private State readAll(Sum sum, long revision) {
    Directory directory = organisation.directory();
    Instant from = clock.instant();
    RegisterIndex.Builder index = new RegisterIndex.Builder();
    List<StoredMeeting> page = reader.after(0, PAGE);
    while (!page.isEmpty()) {
      page.forEach(stored -> index.add(fresh(stored, directory, from)));
      page = reader.after(page.get(page.size() - 1).row(), PAGE);
    }
    return new State(index.build(), sum, revision, directory, from);
  }

  private State readChanged(State known, Sum sum) {
    List<Long> changed = new ArrayList<>();
    Set<Long> gone = new HashSet<>();
    Iterator<RegisterIndex.Entry> before = known.index().entries().iterator();
    RegisterIndex.Entry[] at = {next(before)};
    // both in the order of the rows
    meetings.eachVersion(
        row -> {
          while (at[0] != null && at[0].row() < row.id()) {
            gone.add(at[0].row());
            at[0] = next(before);
          }
          boolean isKnown = at[0] != null && at[0].row() == row.id();
          if (!isKnown || at[0].version() != row.version()) {
            changed.add(row.id());
          }
          if (isKnown) {
            at[0] = next(before);
          }
        });
    for (; at[0] != null; at[0] = next(before)) {
      gone.add(at[0].row());
    }
    List<RegisterIndex.Fresh> fresh = new ArrayList<>();
    for (int i = 0; i < changed.size(); i += PAGE) {
      for (StoredMeeting stored :
          reader.rows(changed.subList(i, Math.min(i + PAGE, changed.size())))) {
        fresh.add(fresh(stored, known.directory(), known.from()));
      }
    }
    return new State(
        known.index().with(fresh, gone),
        sum,
        known.directoryRevision(),
        known.directory(),
        known.from());
  }

  private static RegisterIndex.@Nullable Entry next(Iterator<RegisterIndex.Entry> entries) {
    return entries.hasNext() ? entries.next() : null;
  }

  private static RegisterIndex.Fresh fresh(
      StoredMeeting stored, Directory directory, Instant from) {
    Meeting meeting = stored.meeting();
    List<Occurrence> coming = Occurrences.between(meeting, from, from.plus(MeetingList.WINDOW));
    return new RegisterIndex.Fresh(
        stored.row(),
        stored.version(),
        Cohort.of(meeting, directory),
        Reach.of(meeting, directory),
        Directory.fold(meeting.host()),
        coming.isEmpty() ? -1 : (int) Math.floorDiv(coming.get(0).start().getEpochSecond(), 60),
        coming.size());
  }
}
