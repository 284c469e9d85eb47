package app.uprightwarden.server.register;

import java.util.Optional;
import org.springframework.data.jpa.repository.JpaRepository;

interface MeetingRepository extends JpaRepository<MeetingEntity, Long> {
  Optional<MeetingEntity> findByPublicId(String publicId);
}
