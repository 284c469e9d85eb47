package app.uprightwarden.core.audit;

/**
 * A check on rules and the values of controls alone: equal values under equal rules give equal
 * findings, so that they are judged once however many meetings share them. It looks at one rule or
 * one guarantee at a time, so that a rulebook in which one rule was moved is judged by that rule.
 */
public sealed interface RuleCheck extends Check permits ControlCheck, GuaranteeCheck, ValuesCheck {}
