package app.uprightwarden.server.calendars;

import jakarta.data.repository.Insert;
import jakarta.data.repository.Repository;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.hibernate.annotations.processing.HQL;
import org.springframework.transaction.annotation.Transactional;

/** Feeds. */
@Repository
@Transactional
interface FeedRepository {
  @Insert
  void insert(FeedEntity feed);

  @HQL("select count(*) from FeedEntity where owner = :owner")
  long countOf(String owner);

  @HQL("where :all = true or owner = :owner order by id desc limit 500")
  List<FeedEntity> list(boolean all, String owner);

  @HQL("where tokenHash = :hash and endsAt > :now")
  Optional<FeedEntity> withToken(String hash, Instant now);

  @HQL("update FeedEntity set usedAt = :now, endsAt = :end where id = :id")
  int used(long id, Instant now, Instant end);

  @HQL("delete from FeedEntity where id = :id")
  int delete(long id);
}
