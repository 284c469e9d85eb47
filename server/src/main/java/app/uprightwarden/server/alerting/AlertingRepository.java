package app.uprightwarden.server.alerting;

import jakarta.data.repository.Find;
import jakarta.data.repository.Insert;
import jakarta.data.repository.Repository;
import jakarta.data.repository.Update;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.hibernate.LockMode;
import org.hibernate.StatelessSession;
import org.hibernate.annotations.processing.HQL;
import org.jspecify.annotations.Nullable;
import org.springframework.transaction.annotation.Transactional;

/** Whom alerts reach, and what was told. */
@Repository
@Transactional
interface AlertingRepository {
  StatelessSession session();

  @Find
  Optional<AlertSettingEntity> setting(int id);

  /** The settings, locked: who tells of alerts does so one after the other. */
  default @Nullable AlertSettingEntity locked() {
    return session()
        .get(AlertSettingEntity.class, AlertSettingEntity.ONE, LockMode.PESSIMISTIC_WRITE);
  }

  @Insert
  void insert(AlertSettingEntity setting);

  @Update
  void update(AlertSettingEntity setting);

  @HQL("where session = :session")
  List<AlertToldEntity> told(String session);

  @HQL("where nextAt <= :now order by nextAt limit 500")
  List<AlertToldEntity> due(Instant now);

  @Insert
  void insert(AlertToldEntity told);

  @Update
  void update(AlertToldEntity told);

  @HQL("delete from AlertToldEntity where toldAt < :before")
  int deleteTold(Instant before);

  @Insert
  void insert(AlertDeliveryEntity delivery);

  @Update
  void update(AlertDeliveryEntity delivery);

  @Find
  Optional<AlertDeliveryEntity> delivery(long id);

  @HQL("from AlertDeliveryEntity order by id desc limit :most")
  List<AlertDeliveryEntity> newest(int most);

  @HQL("delete from AlertDeliveryEntity where state <> 'waiting' and madeAt < :before")
  int deleteDeliveries(Instant before);
}
