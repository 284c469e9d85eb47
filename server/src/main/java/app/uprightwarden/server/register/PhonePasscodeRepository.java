package app.uprightwarden.server.register;

import jakarta.data.repository.Find;
import jakarta.data.repository.Repository;
import jakarta.data.repository.Save;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import org.hibernate.LockMode;
import org.hibernate.StatelessSession;
import org.hibernate.annotations.processing.HQL;
import org.springframework.transaction.annotation.Transactional;

/** Passcodes for telephones. */
@Repository
@Transactional
interface PhonePasscodeRepository {
  StatelessSession session();

  @Find
  Optional<PhonePasscodeEntity> find(String meeting);

  @Save
  void save(PhonePasscodeEntity row);

  @HQL("delete from PhonePasscodeEntity where meeting in :meetings")
  int forget(Collection<String> meetings);

  @HQL(
      "select count(*) from PhonePasscodeEntity"
          + " where cast(function('ord', cipher) as Integer) <> :key")
  long countSealedWithAnother(int key);

  @HQL(
      "select meeting from PhonePasscodeEntity"
          + " where cast(function('ord', cipher) as Integer) <> :key order by meeting limit :most")
  List<String> sealedWithAnother(int key, int most);

  /** Those of these rows that are so still and that nobody else has in hand. */
  default List<PhonePasscodeEntity> lockedSealedWithAnother(Collection<String> ids, int key) {
    return session()
        .createSelectionQuery(
            "from PhonePasscodeEntity where meeting in :ids"
                + " and cast(function('ord', cipher) as Integer) <> :key",
            PhonePasscodeEntity.class)
        .setParameterList("ids", ids)
        .setParameter("key", key)
        .setHibernateLockMode(LockMode.UPGRADE_SKIPLOCKED)
        .getResultList();
  }
}
