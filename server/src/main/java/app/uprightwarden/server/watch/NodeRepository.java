package app.uprightwarden.server.watch;

import jakarta.data.repository.Repository;
import jakarta.data.repository.Save;
import java.time.Instant;
import java.util.List;
import org.hibernate.annotations.processing.HQL;
import org.springframework.transaction.annotation.Transactional;

/** The servers on this database. */
@Repository
@Transactional
interface NodeRepository {
  @Save
  void save(NodeEntity node);

  @HQL("delete from NodeEntity where seenAt < :time")
  int deleteUnseenSince(Instant time);

  @HQL("delete from NodeEntity where name = :name")
  int delete(String name);

  @HQL("where seenAt > :time order by name")
  List<NodeEntity> seenSince(Instant time);
}
