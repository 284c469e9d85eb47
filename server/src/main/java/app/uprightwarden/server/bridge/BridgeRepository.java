package app.uprightwarden.server.bridge;

import jakarta.data.repository.Insert;
import jakarta.data.repository.Repository;
import jakarta.data.repository.Save;
import jakarta.data.repository.Update;
import java.util.List;
import java.util.Optional;
import org.hibernate.LockMode;
import org.hibernate.StatelessSession;
import org.hibernate.annotations.processing.HQL;
import org.springframework.transaction.annotation.Transactional;

/** The stand-in's own memory. */
@Repository
@Transactional
interface BridgeRepository {
  StatelessSession session();

  @HQL("from BridgeStateEntity")
  BridgeStateEntity state();

  @Update
  void update(BridgeStateEntity state);

  default Optional<BridgeCommandEntity> lockedCommand(String id) {
    return Optional.ofNullable(
        session().get(BridgeCommandEntity.class, id, LockMode.PESSIMISTIC_WRITE));
  }

  @Insert
  void insert(BridgeCommandEntity command);

  @Save
  void save(BridgeSettingEntity setting);

  @HQL(
      "delete from BridgeSettingEntity where meeting = :meeting and occurrence = :occurrence"
          + " and control = :control")
  int delete(String meeting, String occurrence, String control);

  @HQL("from BridgeSettingEntity where meeting = :meeting and occurrence = ''")
  List<BridgeSettingEntity> settings(String meeting);
}
