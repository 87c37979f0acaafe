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
export const OUTCOMES = Object.keys(OUTCOME_WORDS) as Outcome[];
