package app.uprightwarden.server.people;

import jakarta.data.repository.Repository;
import org.hibernate.annotations.processing.HQL;
import org.jspecify.annotations.Nullable;
import org.springframework.transaction.annotation.Transactional;

/** The one row of settings. */
@Repository
@Transactional
interface SettingsRepository {
  @HQL("from SettingsEntity")
  SettingsEntity row();

  @HQL("select directoryRevision from SettingsEntity")
  long directoryRevision();

  @HQL("update SettingsEntity set directoryRevision = directoryRevision + 1")
  int directoryChanged();

  @HQL("update SettingsEntity set needsConsent = :needed, consentOffBy = :offBy")
  int setConsent(boolean needed, @Nullable String offBy);

  @HQL("update SettingsEntity set waiversByTwo = :byTwo, oneWaiverBy = :oneBy")
  int setWaivers(boolean byTwo, @Nullable String oneBy);

  @HQL("update SettingsEntity set remindDays = :days")
  int setRemindDays(int days);

  @HQL("update SettingsEntity set applyAfterDays = :days")
  int setApplyAfterDays(int days);

  @HQL("update SettingsEntity set announceMost = :people")
  int setAnnounceMost(int people);

  @HQL("update SettingsEntity set unitWaiverSeverity = :severity")
  int setUnitWaiverSeverity(int severity);

  @HQL("update SettingsEntity set setBack = :which")
  int setSetBack(String which);

  @HQL("update SettingsEntity set auditedEdition = :edition where auditedEdition < :edition")
  int setAudited(int edition);
}
