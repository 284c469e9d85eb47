package app.uprightwarden.server.rulebook;

import org.springframework.data.jpa.repository.JpaRepository;

interface DraftRepository extends JpaRepository<DraftEntity, String> {}
