package app.uprightwarden.server.register;

import jakarta.data.repository.Find;
import jakarta.data.repository.Repository;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import org.hibernate.LockMode;
import org.hibernate.StatelessSession;
import org.hibernate.annotations.processing.HQL;
import org.springframework.transaction.annotation.Transactional;

/** Sets of control values. */
@Repository
@Transactional
interface ControlSetRepository {
  StatelessSession session();

  @Find
  Optional<ControlSetEntity> find(long id);

  @HQL("where id in :ids")
  List<ControlSetEntity> among(Collection<Long> ids);

  /** The set with a digest, as it is committed, and kept from going away. */
  default Optional<ControlSetEntity> withDigest(String digest) {
    return session()
        .createSelectionQuery(
            "from ControlSetEntity where digest = :digest", ControlSetEntity.class)
        .setParameter("digest", digest)
        .setHibernateLockMode(LockMode.PESSIMISTIC_READ)
        .uniqueResultOptional();
  }

  @HQL(
      "insert into ControlSetEntity (digest, document) values (:digest, :document)"
          + " on conflict (digest) do nothing")
  int add(String digest, String document);
}
