package app.uprightwarden.bench;

import app.uprightwarden.core.audit.MeetingFacts;
import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.Scale;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.rulebook.Mode;
import app.uprightwarden.core.rulebook.ResolvedRule;
import app.uprightwarden.core.rulebook.ResolvedRulebook;
import java.util.ArrayList;
import java.util.List;
import org.kie.api.KieBase;
import org.kie.api.io.ResourceType;
import org.kie.api.runtime.StatelessKieSession;
import org.kie.internal.utils.KieHelper;

/**
 * The rule checks {@code beyond-limit}, {@code off-fix} and {@code not-evidenced} on every control
 * of words, and four checks on single meetings, written as rules for Drools: one rule for each path
 * of layers, control and check, generated from the same resolved rulebooks.
 */
public final class RuleEnginePeer {
  /** A meeting as the engine sees it: ranks of words, −1 where not evidenced. */
  public static final class Fact {
    private final int path;
    private final int[] ranks;
    private final boolean hostGone;
    private final boolean endless;
    private final boolean weak;
    private final int minutes;

    Fact(int path, int[] ranks, MeetingFacts meeting) {
      this.path = path;
      this.ranks = ranks;
      hostGone = meeting.hostGone();
      endless = meeting.endless();
      weak =
          meeting.passcode() != null
              && meeting.passcode().weakness() != app.uprightwarden.core.meeting.Weakness.NONE;
      minutes = meeting.minutes();
    }

    public int getPath() {
      return path;
    }

    public int rank(int control) {
      return ranks[control];
    }

    public boolean isHostGone() {
      return hostGone;
    }

    public boolean isEndless() {
      return endless;
    }

    public boolean isWeak() {
      return weak;
    }

    public int getMinutes() {
      return minutes;
    }
  }

  private final KieBase rules;

  RuleEnginePeer(List<ResolvedRulebook> paths) {
    StringBuilder text = new StringBuilder("package peer;\n");
    text.append("import ").append(Fact.class.getCanonicalName()).append(";\n");
    text.append("global java.util.List found;\n");
    for (int path = 0; path < paths.size(); path++) {
      for (ResolvedRule rule : paths.get(path).rules()) {
        if (covers(rule)) {
          append(text, path, rule);
        }
      }
    }
    one(text, "host-gone", "hostGone");
    one(text, "endless-series", "endless");
    one(text, "weak-passcode", "weak");
    one(text, "over-length", "minutes > 240");
    rules = new KieHelper().addContent(text.toString(), ResourceType.DRL).build();
  }

  /** The two controls that go by name compare by whom they reach, which ranks cannot say. */
  static boolean covers(ResolvedRule rule) {
    return rule.governs()
        && rule.control().scale() instanceof Scale.Words
        && rule.control() != Control.LOBBY_BYPASS
        && rule.control() != Control.PRESENTER_ROLE
        && rule.control() != Control.PASSCODE_MAKEUP;
  }

  private static void append(StringBuilder text, int path, ResolvedRule rule) {
    int control = rule.control().ordinal();
    Value limit = rule.limit();
    int bar = limit instanceof Value.Word word ? word.rank() : 0;
    String rank = "rank(" + control + ")";
    boolean neutral = rule.control().isNeutral();
    String beyond = neutral ? rank + " != " + bar : rank + " < " + bar;
    rule(text, path, "beyond-limit", control, rank + " >= 0, " + beyond);
    rule(text, path, "not-evidenced", control, rank + " < 0");
    if (rule.mode() == Mode.FIX && !neutral) {
      rule(text, path, "off-fix", control, rank + " > " + bar);
    }
  }

  private static void rule(
      StringBuilder text, int path, String check, int control, String condition) {
    text.append(
        "rule \"%s %d %d\" when $f : %s(path == %d, %s) then found.add($f); end%n"
            .formatted(check, path, control, Fact.class.getSimpleName(), path, condition));
  }

  private static void one(StringBuilder text, String check, String condition) {
    text.append(
        "rule \"%s\" when $f : %s(%s) then found.add($f); end%n"
            .formatted(check, Fact.class.getSimpleName(), condition));
  }

  static List<Fact> facts(MeetingFacts[] meetings, List<ResolvedRulebook> paths) {
    List<Fact> facts = new ArrayList<>();
    for (MeetingFacts meeting : meetings) {
      int[] ranks = new int[Control.COUNT];
      for (Control control : Control.all()) {
        Value value = meeting.values().get(control);
        ranks[control.ordinal()] = value instanceof Value.Word word ? word.rank() : -1;
      }
      facts.add(new Fact(paths.indexOf(meeting.rules()), ranks, meeting));
    }
    return facts;
  }

  /** How many findings the engine has. */
  int run(List<Fact> facts) {
    List<Object> found = new ArrayList<>();
    StatelessKieSession session = rules.newStatelessKieSession();
    session.setGlobal("found", found);
    session.execute(facts);
    return found.size();
  }
}
