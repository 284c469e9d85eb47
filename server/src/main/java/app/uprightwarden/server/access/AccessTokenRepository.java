package app.uprightwarden.server.access;

import jakarta.data.repository.Find;
import jakarta.data.repository.Insert;
import jakarta.data.repository.Repository;
import jakarta.data.repository.Update;
import java.time.Instant;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import org.hibernate.annotations.processing.HQL;
import org.springframework.transaction.annotation.Transactional;

/** Access tokens. */
@Repository
@Transactional
interface AccessTokenRepository {
  @Find
  Optional<AccessTokenEntity> findById(long id);

  @Find
  Optional<AccessTokenEntity> findByTokenHash(String tokenHash);

  @HQL("from AccessTokenEntity order by id desc limit :most")
  List<AccessTokenEntity> newest(int most);

  @HQL("where actsAs = :email and endedAt is null")
  List<AccessTokenEntity> notEnded(String email);

  @Insert
  void insert(AccessTokenEntity token);

  @Update
  void update(AccessTokenEntity token);

  @HQL("update AccessTokenEntity set lastUsed = :at where id = :id")
  int used(long id, Instant at);

  @HQL(
      "select id from AccessTokenEntity where least(expiresAt, coalesce(endedAt, expiresAt)) < :before"
          + " order by id limit :most")
  List<Long> over(Instant before, int most);

  @HQL("delete from AccessTokenEntity where id in :ids")
  int delete(Collection<Long> ids);
}
