package app.uprightwarden.server.register;

import app.uprightwarden.core.calendar.Occurrences;
import app.uprightwarden.core.exposure.Band;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.meeting.Occurrence;
import app.uprightwarden.core.people.Directory;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.live.Signals;
import app.uprightwarden.server.live.UntilSignalled;
import app.uprightwarden.server.people.UnitScope;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Collections;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** The register as a table, and as a week: pages of its lines in the database. */
@Service
class MeetingList {
  /** How far ahead the register looks. */
  static final Duration WINDOW = Duration.ofDays(90);

  private static final int MAX_IN_A_WEEK = 3000;
  private static final int MAX_TOTALS = 500;
  private static final int MAX_TEXTS = 50;

  /** What is signalled of these may change a line, or which lines a filter keeps. */
  private static final Set<Signals.Topic> CHANGING =
      Set.of(Signals.Topic.REGISTER, Signals.Topic.STANDING);

  private static final String UNWRITTEN =
      "select l.meeting from MeetingLineEntity l where l.searchText is null";

  private final MeetingLineRepository lines;
  private final JudgedMeetings judged;
  private final RegisterService register;
  private final HeldRows held;
  private final UnitScope units;
  private final int maxNamed;
  private final int near;

  /** How many lines there are, by the condition. */
  private final UntilSignalled<String, Integer> totals;

  /** Whether more lines than are named have some words. */
  private final UntilSignalled<String, Boolean> common;

  /** The meetings that have words which are not common. */
  private final UntilSignalled<String, List<String>> having;

  MeetingList(
      MeetingLineRepository lines,
      JudgedMeetings judged,
      RegisterService register,
      HeldRows held,
      UnitScope units,
      Signals signals,
      @Value("${warden.lists.named:1000}") int maxNamed,
      @Value("${warden.lists.near:10000}") int near) {
    this.lines = lines;
    this.judged = judged;
    this.register = register;
    this.held = held;
    this.units = units;
    this.maxNamed = maxNamed;
    this.near = near;
    this.totals = UntilSignalled.orAMomentOld(signals, CHANGING, MAX_TOTALS);
    this.common = UntilSignalled.orAMomentOld(signals, CHANGING, MAX_TOTALS);
    this.having = UntilSignalled.exact(signals, CHANGING, MAX_TEXTS);
  }

  /**
   * A meeting's line.
   *
   * @param service the name of the conference service that holds it
   * @param writing how far what was decided has come there; see {@link HeldView}
   */
  record Line(
      String id,
      String title,
      @Nullable String kind,
      @Nullable String unit,
      String host,
      String hostName,
      String start,
      String zone,
      int minutes,
      @Nullable String recurrence,
      @Nullable Instant next,
      int occurrences,
      double exposure,
      String band,
      int findings,
      int worst,
      int invited,
      @Nullable String room,
      String changedBy,
      Instant changedAt,
      @Nullable String service,
      @Nullable String writing) {}

  /**
   * What to show. Null or blank takes all.
   *
   * @param service the number of the conference service that holds them; 0 for none
   * @param from those whose next occurrence begins then or later; {@code to} before that
   */
  record Filter(
      @Nullable String text,
      @Nullable String unit,
      @Nullable String kind,
      @Nullable String band,
      @Nullable String host,
      @Nullable Long service,
      boolean open,
      @Nullable Instant from,
      @Nullable Instant to) {}

  /** Some of the lines that a filter keeps, and how many it keeps. */
  record Slice(List<Line> items, int total) {}

  /** What lines are asked for, as a condition on {@code l}. */
  private static final class Where {
    private final StringBuilder hql = new StringBuilder("where 1 = 1");
    private final Map<String, Object> parameters = new LinkedHashMap<>();

    void and(String condition, String name, @Nullable Object value) {
      if (value != null && !(value instanceof String text && text.isBlank())) {
        hql.append(" and ").append(condition);
        parameters.put(name, value);
      }
    }

