package app.uprightwarden.server.access;

import java.util.List;
import java.util.Optional;
import org.springframework.data.jpa.repository.JpaRepository;

interface AccountRepository extends JpaRepository<AccountEntity, Long> {
  Optional<AccountEntity> findByEmail(String email);

  Optional<AccountEntity> findByProviderSubject(String subject);

  List<AccountEntity> findByRoleAndActiveTrueOrderByEmail(String role);

  List<AccountEntity> findAllByOrderByEmail();
}
