// Fields that are asked only under a condition.

import { words } from "../../../words";
import { asItIs, conditionBegun, type KindOf, type KindProps, said } from "./kind";
import { Shown } from "./shown";

const t = words("rules");

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
  heading: "asked",
  together: t("what_is_asked_under_a_condition"),
  ...said("open", t("is_asked_only_then")),
  shows: null,
  order: "targets_verb",
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
  quick: { words: t("it_is_asked_only_when"), fits: null, next: true },
};
