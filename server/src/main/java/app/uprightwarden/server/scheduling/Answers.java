package app.uprightwarden.server.scheduling;

import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.people.Directory;
import app.uprightwarden.server.calendars.CalendarReplies;
import app.uprightwarden.server.calendars.FoldedBytes;
import app.uprightwarden.server.people.OrganisationService;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.problem.Texts;
import app.uprightwarden.server.problem.Worded;
import app.uprightwarden.server.register.Details;
import app.uprightwarden.server.register.RegisterService;
import app.uprightwarden.server.register.StoredMeeting;
import jakarta.mail.BodyPart;
import jakarta.mail.MessagingException;
import jakarta.mail.Multipart;
import jakarta.mail.Part;
import jakarta.mail.Session;
import jakarta.mail.internet.MimeMessage;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Properties;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Who was invited to what, and what they answered. */
@Service
class Answers {
  private static final int DEEPEST = 10;

  private final InvitationRepository invitations;
  private final RegisterService register;
  private final OrganisationService organisation;
  private final Clock clock;

  Answers(
      InvitationRepository invitations,
      RegisterService register,
      OrganisationService organisation,
      Clock clock) {
    this.invitations = invitations;
    this.register = register;
    this.organisation = organisation;
    this.clock = clock;
  }

  /**
   * Where somebody stands with an invitation.
   *
   * @param occurrence the one answered for, or empty for the series
   * @param state {@code sent}, {@code accepted}, {@code declined}, {@code tentative} or {@code
   *     cancelled}
   */
  record InvitationAnswer(
      String email,
      String occurrence,
      String state,
      int sequence,
      @Nullable String remark,
      Instant at) {}

  /**
   * What became of an answer that was fed in.
   *
   * @param outcome {@code taken}, {@code outdated}, {@code proposed}, {@code asked-again}, {@code
   *     not-invited} or {@code unknown-meeting}
   */
  record Fed(String uid, String email, String state, String outcome, @Worded String words) {}

  @Transactional(readOnly = true)
  List<InvitationAnswer> of(String meeting) {
    return invitations.of(meeting).stream()
        .map(
            row ->
                new InvitationAnswer(
                    row.email, row.occurrence, row.state, row.sequence, row.remark, row.at))
        .toList();
  }

  /** Those who declined the whole of these meetings, by folded address. */
  @Transactional(readOnly = true)
  public Map<String, Set<String>> declined(Collection<String> meetings) {
    Map<String, Set<String>> declined = new HashMap<>();
    if (meetings.isEmpty()) {
      return declined;
    }
    invitations
        .declined(meetings)
        .forEach(row -> declined.computeIfAbsent(row.meeting, m -> new HashSet<>()).add(row.email));
    return declined;
  }

  /** Notes that an invitation went out; a new one asks anew. */
  @Transactional
  public void sent(String meeting, String email, int sequence, boolean askAnew) {
    if (askAnew) {
      invitations.sentAnew(meeting, Directory.fold(email), sequence, clock.instant());
    } else {
      invitations.sentAgain(meeting, Directory.fold(email), sequence, clock.instant());
    }
  }

  @Transactional
  public void cancelled(String meeting, String email, int sequence) {
    invitations.cancelled(meeting, Directory.fold(email), sequence, clock.instant());
  }

  /**
   * Feeds in an answer: a calendar, or a mail with one in it.
   *
   * @throws ProblemException 400 where there is no answer in it
   */
  @Transactional
  public List<Fed> feed(String text) {
    String calendar = isCalendar(text) ? text : calendarIn(text);
    List<Fed> fed = new ArrayList<>();
    Directory directory = organisation.directory();
    for (CalendarReplies.Reply reply : CalendarReplies.read(calendar)) {
      fed.add(feed(reply, directory));
    }
    return fed;
  }