    @Override
    public String toString() {
      return hql + " " + parameters;
    }
  }

  private Where where(SignedIn who, Filter filter) {
    Where where = new Where();
    if (who.isHost()) {
      where.and("l.meeting in :own", "own", orNone(register.hostedBy(Directory.fold(who.email()))));
    }
    Collection<String> only = units.units(who);
    where.and("l.unit in :only", "only", only == null ? null : orNone(only));
    where.and("l.unit = :unit", "unit", filter.unit());
    where.and("l.kind = :kind", "kind", filter.kind());
    where.and("l.host = :host", "host", filter.host());
    Long service = filter.service();
    if (service != null) {
      // an unlinked service holds nothing any more
      where.and(
          service == 0
              ? "not exists (select 1 from MeetingHeldEntity h where h.meeting = l.meeting and"
                  + " h.service in :linked)"
              : "l.meeting in (select h.meeting from MeetingHeldEntity h where h.service in"
                  + " :linked)",
          "linked",
          service == 0 ? held.linked() : held.linkedAmong(service));
    }
    String band = filter.band();
    if (band != null && !band.isBlank()) {
      Band of = Band.byId(band);
      where.and("l.exposure >= :least", "least", of == null ? 1001 : of.fromTenths());
      where.and("l.exposure < :below", "below", of == null ? 0 : of.toTenths());
    }
    if (filter.open()) {
      where.and("l.worst >= :worst", "worst", 1);
    }
    where.and("l.nextStart >= :from", "from", filter.from());
    where.and("l.nextStart < :to", "to", filter.to());
    if (filter.text() != null && !filter.text().isBlank()) {
      text(where, filter.text().strip());
    }
    return where;
  }

  /**
   * What somebody typed, by what it looks like: a number, a link, somebody's address, or words of a
   * title or a host's name. So a complaint that brings one of these is traced.
   */
  private void text(Where where, String text) {
    String digits = text.replaceAll("[\\s-]", "");
    if (digits.matches("\\d{6,12}")) {
      // as it was typed, as one word, and in threes as we write them
      where.and(
          "l.meeting in (select m.publicId from MeetingEntity m where m.number in :numbers)",
          "numbers",
          List.of(text, digits, digits.replaceAll("(\\d{3})(?=\\d)", "$1 ")));
    } else if (text.contains("://")) {
      where.and(
          "l.meeting in (select h.meeting from MeetingHeldEntity h where h.link = :link)",
          "link",
          text);
    } else if (text.matches("[^@\\s]+@[^@\\s]*")) {
      // the beginning of an address, as it is being typed
      where.and(
          "(l.host like :address escape '!' or l.meeting in (select m.publicId from MeetingEntity m"
              + " join MeetingPersonEntity p on p.meeting = m.id where p.folded like :address escape"
              + " '!'))",
          "address",
          escaped(Directory.fold(text)) + "%");
    } else {
      words(where, text);
    }
  }

  private static String escaped(String text) {
    return text.replaceAll("([!%_])", "!$1");
  }

  /** Where few have such words, those few are asked for: no other is gone through for an order. */
  private void words(Where where, String text) {
    String is = "l.searchText like :text escape '!'";
    String like = "%" + escaped(SearchText.folded(text)) + "%";
    String condition = is;
    Supplier<List<String>> ask = () -> having(condition, like);
    boolean isCommon = common.get(like, () -> having.get(like, ask).size() > maxNamed);
    List<String> found = new ArrayList<>();
    if (!isCommon) {
      // which those are is never a moment old: a list has just the meetings that there are
      found.addAll(having.get(like, ask));
    }
    if (!lines.query(UNWRITTEN, String.class, Map.of(), 0, 1).isEmpty()) {
      // as an upgrade leaves them until the audit has come to them
      String unwritten =
          "l.searchText is null and (l.title like :text escape '!' or l.host like :text escape '!'"
              + " or l.hostName like :text escape '!')";
      found.addAll(having(unwritten, like));
      is = "(" + is + " or " + unwritten + ")";
    }
    if (!isCommon && found.size() <= maxNamed) {
      where.and("l.meeting in :found", "found", orNone(found));
    } else {
      where.and(is, "text", like);
    }
  }

