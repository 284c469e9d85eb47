package app.uprightwarden.server.rulebook;

import java.util.List;
import java.util.Optional;
import org.springframework.data.jpa.repository.JpaRepository;

interface EditionRepository extends JpaRepository<EditionEntity, Integer> {
  Optional<EditionEntity> findFirstByOrderByNumberDesc();

  List<EditionEntity> findAllByOrderByNumberDesc();
}
