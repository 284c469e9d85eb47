package app.uprightwarden.server.retention;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/** How long things of one sort are kept. */
@Entity
@Table(name = "keeping_rule")
class RetentionRuleEntity {
  @Id String what = "";

  @Nullable Integer days;

  @Nullable Instant ranAt;

  long forgot;
}
