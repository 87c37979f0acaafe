// A rule while it is being written. Shapes only: what it means is asked of the server.
import type { Schemas } from "../../api/client";

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
export type Moment = "entry" | "save" | "submit";
/** The formulas of a rule that clauses can stand for. */
export type Place = "when" | "must" | "no_other" | "until";
type Part = ClauseGroup["parts"][number];

/** The rule, and the formulas that are written as clauses: those count instead. */
export type RuleDraft = { rule: Rule; clauses: Partial<Record<Place, ClauseGroup>> };

export const MOMENTS: Moment[] = ["entry", "save", "submit"];
export const MOMENT_WORDS: Record<Moment, string> = {
  entry: "Typing",
  save: "Saving",
  submit: "Submitting",
};

export const LADDER: Severity[] = ["off", "note", "warn", "block"];

export function isCheck(rule: Rule): rule is CheckRule {
  return "severity" in rule;
}

/** How hard a rule speaks at a moment; an effect never does, and a hold settles two of them. */
export function severityOf(rule: Rule, moment: Moment): Severity {
  if (!isCheck(rule)) return "off";
  if (rule.hold && moment !== "entry") return moment === "save" ? "warn" : "block";
  return rule.severity[moment];
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

/** A clause to begin with: the field itself, or in another record, compared with nothing yet. */
export function blankClause(field: FieldView, part: "value" | "other" = "value"): Clause {
  const offer = field.subjects[0]?.operators[0];
  return {
    kind: "clause",
    field: field.field.key,
    part,
    operator: offer?.operator ?? "is",
    operand: blankOperand(offer?.operand ?? "one"),
  };
}

export function blankOperand(kind: "none" | "one" | "several" | "between"): Operand | null {
  switch (kind) {
    case "none":
      return null;
    case "one":
      return { kind: "value", value: "" };
    case "several":
      return { kind: "values", values: [] };
    case "between":
      return { kind: "between", low: "", high: "", low_included: true, high_included: true };
  }
}

/** The field that most likely governs others: that with answers which stands right ahead of them. */
export function governorOf(fields: readonly FieldView[], targets: readonly string[]) {
  const at = fields.findIndex(({ field }) => field.key === targets[0]);
  const ahead = fields.slice(0, Math.max(at, 0)).filter(({ subjects }) => subjects[0]?.answers);
  return ahead.at(-1) ?? fields.find(({ field }) => !targets.includes(field.key)) ?? fields[0];
}

/** The part of a field that a clause speaks of; another record's is offered as the value is. */
export function subjectOf(field: FieldView | undefined, part: string): Subject | undefined {
  const wanted = part === "other" ? "value" : part;
  return field?.subjects.find((one) => one.part === wanted);
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

/** The draft with the clauses of one formula replaced; null: it has none any more. */
export function withClauses(draft: RuleDraft, place: Place, next: ClauseGroup | null): RuleDraft {
  const { [place]: _, ...others } = draft.clauses;
  return next
    ? { ...draft, clauses: { ...others, [place]: next } }
    : { rule: { ...draft.rule, [place]: null } as Rule, clauses: others };
}

/** The formula in the place of its clauses. */
export function withFormula(draft: RuleDraft, place: Place, formula: string): RuleDraft {
  const { [place]: _, ...clauses } = draft.clauses;
  return { rule: { ...draft.rule, [place]: formula } as Rule, clauses };
}

/** The formula of a place as it stands in the rule; null where the rule has none. */
export function formulaOf(rule: Rule, place: Place): string | null {
  const formula = (rule as Partial<Record<Place, string | null>>)[place];
  return formula ?? null;
}

const SCOPE: Rule["scope"] = {
  events: [],
  entry_points: [],
  layouts: [],
  roles: [],
  derived_forms: false,
};

/** What rules of every kind have in common. */
function shared({ key, name, why, targets, when, scope, ...rule }: Rule) {
  const { in_force_from, in_force_to, changed_fields, on } = rule;
  return {
    ...{ key, name, why, targets, when, scope },
    ...{ in_force_from, in_force_to, changed_fields, on },
  };
}

const SPEAKING = {
  severity: { entry: "off", save: "warn", submit: "block" },
  hold: false,
  reason_demanded: false,
  message: null,
  placement: "field",
  acknowledged: "",
} as const;

/** What rules that check have in common; where the rule had none of it, as one begins. */
function speaking(rule: Rule) {
  if (!isCheck(rule)) return { ...SPEAKING };
  const { severity, hold, reason_demanded, message, placement, acknowledged } = rule;
  return { severity, hold, reason_demanded, message, placement, acknowledged };
}

/** A rule to begin with; without a target it is about nothing yet. */
export function newRule(target: string | null = null): RuleDraft {
  const rule: RuleOf<"mandatory"> = {
    ...{
      kind: "mandatory",
      key: "new",
      name: "",
      why: "",
      targets: target ? [target] : [],
      when: null,
    },
    ...{ scope: SCOPE, in_force_from: null, in_force_to: null, changed_fields: [], on: true },
    ...SPEAKING,
  };
  return { rule, clauses: {} };
}

/** What a range of a field measures, unless it is said otherwise. */
export function measureOf(field: FieldView | undefined): RuleOf<"range">["of"] {
  const type = field?.field.type;
  return type === "choices" ? "count" : type === "text" ? "length" : "value";
}

/** How many there may be has no lowest number, mostly; a value has both. */
function blankRange(of: RuleOf<"range">["of"]) {
  const blank = { value: "", inclusive: true };
  return { of, lower: of === "value" ? blank : null, upper: blank };
}

/** The rule about other fields. A range that measured what they do not have begins anew. */
export function withTargets(draft: RuleDraft, targets: string[], fields: FieldView[]): RuleDraft {
  const rule = { ...draft.rule, targets } as Rule;
  if (rule.kind === "propose" && rule.sets.length === 1 && !rule.sets[0]?.value)
    return {
      ...draft,
      rule: { ...rule, sets: [{ field: targets[0] ?? rule.sets[0]?.field ?? "", value: "" }] },
    };
  if (rule.kind !== "range" || draft.rule.targets[0] === targets[0]) return { ...draft, rule };
  const of = measureOf(fields.find((one) => one.field.key === targets[0]));
  if (of === rule.of) return { ...draft, rule };
  return { ...draft, rule: { ...rule, ...blankRange(of) } };
}

/** The same rule saying something else of its targets. */
export function withKind(draft: RuleDraft, kind: Kind, fields: FieldView[]): RuleDraft {
  const base = shared(draft.rule);
  const check = { ...base, ...speaking(draft.rule) };
  const { when } = draft.clauses;
  const kept = when ? { when } : {};
  const first = fields.find((one) => one.field.key === base.targets[0]) ?? fields[0];
  const begun = (place: Place, part: "value" | "other" = "value", field = first) =>
    field ? { ...kept, [place]: group("and", [blankClause(field, part)]) } : kept;
  const governor = governorOf(fields, base.targets);
  const asked = { ...base, when: base.when ?? "" };
  switch (kind) {
    case "mandatory":
    case "unique":
    case "entered_twice":
    case "consent":
      return { rule: { ...check, kind }, clauses: kept };
    case "range":
      return {
        rule: {
          ...check,
          kind,
          ...blankRange(measureOf(fields.find((one) => one.field.key === base.targets[0]))),
        },
        clauses: kept,
      };
    case "allowed_values":
      return {
        rule: { ...check, kind, values: [], ignore_case: false, governor: null, rows: [] },
        clauses: kept,
      };
    case "format":
      return {
        rule: { ...check, kind, format: null, country: null, pattern: null, described: "" },
        clauses: kept,
      };
    case "group":
      return { rule: { ...check, kind, quantity: "at_least_one" }, clauses: kept };
    case "cross_field":
      return { rule: { ...check, kind, must: "" }, clauses: begun("must") };
    case "elsewhere":
      return { rule: { ...check, kind, no_other: "" }, clauses: begun("no_other", "other") };
    case "open":
      return {
        rule: { ...asked, kind, otherwise: "hidden" },
        clauses: when ? kept : begun("when", "value", governor),
      };
    case "close":
      return {
        rule: { ...asked, kind, shown: "hidden" },
        clauses: when ? kept : begun("when", "value", governor),
      };
    case "lock":
      return { rule: { ...base, kind }, clauses: kept };
    case "wait":
      return {
        rule: { ...base, kind, until: "", message: "" },
        clauses: begun("until", "value", governor),
      };
    case "derive":
      return { rule: { ...base, kind, value: "" }, clauses: kept };
    case "start":
      return { rule: { ...base, kind, value: "", formula: null }, clauses: kept };
    case "propose":
      return {
        rule: {
          ...base,
          kind,
          title: "",
          explanation: "",
          sets: [{ field: base.targets[0] ?? first?.field.key ?? "", value: "" }],
        },
        clauses: kept,
      };
  }
}

/** What is sent to the server to be read. */
export function entryOf(draft: RuleDraft): Schemas["RuleEntry"] {
  return { rule: draft.rule, clauses: draft.clauses };
}
