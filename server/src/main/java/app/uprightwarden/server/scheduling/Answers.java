package app.uprightwarden.server.scheduling;

import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.people.Directory;
import app.uprightwarden.server.calendars.CalendarReplies;
import app.uprightwarden.server.calendars.FoldedBytes;
import app.uprightwarden.server.people.OrganisationService;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.problem.Texts;
import app.uprightwarden.server.register.Details;
import app.uprightwarden.server.register.RegisterService;
import app.uprightwarden.server.register.Stored;
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
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Properties;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.RowCallbackHandler;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Who was invited to what, and what they answered. */
@Service
class Answers {
  private static final int DEEPEST = 10;

  private final JdbcClient jdbc;
  private final RegisterService register;
  private final OrganisationService organisation;
  private final Clock clock;

  Answers(
      JdbcClient jdbc, RegisterService register, OrganisationService organisation, Clock clock) {
    this.jdbc = jdbc;
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
  record Fed(String uid, String email, String state, String outcome, String words) {}

  @Transactional(readOnly = true)
  List<InvitationAnswer> of(String meeting) {
    return jdbc.sql(
            "select email, occurrence, state, sequence, remark, at from invitation where meeting ="
                + " ? order by email, occurrence")
        .param(meeting)
        .query(
            (r, n) ->
                new InvitationAnswer(
                    r.getString(1),
                    r.getString(2),
                    r.getString(3),
                    r.getInt(4),
                    r.getString(5),
                    r.getObject(6, LocalDateTime.class).toInstant(ZoneOffset.UTC)))
        .list();
  }

  /** Those who declined the whole of these meetings, by folded address. */
  @Transactional(readOnly = true)
  public Map<String, Set<String>> declined(Collection<String> meetings) {
    Map<String, Set<String>> declined = new HashMap<>();
    if (meetings.isEmpty()) {
      return declined;
    }
    jdbc.sql(
            "select meeting, email from invitation where meeting in (:ids) and state = 'declined'"
                + " and occurrence = ''")
        .param("ids", meetings)
        .query(
            (RowCallbackHandler)
                row ->
                    declined
                        .computeIfAbsent(row.getString(1), m -> new HashSet<>())
                        .add(row.getString(2)));
    return declined;
  }

  /** Notes that an invitation went out; a new one asks anew. */
  @Transactional
  public void sent(String meeting, String email, int sequence, boolean askAnew) {
    String keep = askAnew ? "'sent'" : "state";
    jdbc.sql(
            "insert into invitation (meeting, email, occurrence, state, sequence, at) values (?, ?,"
                + " '', 'sent', ?, ?) on duplicate key update state = if(state = 'cancelled',"
                + " 'sent', "
                + keep
                + "), sequence = values(sequence), at = values(at)")
        .params(meeting, Directory.fold(email), sequence, now())
        .update();
  }

  @Transactional
  public void cancelled(String meeting, String email, int sequence) {
    jdbc.sql(
            "update invitation set state = 'cancelled', sequence = ?, at = ? where meeting = ? and"
                + " email = ?")
        .params(sequence, now(), meeting, Directory.fold(email))
        .update();
  }

  private LocalDateTime now() {
    return LocalDateTime.ofInstant(clock.instant(), ZoneOffset.UTC);
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
    Stored stored = byUid(reply.uid());
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
    jdbc.sql(
            "insert into invitation (meeting, email, occurrence, state, sequence, remark, at, stamp)"
                + " values (:meeting, :email, :occurrence, :state, :sequence, :remark, :at, :stamp)"
                + " on duplicate key update state = values(state), sequence = values(sequence),"
                + " remark = values(remark), at = values(at), stamp = values(stamp)")
        .param("meeting", meeting.id())
        .param("email", Directory.fold(reply.email()))
        .param("occurrence", occurrence)
        .param("state", reply.state())
        .param("sequence", reply.sequence())
        .param("remark", reply.remark())
        .param("at", now())
        .param("stamp", reply.stamp().isEmpty() ? null : reply.stamp())
        .update();
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
        && jdbc.sql(
                    "select count(*) from invitation where meeting = ? and email = ? and occurrence"
                        + " = ? and sequence = ? and stamp > ?")
                .params(
                    meeting,
                    Directory.fold(reply.email()),
                    occurrence,
                    reply.sequence(),
                    reply.stamp())
                .query(Integer.class)
                .single()
            > 0;
  }

  /** A proposal changes neither the meeting nor the answer; it is kept as a remark for the host. */
  private Fed proposed(CalendarReplies.Reply reply, Meeting meeting, String occurrence) {
    String time = reply.proposed() == null ? "another time" : reply.proposed();
    String words = "proposes " + time + (reply.remark() == null ? "" : ": " + reply.remark());
    jdbc.sql(
            "update invitation set remark = ?, at = ? where meeting = ? and email = ? and"
                + " occurrence = ?")
        .params(
            Texts.cut(words, 1000), now(), meeting.id(), Directory.fold(reply.email()), occurrence)
        .update();
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

  private @Nullable Stored byUid(String uid) {
    Stored known = register.byUid(List.of(uid)).get(uid);
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
