package app.uprightwarden.core.audit.check;

import app.uprightwarden.core.audit.Check;
import app.uprightwarden.core.audit.Detail;
import app.uprightwarden.core.audit.MeetingFacts;
import app.uprightwarden.core.audit.Register;
import app.uprightwarden.core.audit.RegisterCheck;
import com.google.auto.service.AutoService;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.BiConsumer;

/** Two or more meetings share a passcode. */
@AutoService(Check.class)
public final class ReusedPasscode implements RegisterCheck {
  @Override
  public String id() {
    return "reused-passcode";
  }

  @Override
  public String summary() {
    return "Two or more meetings share a passcode.";
  }

  @Override
  public String why() {
    return "Whoever was let into one can come into the others.";
  }

  @Override
  public String mend() {
    return "Give each meeting a passcode of its own.";
  }

  @Override
  public int baseSeverity() {
    return 2;
  }

  @Override
  public void check(Register register, BiConsumer<MeetingFacts, Detail> found) {
    Map<String, List<MeetingFacts>> sharing = new LinkedHashMap<>();
    for (MeetingFacts meeting : register.meetings()) {
      if (meeting.passcode() != null) {
        sharing
            .computeIfAbsent(meeting.passcode().fingerprint(), key -> new ArrayList<>())
            .add(meeting);
      }
    }
    for (List<MeetingFacts> group : sharing.values()) {
      if (group.size() > 1) {
        group.forEach(meeting -> found.accept(meeting, Detail.of(this, group.size(), 1)));
      }
    }
  }

  @Override
  public String text(Detail detail) {
    return detail.value() + " meetings share this passcode.";
  }
}
