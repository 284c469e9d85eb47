package app.uprightwarden.server.people;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import org.jspecify.annotations.Nullable;

/** The one row of settings. */
@Entity
@Table(name = "house")
class SettingsEntity {
  @Id int id;

  long directoryRevision;

  boolean needsConsent;

  @Nullable String consentOffBy;

  boolean waiversByTwo;

  @Nullable String oneWaiverBy;

  int remindDays;

  int applyAfterDays;

  int auditedEdition;

  String setBack = "sealed";

  int unitWaiverSeverity;

  int announceMost;
}