  private Fed feed(CalendarReplies.Reply reply, Directory directory) {
    StoredMeeting stored = byUid(reply.uid());
    if (stored == null) {
      return new Fed(
          reply.uid(),
          reply.email(),
          reply.state(),
          "unknown-meeting",
          "There is no meeting of that name here; it may have been cancelled.");
    }
    Meeting meeting = stored.meeting();
    if (!isInvited(meeting, reply.email(), directory)) {
      return new Fed(
          reply.uid(),
          reply.email(),
          reply.state(),
          "not-invited",
          reply.email()
              + " answered and was not invited to “"
              + meeting.title()
              + "”: somebody passed the invitation on.");
    }
    if (reply.sequence() < stored.details().sequence()) {
      return new Fed(
          reply.uid(),
          reply.email(),
          reply.state(),
          "outdated",
          "The answer is to an earlier invitation (SEQUENCE "
              + reply.sequence()
              + ", now "
              + stored.details().sequence()
              + "); it is left out.");
    }
    String occurrence = occurrence(reply, meeting.zone());
    if (reply.state().equals("refresh")) {
      return new Fed(
          reply.uid(),
          reply.email(),
          reply.state(),
          "asked-again",
          reply.email() + " asks for the invitation to “" + meeting.title() + "” again: send it.");
    }
    if (isNewerThere(meeting.id(), occurrence, reply)) {
      return new Fed(
          reply.uid(),
          reply.email(),
          reply.state(),
          "outdated",
          "A later answer of " + reply.email() + " is here already; this one is left out.");
    }
    if (reply.state().equals("counter")) {
      return proposed(reply, meeting, occurrence);
    }
    invitations.answered(
        meeting.id(),
        Directory.fold(reply.email()),
        occurrence,
        reply.state(),
        reply.sequence(),
        reply.remark(),
        clock.instant(),
        reply.stamp().isEmpty() ? null : reply.stamp());
    return new Fed(
        reply.uid(),
        reply.email(),
        reply.state(),
        "taken",
        reply.email() + " " + reply.state() + " “" + meeting.title() + "”.");
  }

  /** Of answers to the same invitation the later counts, whichever comes first (RFC 5546 2.1.5). */
  private boolean isNewerThere(String meeting, String occurrence, CalendarReplies.Reply reply) {
    return !reply.stamp().isEmpty()
        && invitations.countNewer(
                meeting, Directory.fold(reply.email()), occurrence, reply.sequence(), reply.stamp())
            > 0;
  }

  /** A proposal changes neither the meeting nor the answer; it is kept as a remark for the host. */
  private Fed proposed(CalendarReplies.Reply reply, Meeting meeting, String occurrence) {
    String time = reply.proposed() == null ? "another time" : reply.proposed();
    String words = "proposes " + time + (reply.remark() == null ? "" : ": " + reply.remark());
    invitations.remark(
        meeting.id(),
        Directory.fold(reply.email()),
        occurrence,
        Texts.cut(words, 1000),
        clock.instant());
    return new Fed(
        reply.uid(),
        reply.email(),
        reply.state(),
        "proposed",
        reply.email()
            + " proposes "
            + time
            + " for “"
            + meeting.title()
            + "”. Nothing was changed: move the meeting, or tell them that it stays.");
  }

  private @Nullable StoredMeeting byUid(String uid) {
    StoredMeeting known = register.byUid(List.of(uid)).get(uid);
    if (known != null) {
      return known;
    }
    String made = Details.madeHere(uid);
    return made == null ? null : register.find(made).orElse(null);
  }

  private static boolean isInvited(Meeting meeting, String email, Directory directory) {
    return Recipients.of(meeting, directory).stream()
        .anyMatch(r -> Directory.fold(r.email()).equals(Directory.fold(email)));
  }

  private static String occurrence(CalendarReplies.Reply reply, ZoneId zone) {
    if (reply.occurrence() == null) {
      return "";
    }
    ZoneId from = reply.zone() == null ? zone : reply.zone();
    return reply.occurrence().atZone(from).withZoneSameInstant(zone).toLocalDateTime().toString();
  }

  private static boolean isCalendar(String text) {
    String begin = text.startsWith("\ufeff") ? text.substring(1) : text;
    return begin.stripLeading().regionMatches(true, 0, "BEGIN:VCALENDAR", 0, 15);
  }

  private static String calendarIn(String mail) {
    try {
      MimeMessage message =
          new MimeMessage(
              Session.getInstance(new Properties()),
              new ByteArrayInputStream(mail.getBytes(StandardCharsets.UTF_8)));
      String found = calendarIn(message, 0);
      if (found != null) {
        return found;
      }
    } catch (MessagingException | IOException e) {
      throw ProblemException.unreadable("This mail cannot be read: " + e.getMessage(), List.of());
    }
    throw ProblemException.unreadable(
        "There is no calendar in this: give the answer itself (.ics) or the mail that holds it"
            + " (.eml).",
        List.of());
  }

  private static @Nullable String calendarIn(Part part, int depth)
      throws MessagingException, IOException {
    if (part.isMimeType("text/calendar") || part.isMimeType("application/ics")) {
      return new String(
          FoldedBytes.mended(part.getInputStream().readAllBytes()), StandardCharsets.UTF_8);
    }
    if (depth < DEEPEST
        && part.isMimeType("multipart/*")
        && part.getContent() instanceof Multipart all) {
      for (int i = 0; i < all.getCount(); i++) {
        BodyPart inner = all.getBodyPart(i);
        String found = calendarIn(inner, depth + 1);
        if (found != null) {
          return found;
        }
      }
    }
    return null;
  }
}