  private List<String> having(String condition, String text) {
    return lines.query(
        "select l.meeting from MeetingLineEntity l where " + condition,
        String.class,
        Map.of("text", text),
        0,
        maxNamed + 1);
  }

  private static Collection<String> orNone(Collection<String> some) {
    return some.isEmpty() ? List.of("") : some;
  }

  /** The lines of a page. */
  @Transactional(readOnly = true)
  public Slice page(SignedIn who, Filter filter, String sort, int page, int size) {
    Where where = where(who, filter);
    int total = total(where);
    long from = (long) page * size;
    long behind = Math.max(0, total - from - size);
    // the order is an index; whole rows are read of the page alone
    String order = order(sort);
    if (from <= near || from <= behind) {
      return new Slice(lines(ids(where, order, from, size)), total);
    }
    // an index is walked to the page: from its end, where that is nearer
    int left = (int) Math.max(0, Math.min(total - from, size));
    List<String> backwards = new ArrayList<>(ids(where, reversed(order), behind, left));
    Collections.reverse(backwards);
    return new Slice(lines(backwards), total);
  }

  private List<String> ids(Where where, String order, long from, int most) {
    return most == 0
        ? List.of()
        : lines.query(
            "select l.meeting from MeetingLineEntity l " + where.hql + " order by " + order,
            String.class,
            where.parameters,
            from,
            most);
  }

  private int total(Where where) {
    return totals.get(
        where.toString(),
        () ->
            Math.toIntExact(
                lines
                    .query(
                        "select count(*) from MeetingLineEntity l " + where.hql,
                        Long.class,
                        where.parameters,
                        0,
                        1)
                    .get(0)));
  }

  /** By a column, the other way round with a minus before it; each of these is an index. */
  private static String order(String sort) {
    boolean reverse = sort.startsWith("-");
    String by =
        switch (reverse ? sort.substring(1) : sort) {
          case "title" -> "l.title, l.meeting";
          case "exposure" -> "l.exposure desc, l.meeting";
          case "findings" -> "l.worst desc, l.findings desc, l.meeting";
          case "host" -> "l.hostName, l.meeting";
          case "kind" -> "l.kind, l.meeting";
          case "unit" -> "l.unit, l.meeting";
          case "invited" -> "l.invited desc, l.meeting";
          case "changed" -> "l.changedAt desc, l.meeting";
          default -> "l.undated, l.nextStart, l.meeting";
        };
    return reverse ? reversed(by) : by;
  }

  private static String reversed(String order) {
    List<String> parts = new ArrayList<>();
    for (String part : order.split(", ")) {
      parts.add(part.endsWith(" desc") ? part.replace(" desc", "") : part + " desc");
    }
    return String.join(", ", parts);
  }

  /** Whole lines in the order of their ids; what the audit has not come to yet is judged here. */
  private List<Line> lines(List<String> ids) {
    if (ids.isEmpty()) {
      return List.of();
    }
    Map<String, MeetingLineEntity> found = new HashMap<>();
    lines.among(ids).forEach(line -> found.put(line.meeting, line));
    Map<String, MeetingLineRepository.Rest> rest = new HashMap<>();
    lines.rest(ids).forEach(row -> rest.put(row.meeting(), row));
    List<String> fresh =
        ids.stream().filter(id -> found.containsKey(id) && found.get(id).exposure == null).toList();
    Map<String, MeetingLines.Judged> now = new HashMap<>();
    judged.of(fresh).forEach(each -> now.put(each.meeting(), each));
    Map<String, HeldRows.InService> services = held.inService(ids);
    List<Line> whole = new ArrayList<>();
    for (String id : ids) {
      MeetingLineEntity line = found.get(id);
      MeetingLineRepository.Rest of = rest.get(id);
      if (line != null && of != null) {
        whole.add(line(line, of, now.getOrDefault(id, stored(line)), services.get(id)));
      }
    }
    return whole;
  }

