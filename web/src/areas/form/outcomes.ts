// The outcomes of a moment, in words and as levels.
import type { Schemas } from "../../api/client";
import { OUTCOMES, SEVERITIES } from "../../api/lists";
import type { Level } from "../../ui/facet";

export type Outcome = Schemas["VerdictView"]["outcome"];

export const OUTCOME_WORDS: Record<Outcome, string> = {
  clear: "Clear",
  noted: "Noted",
  warned: "Warned",
  blocked: "Blocked",
};
/** The hardest severity that an outcome comes from; a clear one has a level of its own. */
export function levelOf(outcome: Outcome): Exclude<Level, "hold" | "proposal"> {
  const severity = SEVERITIES[OUTCOMES.indexOf(outcome)] ?? "none";
  return severity === "none" ? "clear" : severity;
}
/** The outcome of a moment at which a rule of this severity is violated. */
export const outcomeOf = (severity: Severity) => OUTCOMES[SEVERITIES.indexOf(severity)] ?? "clear";
type Severity = (typeof SEVERITIES)[number];
type Status = Schemas["RuleResultView"]["status"];

/** How a rule stands, in the same words on every screen. */
export const STATUS_WORDS: Record<Status, string> = {
  unfinished: "unfinished",
  disabled: "switched off",
  out_of_scope: "is out of scope",
  not_relevant: "not asked",
  silent: "says nothing",
  not_applicable: "does not apply",
  not_evaluable: "nothing to check",
  violated: "violated",
  satisfied: "met",
};
