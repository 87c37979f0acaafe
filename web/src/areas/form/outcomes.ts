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

export const OUTCOMES = Object.keys(OUTCOME_WORDS) as Outcome[];
