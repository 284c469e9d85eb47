package app.uprightwarden.server.services;

import jakarta.data.repository.Find;
import jakarta.data.repository.Insert;
import jakarta.data.repository.Repository;
import jakarta.data.repository.Update;
import java.util.List;
import java.util.Optional;
import org.hibernate.LockMode;
import org.hibernate.StatelessSession;
import org.hibernate.annotations.processing.HQL;
import org.springframework.transaction.annotation.Transactional;

/** The services that are linked. */
@Repository
@Transactional
interface ServiceRepository {
  StatelessSession session();

  @Insert
  void insert(ServiceEntity service);

  @Update
  void update(ServiceEntity service);

  @Find
  Optional<ServiceEntity> find(long id);

  default Optional<ServiceEntity> locked(long id) {
    return Optional.ofNullable(session().get(ServiceEntity.class, id, LockMode.PESSIMISTIC_WRITE));
  }

  @HQL("from ServiceEntity order by name, id")
  List<ServiceEntity> all();

  @HQL("from ServiceHomeEntity order by unit")
  List<ServiceHomeEntity> homes();

  @Insert
  void insert(ServiceHomeEntity home);

  @HQL("delete from ServiceHomeEntity where service = :service")
  int deleteHomes(long service);

  @HQL("delete from ServiceHomeEntity where unit in :units")
  int deleteHomes(List<String> units);

  @HQL("where secretCipher is not null order by id")
  List<ServiceEntity> withSecrets();
}
