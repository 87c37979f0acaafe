// A rule while it is being written. Shapes only: what it means is asked of the server.
import type { Schemas } from "../../api/client";
import { MOMENTS, SEVERITIES } from "../../api/lists";
import { words } from "../../words";

const t = words("form");

export type Rule = Schemas["RuleView"]["rule"];
export type RuleView = Schemas["RuleView"];
export type Kind = Rule["kind"];
export type RuleOf<K extends Kind> = Extract<Rule, { kind: K }>;
/** The rules that say something at the three moments. */
export type CheckRule = Extract<Rule, { severity: unknown }>;
export type Clause = Schemas["Clause"];
export type ClauseGroup = Schemas["ClauseGroup"];
export type Operand = NonNullable<Clause["operand"]>;
export type FieldView = Schemas["FieldView"];
export type Subject = FieldView["subjects"][number];
export type Severity = Schemas["Severities"]["save"];
export type Moment = (typeof MOMENTS)[number];
/** The formulas of a rule that clauses can stand for. */
export type Place = "when" | "must" | "no_other" | "until";

/** The rule, and the formulas that are written as clauses: those count instead. */
export type RuleDraft = { rule: Rule; clauses: Partial<Record<Place, ClauseGroup>> };

export { MOMENTS };
export const MOMENT_WORDS: Record<Moment, string> = {
  entry: t("typing"),
  save: t("saving"),
  submit: t("submitting"),
};

export const LADDER: readonly Severity[] = SEVERITIES;

export function isCheck(rule: Rule): rule is CheckRule {
  return "severity" in rule;
}

/** The severities a moment can have: nothing is ever blocked while typing. */
export function ladder(moment: Moment): readonly Severity[] {
  return moment === "entry" ? LADDER.slice(0, 3) : LADDER;
}

/** One step harder (or milder with -1); from the end it goes round. */
export function step(severity: Severity, moment: Moment, by: 1 | -1): Severity {
  const rungs = ladder(moment);
  const next = (rungs.indexOf(severity) + by + rungs.length) % rungs.length;
  return rungs[next] ?? "none";
}

/** What is sent to the server to be read. */
export function ruleInputOf(draft: RuleDraft): Schemas["RuleEntry"] {
  return { rule: draft.rule, clauses: draft.clauses };
}