  private static MeetingLines.Judged stored(MeetingLineEntity line) {
    return new MeetingLines.Judged(
        line.meeting,
        line.host,
        line.nextStart,
        Objects.requireNonNullElse(line.occurrences, 0),
        Objects.requireNonNullElse(line.exposure, 0),
        line.findings,
        line.worst,
        line.invited);
  }

  private static Line line(
      MeetingLineEntity line,
      MeetingLineRepository.Rest rest,
      MeetingLines.Judged judged,
      HeldRows.@Nullable InService service) {
    return new Line(
        line.meeting,
        line.title,
        line.kind,
        line.unit,
        line.host,
        line.hostName,
        rest.startsAt().toString(),
        rest.zone(),
        rest.minutes(),
        rest.recurrence(),
        judged.next(),
        judged.occurrences(),
        judged.exposure() / 10.0,
        Band.ofTenths(judged.exposure()).id(),
        judged.open(),
        judged.worst(),
        judged.invited(),
        rest.room(),
        rest.changedBy(),
        line.changedAt,
        service == null ? null : service.name(),
        service == null ? null : service.writing());
  }

  /**
   * One occurrence as the week view draws it.
   *
   * @param at its original local start, which names it
   */
  record OnWeek(
      String id, String title, String at, Instant start, Instant end, String band, int worst) {}

  /**
   * The occurrences of the lines that a filter keeps, by start; {@code more} or so were left out.
   */
  record Week(List<OnWeek> items, int more) {}

  /** What the week view knows of a series; exposure in tenths, null where it is not judged yet. */
  record OfWeek(String meeting, @Nullable Integer exposure, int worst) {}

  /** Of very many series the most exposed are shown. */
  @Transactional(readOnly = true)
  public Week week(SignedIn who, Filter filter, Instant from, Instant to) {
    Where where = where(who, filter);
    // by its own clock a series may begin half a day later or earlier than by the universal one
    where.and(
        "l.meeting in (select m.publicId from MeetingEntity m where m.startsAt < :begun)",
        "begun",
        LocalDateTime.ofInstant(to, ZoneOffset.UTC).plusHours(14));
    Map<String, OfWeek> kept = new HashMap<>();
    lines
        .query(
            "select l.meeting, l.exposure, l.worst from MeetingLineEntity l "
                + where.hql
                + " order by l.exposure desc, l.meeting",
            OfWeek.class,
            where.parameters,
            0,
            MAX_IN_A_WEEK)
        .forEach(line -> kept.put(line.meeting(), line));
    int left = kept.size() < MAX_IN_A_WEEK ? 0 : total(where) - kept.size();
    List<OnWeek> items = new ArrayList<>();
    List<String> ids = List.copyOf(kept.keySet());
    for (int i = 0; i < ids.size(); i += 1000) {
      register
          .among(ids.subList(i, Math.min(i + 1000, ids.size())))
          .forEach(
              (id, stored) ->
                  add(items, stored.meeting(), Objects.requireNonNull(kept.get(id)), from, to));
    }
    items.sort(Comparator.comparing(OnWeek::start).thenComparing(OnWeek::title));
    int shown = Math.min(items.size(), MAX_IN_A_WEEK);
    return new Week(List.copyOf(items.subList(0, shown)), items.size() - shown + left);
  }

  private static void add(
      List<OnWeek> items, Meeting meeting, OfWeek line, Instant from, Instant to) {
    for (Occurrence o : Occurrences.between(meeting, from, to)) {
      items.add(
          new OnWeek(
              meeting.id(),
              meeting.title(),
              o.at().toString(),
              o.start(),
              o.end(),
              Band.ofTenths(Objects.requireNonNullElse(line.exposure(), 0)).id(),
              line.worst()));
    }
  }
}
