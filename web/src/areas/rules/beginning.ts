// How a rule begins, and what it keeps when it says something else or speaks of other fields.
import { type FieldView, isCheck, type Kind, type Rule, type RuleDraft } from "../form/rule";
import { FIRST_KIND, kindNamed, kindOf } from "./kinds";

const SCOPE: Rule["scope"] = {
  events: [],
  entry_points: [],
  layouts: [],
  roles: [],
  derived_forms: false,
};

/** What rules of every kind have in common. */
function shared({ key, name, why, targets, when, scope, ...rule }: Rule) {
  const { in_force_from, in_force_to, changed_fields, enabled } = rule;
  return {
    ...{ key, name, why, targets, when, scope },
    ...{ in_force_from, in_force_to, changed_fields, enabled },
  };
}

const SPEAKING = {
  severity: { entry: "none", save: "warn", submit: "block" },
  hold: false,
  reason_required: false,
  message: null,
  placement: "field",
  confirmation: "",
} as const;

/** What rules that check have in common; where the rule had none of it, as one begins. */
function speaking(rule: Rule) {
  if (!isCheck(rule)) return { ...SPEAKING };
  const { severity, hold, reason_required, message, placement, confirmation } = rule;
  return { severity, hold, reason_required, message, placement, confirmation };
}

/** A rule to begin with; without a target it is about nothing yet. */
export function newRule(target: string | null = null): RuleDraft {
  const rule: Rule = {
    ...{
      kind: FIRST_KIND,
      key: "new",
      name: "",
      why: "",
      targets: target ? [target] : [],
      when: null,
    },
    ...{ scope: SCOPE, in_force_from: null, in_force_to: null, changed_fields: [], enabled: true },
    ...SPEAKING,
  };
  return { rule, clauses: {} };
}

/** The rule about other fields. */
export function withTargets(draft: RuleDraft, targets: string[], fields: FieldView[]): RuleDraft {
  const rule = { ...draft.rule, targets } as Rule;
  return { ...draft, rule: kindOf(rule).retargeted(rule, draft.rule.targets, fields) };
}

/** The same rule saying something else of its targets. */
export function withKind(draft: RuleDraft, name: Kind, fields: FieldView[]): RuleDraft {
  const kind = kindNamed(name);
  const base = shared(draft.rule);
  const { when } = draft.clauses;
  const { own, clauses } = kind.begins(base.targets, fields, Boolean(when));
  const rule = {
    ...base,
    ...(kind.needsCondition ? { when: base.when ?? "" } : {}),
    ...(kind.checks ? speaking(draft.rule) : {}),
    kind: name,
    ...own,
  };
  return { rule: rule as Rule, clauses: { ...(when ? { when } : {}), ...clauses } };
}
