// The conditions of a rule as clauses, and as the same formulas.
import type {
  Clause,
  ClauseGroup,
  FieldView,
  Operand,
  Place,
  Rule,
  RuleDraft,
  Subject,
} from "../form/rule";

type Part = ClauseGroup["parts"][number];

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

/** The group with one part replaced, or removed where `next` is null; null when none is left. */
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
