package app.uprightwarden.server.people;

import jakarta.data.repository.Repository;
import org.hibernate.annotations.processing.HQL;
import org.jspecify.annotations.Nullable;
import org.springframework.transaction.annotation.Transactional;

/** The one row of settings. */
@Repository
@Transactional
interface HouseRepository {
  @HQL("from HouseEntity")
  HouseEntity house();

  @HQL("select directoryRevision from HouseEntity")
  long directoryRevision();

  @HQL("update HouseEntity set directoryRevision = directoryRevision + 1")
  int directoryChanged();

  @HQL("update HouseEntity set needsConsent = :needed, consentOffBy = :offBy")
  int setConsent(boolean needed, @Nullable String offBy);

  @HQL("update HouseEntity set waiversByTwo = :byTwo, oneWaiverBy = :oneBy")
  int setWaivers(boolean byTwo, @Nullable String oneBy);

  @HQL("update HouseEntity set remindDays = :remind, applyAfterDays = :apply")
  int setAsking(int remind, int apply);

  @HQL("update HouseEntity set auditedEdition = :edition where auditedEdition < :edition")
  int setAudited(int edition);
}
