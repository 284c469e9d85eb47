package app.uprightwarden.core.audit;

/**
 * One thing an audit looks for. A check declares all there is to say about it; a new one is one new
 * class with {@code @AutoService(Check.class)}, found by being there.
 */
public sealed interface Check permits RuleCheck, MeetingCheck, HeldCheck, RegisterCheck {
  /** The name in files and addresses, stable for ever. */
  String id();

  /** What people call it: a few words. */
  String title();

  /** What it fires on, in one line. */
  String summary();

  /** Why that matters. */
  String why();

  /** How to mend it. */
  String mend();

  /** 1 to 5, or 0 where the importance of the rule or guarantee is the base. */
  int baseSeverity();

  /** What was found, in words a host understands. */
  String text(FindingArguments found);
}
