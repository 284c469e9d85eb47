package app.uprightwarden.server.services;

import jakarta.data.repository.Insert;
import jakarta.data.repository.Repository;
import jakarta.data.repository.Update;
import java.util.Collection;
import java.util.List;
import org.hibernate.LockMode;
import org.hibernate.StatelessSession;
import org.hibernate.annotations.processing.HQL;
import org.jspecify.annotations.Nullable;
import org.springframework.transaction.annotation.Transactional;

/** Who asked to take part in meetings. */
@Repository
@Transactional
interface RegistrationRepository {
  StatelessSession session();

  @Insert
  void insert(List<RegistrationEntity> rows);

  @Update
  void update(List<RegistrationEntity> rows);

  @HQL("from RegistrationEntity where meeting = :meeting order by askedAt, id")
  List<RegistrationEntity> of(String meeting);

  /** Locked until the transaction ends. */
  default List<RegistrationEntity> locked(Collection<String> meetings) {
    return session()
        .createSelectionQuery(
            "from RegistrationEntity where meeting in :meetings order by id",
            RegistrationEntity.class)
        .setParameterList("meetings", meetings)
        .setHibernateLockMode(LockMode.PESSIMISTIC_WRITE)
        .getResultList();
  }

  @HQL(
      "from RegistrationEntity where service = :service and wanted is not null"
          + " order by decidedAt, id limit :most")
  List<RegistrationEntity> toTell(long service, int most);

  @HQL(
      "update RegistrationEntity set wanted = null, state = :state, why = :why where id = :id"
          + " and command = :command")
  int told(long id, String command, String state, @Nullable String why);

  @HQL("delete from RegistrationEntity where meeting = :meeting and address in :gone")
  int forget(String meeting, Collection<String> gone);
}
