package app.uprightwarden.server.people;

import java.util.List;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.NativeQuery;

interface PersonRepository extends JpaRepository<PersonEntity, String> {
  /** In the order in which they came, so that an export gives back what an import took. */
  @NativeQuery("select * from person order by position")
  List<PersonEntity> inOrder();
}
