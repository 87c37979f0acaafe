// Fields that are not asked under a condition.
import { asItIs, conditionBegun, type KindOf, type KindProps, said } from "./kind";
import { Shown } from "./shown";

function Parts({ draft, rule, onChange }: KindProps<"close">) {
  return (
    <Shown
      value={rule.shown}
      words="and is"
      onChoose={(shown) => onChange({ ...draft, rule: { ...rule, shown } })}
    />
  );
}

export const close: KindOf<"close"> = {
  kind: "close",
  heading: "what is asked",
  together: "What is not asked under a condition",
  ...said("close", "is not asked then"),
  shows: null,
  order: "targets, verb",
  checks: false,
  needsCondition: true,
  begins: (targets, fields, conditioned) => ({
    own: { shown: "hidden" },
    clauses: conditionBegun(targets, fields, conditioned),
  }),
  retargeted: asItIs,
  Before: null,
  Parts,
  Words: null,
  quick: null,
};
