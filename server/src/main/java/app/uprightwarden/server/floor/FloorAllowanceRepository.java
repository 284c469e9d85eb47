package app.uprightwarden.server.floor;

import jakarta.data.repository.Insert;
import jakarta.data.repository.Repository;
import java.util.List;
import org.hibernate.StatelessSession;
import org.hibernate.annotations.processing.HQL;
import org.springframework.transaction.annotation.Transactional;

/** What was allowed beyond rules. */
@Repository
@Transactional
interface FloorAllowanceRepository {
  StatelessSession session();

  @Insert
  void insert(FloorAllowanceEntity allowance);

  @HQL("where session = :session and control = :control order by id")
  List<FloorAllowanceEntity> of(String session, String control);
}
