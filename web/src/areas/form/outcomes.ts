// The outcomes of a moment, in words and as levels.
import type { Schemas } from "../../api/client";
import { OUTCOMES, SEVERITIES } from "../../api/lists";
import type { Level } from "../../ui/facet";
import { words } from "../../words";

const t = words("form");

export type Outcome = Schemas["VerdictView"]["outcome"];

export const OUTCOME_WORDS: Record<Outcome, string> = {
  clear: t("clear"),
  noted: t("noted"),
  warned: t("warned"),
  blocked: t("blocked"),
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
  unfinished: t("unfinished"),
  disabled: t("switched_off"),
  out_of_scope: t("is_out_of_scope"),
  not_relevant: t("not_asked"),
  silent: t("says_nothing"),
  not_applicable: t("does_not_apply"),
  not_evaluable: t("nothing_to_check"),
  violated: t("violated"),
  satisfied: t("met"),
};
