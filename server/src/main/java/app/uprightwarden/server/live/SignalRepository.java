package app.uprightwarden.server.live;

import jakarta.data.repository.Insert;
import jakarta.data.repository.Repository;
import java.time.Instant;
import java.util.Collection;
import java.util.List;
import org.hibernate.annotations.processing.HQL;
import org.springframework.transaction.annotation.Transactional;

/** What was signalled. */
@Repository
@Transactional
interface SignalRepository {
  @Insert
  void insert(SignalSentEntity signal);

  @HQL("where at > :time")
  List<SignalSentEntity> since(Instant time);

  @HQL("select count(*) from SignalSentEntity where topic in :topics and at > :time")
  long count(Collection<String> topics, Instant time);

  @HQL("delete from SignalSentEntity where at < :time")
  int deleteBefore(Instant time);
}
