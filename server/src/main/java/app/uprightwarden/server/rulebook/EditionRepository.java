package app.uprightwarden.server.rulebook;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.springframework.data.jpa.repository.JpaRepository;

interface EditionRepository extends JpaRepository<EditionEntity, Integer> {
  Optional<EditionEntity> findFirstByOrderByNumberDesc();

  Optional<EditionEntity> findFirstByWithdrawnAtIsNullOrderByNumberDesc();

  Optional<EditionEntity> findFirstByWithdrawnAtIsNullAndEffectiveAtLessThanEqualOrderByNumberDesc(
      Instant now);

  List<EditionEntity> findAllByOrderByNumberDesc();
}
