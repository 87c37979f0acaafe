// The outcomes of a moment, in words and as levels.
import type { Schemas } from "../../api/client";
import type { Level } from "../../ui/facet";

export type Outcome = Schemas["VerdictView"]["outcome"];

export const OUTCOME_WORDS: Record<Outcome, string> = {
  clear: "Clear",
  noted: "Noted",
  warned: "Warned",
  blocked: "Blocked",
};
export const OUTCOME_LEVEL: Record<Outcome, Level> = {
  clear: "clear",
  noted: "note",
  warned: "warn",
  blocked: "block",
};
type Status = Schemas["RuleResult"]["status"];

/** How a rule stands, in the same words on every screen. */
export const STATUS_WORDS: Record<Status, string> = {
  unfinished: "unfinished",
  off: "switched off",
  out_of_scope: "does not count here",
  target_not_in_play: "not asked",
  silent: "says nothing",
  does_not_apply: "does not apply",
  nothing_to_judge: "nothing to judge",
  broken: "broken",
  kept: "met",
};

export const OUTCOMES = Object.keys(OUTCOME_WORDS) as Outcome[];
