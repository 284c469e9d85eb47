package app.uprightwarden.server.access;

import java.util.List;
import java.util.Optional;
import org.springframework.data.jpa.repository.JpaRepository;

interface AccessTokenRepository extends JpaRepository<AccessTokenEntity, Long> {
  Optional<AccessTokenEntity> findByTokenHash(String tokenHash);

  List<AccessTokenEntity> findTop500ByOrderByIdDesc();

  List<AccessTokenEntity> findByActsAsAndEndedAtIsNull(String actsAs);
}
