// Fields that are not asked under a condition.

import { words } from "../../../words";
import { asItIs, conditionBegun, type KindOf, type KindProps, said } from "./kind";
import { Shown } from "./shown";

const t = words("rules");

function Parts({ draft, rule, onChange }: KindProps<"close">) {
  return (
    <Shown
      value={rule.shown}
      words={t("and_is")}
      onChoose={(shown) => onChange({ ...draft, rule: { ...rule, shown } })}
    />
  );
}

export const close: KindOf<"close"> = {
  kind: "close",
  heading: "asked",
  together: t("what_is_not_asked_under_a_condition"),
  ...said("close", t("is_not_asked_then")),
  shows: null,
  order: "targets_verb",
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
