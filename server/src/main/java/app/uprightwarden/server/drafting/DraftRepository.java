package app.uprightwarden.server.drafting;

import jakarta.data.repository.Delete;
import jakarta.data.repository.Find;
import jakarta.data.repository.Insert;
import jakarta.data.repository.Repository;
import jakarta.data.repository.Save;
import jakarta.data.repository.Update;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.hibernate.LockMode;
import org.hibernate.StatelessSession;
import org.hibernate.annotations.processing.HQL;
import org.springframework.transaction.annotation.Transactional;

/** Drafts, and who has them open. */
@Repository
@Transactional
interface DraftRepository {
  StatelessSession session();

  @HQL("from DraftEntity order by name")
  List<DraftEntity> all();

  @HQL("select count(*) from DraftEntity where name = :name")
  long countNamed(String name);

  @Find
  Optional<DraftEntity> find(long id);

  /** Locks the draft's row, so that two who edit at once do so one after the other. */
  default Optional<DraftEntity> forChange(long id) {
    return Optional.ofNullable(session().get(DraftEntity.class, id, LockMode.PESSIMISTIC_WRITE));
  }

  @Insert
  void insert(DraftEntity draft);

  @Update
  void update(DraftEntity draft);

  @Delete
  void delete(DraftEntity draft);

  @Save
  void save(DraftPresenceEntity presence);

  @HQL("from DraftPresenceEntity where draft = :draft and seenAt > :since order by name")
  List<DraftPresenceEntity> present(long draft, Instant since);
}
