package app.uprightwarden.server.keeping;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/** How long things of one sort are kept. */
@Entity
@Table(name = "keeping_rule")
class KeepingRuleEntity {
  @Id String what = "";

  @Nullable Integer days;

  @Nullable Instant ranAt;

  long forgot;
}
