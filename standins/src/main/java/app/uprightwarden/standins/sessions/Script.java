package app.uprightwarden.standins.sessions;

import app.uprightwarden.core.session.SessionPlan;
import app.uprightwarden.core.session.SessionPlan.Comer;
import app.uprightwarden.standins.sessions.Step.Deed;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.jspecify.annotations.Nullable;

/** Who comes to a session when, and what they do there. The same seed writes the same script. */
final class Script {
  private static final List<String> STRANGERS =
      List.of(
          "Rob",
          "iPhone",
          "Visitor",
          "ccc",
          "Press desk",
          "Galaxy A14",
          "J.",
          "Harbour fan",
          "user 88",
          "Anna K");

  /** So many of those expected come to a practice; a list may have thousands. */
  static final int MAX_COMING = 300;

  private final SessionPlan plan;
  private final Random random;
  private final Map<String, Comer> cast = new LinkedHashMap<>();
  private final List<Step> steps = new ArrayList<>();

  private Script(SessionPlan plan) {
    this.plan = plan;
    this.random = new Random(plan.practice().seed());
    plan.roster().forEach(comer -> cast.put(comer.who(), comer));
  }

  /** The script a plan asks for; one that is not known is the usual one. */
  static Script of(SessionPlan plan) {
    Script script = new Script(plan);
    if (plan.practice().script().equals("crowd")) {
      script.crowd();
    } else {
      script.usual();
      boolean storm = plan.practice().script().equals("storm");
      if (storm || plan.practice().script().equals("strangers")) {
        script.strangers(storm);
        script.behindOurBack();
      }
      script.steps.add(new Step(plan.end().plusSeconds(60), Deed.END, "", ""));
    }
    return script;
  }

  Map<String, Comer> cast() {
    return cast;
  }

  List<Step> steps() {
    return steps;
  }

  private void does(int secondsFromStart, Deed deed, String who, String detail) {
    steps.add(new Step(plan.start().plusSeconds(secondsFromStart), deed, who, detail));
  }

  private void usual() {
    String first = null;
    String presenter = null;
    for (Comer comer : plan.roster().subList(0, Math.min(plan.roster().size(), MAX_COMING))) {
      int comes =
          switch (comer.tie()) {
            case "host" -> -120;
            case "co-host" -> -60 + random.nextInt(120);
            default -> -280 + random.nextInt(600);
          };
      does(comes, Deed.ARRIVE, comer.who(), "");
      if (comer.tie().equals("host")) {
        first = comer.who();
      } else if (presenter == null) {
        presenter = comer.who();
      }
      if (random.nextInt(4) == 0) {
        does(Math.max(comes, 0) + 60 + random.nextInt(240), Deed.CHAT, comer.who(), "");
      }
    }
    host(first);
    if (presenter != null) {
      does(420, Deed.SHARE, presenter, "");
      does(900, Deed.STOP_SHARE, presenter, "");
    }
  }

  private void host(@Nullable String host) {
    if (host != null) {
      long length = Duration.between(plan.start(), plan.end()).toSeconds();
      for (int at = -90; at < Math.min(length, 1800); at += 45) {
        does(at, Deed.LET_IN_EXPECTED, host, "");
      }
      does(30, Deed.RECORD, host, "");
    }
  }

  private void strangers(boolean storm) {
    int many = Math.max(storm ? 40 : 3, plan.practice().strangers());
    for (int i = 0; i < many; i++) {
      int comes = storm ? 20 + random.nextInt(60) : i == 0 ? -200 : 90 + random.nextInt(600);
      String who = stranger(i, comes);
      if (i % 3 == 0) {
        does(comes + 50, Deed.SHARE, who, "");
      }
      if (i % 5 == 1) {
        does(comes + 40, Deed.RENAME, who, "Host");
      }
      if (i % 7 == 2) {
        does(comes + 70, Deed.RECORD, who, "");
      }
    }
  }

  /** As happens: the host loosens something while it runs. */
  private void behindOurBack() {
    plan.roster().stream()
        .filter(comer -> comer.tie().equals("host"))
        .findFirst()
        .ifPresent(host -> does(300, Deed.SET, host.who(), "screen-share=everyone"));
  }

  /** Of several sorts; most have found the link. */
  private String stranger(int i, int comes) {
    String who = "s-" + (i + 1);
    boolean phone = i % 6 == 4;
    boolean forwarded = i % 6 == 3;
    String name = STRANGERS.get(i % STRANGERS.size());
    cast.put(
        who,
        new Comer(
            who,
            phone ? "Caller " + (100 + random.nextInt(900)) : name,
            forwarded ? "visitor" + i + "@elsewhere.example" : null,
            forwarded ? "outsider" : "unknown",
            forwarded ? "forwarded" : "none",
            phone ? "phone" : "app",
            null,
            i % 6 != 5,
            false,
            false));
    does(comes, Deed.ARRIVE, who, "");
    return who;
  }

  /**
   * As many as are asked for, evenly over a minute from when the clock starts; half leave again.
   */
  private void crowd() {
    Instant from = plan.from();
    int many = plan.practice().strangers();
    plan.roster().forEach(c -> steps.add(new Step(from, Deed.ARRIVE, c.who(), "")));
    for (int i = 0; i < many; i++) {
      String who = "c-" + (i + 1);
      boolean invited = i % 10 != 9;
      cast.put(
          who,
          new Comer(
              who,
              "Comer " + (i + 1),
              null,
              invited ? "member" : "unknown",
              invited ? "named" : "none",
              "app",
              null,
              true,
              false,
              false));
      Instant comes = from.plusMillis(1000 + 60_000L * i / Math.max(1, many));
      steps.add(new Step(comes, Deed.ARRIVE, who, ""));
      if (i % 2 == 0) {
        steps.add(new Step(comes.plusMillis(20_000), Deed.LEAVE, who, ""));
      }
    }
  }
}
