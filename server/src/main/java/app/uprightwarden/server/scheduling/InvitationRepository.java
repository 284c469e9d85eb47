package app.uprightwarden.server.scheduling;

import jakarta.data.repository.Repository;
import java.time.Instant;
import java.util.Collection;
import java.util.List;
import org.hibernate.annotations.processing.HQL;
import org.jspecify.annotations.Nullable;
import org.springframework.transaction.annotation.Transactional;

/** Who was invited to what, and answered. */
@Repository
@Transactional
interface InvitationRepository {
  @HQL("where meeting = :meeting order by email, occurrence")
  List<InvitationEntity> of(String meeting);

  @HQL("where meeting in :meetings and state = 'declined' and occurrence = ''")
  List<InvitationEntity> declined(Collection<String> meetings);

  /** Notes an invitation; an answer that was given stays, unless it was cancelled since. */
  @HQL(
      "insert into InvitationEntity (meeting, email, occurrence, state, sequence, at)"
          + " values (:meeting, :email, '', 'sent', :sequence, :at)"
          + " on conflict (meeting, email, occurrence) do update set"
          + " state = case when state = 'cancelled' then 'sent' else state end,"
          + " sequence = excluded.sequence, at = excluded.at")
  int sentAgain(String meeting, String email, int sequence, Instant at);

  /** Notes an invitation that asks anew. */
  @HQL(
      "insert into InvitationEntity (meeting, email, occurrence, state, sequence, at)"
          + " values (:meeting, :email, '', 'sent', :sequence, :at)"
          + " on conflict (meeting, email, occurrence) do update set"
          + " state = excluded.state, sequence = excluded.sequence, at = excluded.at")
  int sentAnew(String meeting, String email, int sequence, Instant at);

  @HQL(
      "update InvitationEntity set state = 'cancelled', sequence = :sequence, at = :at"
          + " where meeting = :meeting and email = :email")
  int cancelled(String meeting, String email, int sequence, Instant at);

  @HQL(
      "insert into InvitationEntity (meeting, email, occurrence, state, sequence, remark, at, stamp)"
          + " values (:meeting, :email, :occurrence, :state, :sequence, :remark, :at, :stamp)"
          + " on conflict (meeting, email, occurrence) do update set state = excluded.state,"
          + " sequence = excluded.sequence, remark = excluded.remark, at = excluded.at,"
          + " stamp = excluded.stamp")
  int answered(
      String meeting,
      String email,
      String occurrence,
      String state,
      int sequence,
      @Nullable String remark,
      Instant at,
      @Nullable String stamp);

  @HQL(
      "select count(*) from InvitationEntity where meeting = :meeting and email = :email"
          + " and occurrence = :occurrence and sequence = :sequence and stamp > :stamp")
  long countNewer(String meeting, String email, String occurrence, int sequence, String stamp);

  @HQL(
      "update InvitationEntity set remark = :remark, at = :at where meeting = :meeting"
          + " and email = :email and occurrence = :occurrence")
  int remark(String meeting, String email, String occurrence, String remark, Instant at);
}
