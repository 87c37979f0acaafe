// A rule while it is being written. Shapes only: what it means is asked of the server.
import type { Schemas } from "../../api/client";

export type AnyRule = Schemas["RuleView"]["rule"];
/** The rules that say something at the three moments. */
export type CheckRule = Extract<AnyRule, { severity: unknown }>;
export type Kind = "mandatory" | "range" | "allowed_values" | "format" | "cross_field";
/** The rules whose sentence can be written part by part. */
export type Rule = Extract<AnyRule, { kind: Kind }>;
export type Clause = Schemas["Clause"];
export type ClauseGroup = Schemas["ClauseGroup"];
export type Operand = NonNullable<Clause["operand"]>;
export type FieldView = Schemas["FieldView"];
export type Severity = Schemas["Severities"]["save"];
export type Moment = "entry" | "save" | "submit";
type Part = ClauseGroup["parts"][number];

export type RuleDraft = { rule: Rule; when: ClauseGroup | null; must: ClauseGroup | null };

export const MOMENTS: Moment[] = ["entry", "save", "submit"];
export const MOMENT_WORDS: Record<Moment, string> = {
  entry: "Typing",
  save: "Saving",
  submit: "Submitting",
};

const LADDER: Severity[] = ["off", "note", "warn", "block"];

const WRITTEN: string[] = ["mandatory", "range", "allowed_values", "format", "cross_field"];

export function isCheck(rule: AnyRule): rule is CheckRule {
  return "severity" in rule;
}

/** Whether every part of the rule has a place in the sentence. */
export function isWritten(rule: AnyRule): rule is Rule {
  if (!WRITTEN.includes(rule.kind)) return false;
  if (rule.kind === "range" && rule.of !== "value") return false;
  return rule.kind !== "allowed_values" || !rule.governor;
}

/** How hard a rule speaks at a moment; an effect never does. */
export function severityOf(rule: AnyRule, moment: Moment): Severity {
  return isCheck(rule) ? rule.severity[moment] : "off";
}

/** The severities a moment can have: nothing is ever blocked while typing. */
export function ladder(moment: Moment): Severity[] {
  return moment === "entry" ? LADDER.slice(0, 3) : LADDER;
}

/** One step harder (or milder with -1); from the end it goes round. */
export function step(severity: Severity, moment: Moment, by: 1 | -1): Severity {
  const rungs = ladder(moment);
  const next = (rungs.indexOf(severity) + by + rungs.length) % rungs.length;
  return rungs[next] ?? "off";
}

export function blankClause(field: FieldView): Clause {
  const offer = field.operators[0];
  return {
    kind: "clause",
    field: field.field.key,
    operator: offer?.operator ?? "is",
    operand: blankOperand(offer?.operand ?? "one"),
  };
}

export function blankOperand(kind: "none" | "one" | "several"): Operand | null {
  if (kind === "none") return null;
  return kind === "one" ? { kind: "value", value: "" } : { kind: "values", values: [] };
}

export function group(join: "and" | "or", parts: Part[]): ClauseGroup {
  return { kind: "group", join, parts };
}

/** The group with one part replaced, or taken out where `next` is null; null when none is left. */
export function withPart(whole: ClauseGroup, index: number, next: Part | null): ClauseGroup | null {
  const parts = whole.parts.flatMap((part, position) =>
    position === index ? (next ? [next] : []) : [part],
  );
  return parts.length > 0 ? { ...whole, parts } : null;
}

/** The group with a clause joined to one of its parts: beside it, or in a group of their own. */
export function joined(
  whole: ClauseGroup,
  index: number,
  join: "and" | "or",
  added: Clause,
): ClauseGroup {
  if (whole.join === join || whole.parts.length === 1) {
    const parts = [...whole.parts.slice(0, index + 1), added, ...whole.parts.slice(index + 1)];
    return { ...whole, join, parts };
  }
  const part = whole.parts[index];
  if (!part) return whole;
  return withPart(whole, index, group(join, [part, added])) ?? whole;
}

const SHARED = {
  name: "",
  why: "",
  message: null,
  placement: "field",
  on: true,
  when: null,
  in_force_from: null,
  in_force_to: null,
  changed_fields: [] as string[],
  hold: false,
  reason_demanded: false,
  acknowledged: "",
} as const;

const COUNTS_FOR_ALL: Rule["scope"] = {
  events: [],
  entry_points: [],
  layouts: [],
  roles: [],
  derived_forms: false,
};

export function newRule(target: string): RuleDraft {
  const severity = { entry: "off", save: "warn", submit: "block" } as const;
  const rule: Rule = {
    ...SHARED,
    changed_fields: [],
    kind: "mandatory",
    key: "new",
    targets: [target],
    severity,
    scope: COUNTS_FOR_ALL,
  };
  return { rule, when: null, must: null };
}

/** What rules of every kind that checks have in common. */
function shared(rule: Rule) {
  const { key, name, why, targets, when, severity, message, placement } = rule;
  const { on, scope, in_force_from, in_force_to, changed_fields } = rule;
  const { hold, reason_demanded, acknowledged } = rule;
  return {
    ...{ key, name, why, targets, when, severity, message, placement },
    ...{ on, scope, in_force_from, in_force_to, changed_fields },
    ...{ hold, reason_demanded, acknowledged },
  };
}

/** The same rule demanding something else of its targets. */
export function withKind(draft: RuleDraft, kind: Kind, fields: FieldView[]): RuleDraft {
  const base = shared(draft.rule);
  switch (kind) {
    case "mandatory":
      return { ...draft, rule: { ...base, kind }, must: null };
    case "range":
      return {
        ...draft,
        rule: { ...base, kind, of: "value", lower: { value: "", inclusive: true }, upper: null },
        must: null,
      };
    case "allowed_values":
      return {
        ...draft,
        rule: { ...base, kind, values: [], ignore_case: false, governor: null, rows: [] },
        must: null,
      };
    case "format":
      return {
        ...draft,
        rule: { ...base, kind, format: null, country: null, pattern: null, described: "" },
        must: null,
      };
    case "cross_field": {
      const target = fields.find((one) => one.field.key === base.targets[0]);
      const clause = target && blankClause(target);
      const must = clause ? group("and", [clause]) : null;
      return { ...draft, rule: { ...base, kind, must: "" }, must };
    }
  }
}

/** What is sent to the server to be read or stored. */
export function entryOf(draft: RuleDraft): Schemas["RuleEntry"] {
  return { rule: draft.rule, when_clauses: draft.when, must_clauses: draft.must };
}
