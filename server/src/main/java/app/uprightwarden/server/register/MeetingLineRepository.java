package app.uprightwarden.server.register;

import app.uprightwarden.server.persistence.BuiltQuery;
import jakarta.data.repository.Insert;
import jakarta.data.repository.Repository;
import java.time.Instant;
import java.time.LocalDateTime;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import org.hibernate.StatelessSession;
import org.hibernate.annotations.processing.HQL;
import org.jspecify.annotations.Nullable;
import org.springframework.transaction.annotation.Transactional;

/** The lines of lists. */
@Repository
@Transactional
interface MeetingLineRepository {
  StatelessSession session();

  @Insert
  void insert(List<MeetingLineEntity> lines);

  default void update(List<MeetingLineEntity> lines) {
    session().updateMultiple(lines);
  }

  /**
   * Writes how lines are judged by one statement for all: an update a row, though in a batch, is
   * carried out one by one.
   *
   * @param lines {@link JudgedLine}s as a JSON array
   */
  default int judged(String lines) {
    return session()
        .createNativeMutationQuery(JudgedLine.UPDATE)
        .setParameter("lines", lines)
        .executeUpdate();
  }

  @HQL("where meeting in :meetings")
  List<MeetingLineEntity> among(Collection<String> meetings);

  @HQL("delete from MeetingLineEntity where meeting in :meetings")
  int delete(Collection<String> meetings);

  @HQL(
      "update MeetingLineEntity set findings = :findings, worst = :worst where meeting in :meetings")
  int count(Collection<String> meetings, int findings, int worst);

  @HQL(
      "update MeetingLineEntity set findings = findings + :findings,"
          + " worst = case when worst < :worst then :worst else worst end"
          + " where meeting in :meetings")
  int countIn(Collection<String> meetings, int findings, int worst);

  @HQL("update MeetingLineEntity set changedAt = :at where meeting = :meeting")
  int touch(String meeting, Instant at);

  /** What a line shows of its meeting's row. */
  record Rest(
      String meeting,
      LocalDateTime startsAt,
      String zone,
      int minutes,
      @Nullable String recurrence,
      @Nullable String room,
      String changedBy) {}

  @HQL(
      "select publicId, startsAt, zone, minutes, recurrence, room, changedBy from MeetingEntity"
          + " where publicId in :meetings")
  List<Rest> rest(Collection<String> meetings);

  /** What is asked in words that depend on a filter. */
  default <T> List<T> query(
      String hql, Class<T> type, Map<String, ?> parameters, long skip, int most) {
    return BuiltQuery.list(session(), hql, type, parameters, skip, most);
  }
}
