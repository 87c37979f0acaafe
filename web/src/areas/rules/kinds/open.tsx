// Fields that are asked only under a condition.
import { asItIs, conditionBegun, type KindOf, type KindProps, said } from "./kind";
import { Shown } from "./shown";

function Parts({ draft, rule, onChange }: KindProps<"open">) {
  return (
    <Shown
      value={rule.otherwise}
      words="otherwise"
      onChoose={(otherwise) => onChange({ ...draft, rule: { ...rule, otherwise } })}
    />
  );
}

export const open: KindOf<"open"> = {
  kind: "open",
  heading: "what is asked",
  together: "What is asked under a condition",
  ...said("open", "is asked only then"),
  shows: null,
  order: "targets, verb",
  checks: false,
  needsCondition: true,
  begins: (targets, fields, conditioned) => ({
    own: { otherwise: "hidden" },
    clauses: conditionBegun(targets, fields, conditioned),
  }),
  retargeted: asItIs,
  Before: null,
  Parts,
  Words: null,
  quick: { words: "it is asked only when", fits: null, next: true },
};
