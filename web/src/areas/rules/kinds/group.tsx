// How many of several fields are filled.
import { ChoicePart } from "../../../ui/choice-part";
import { words } from "../../../words";
import type { RuleOf } from "../../form/rule";
import { asItIs, type KindOf, type KindProps } from "./kind";

const t = words("rules");

type Quantity = RuleOf<"group">["quantity"];

const QUANTITIES: { value: Quantity; label: string; option: string }[] = [
  {
    value: "at_least_one",
    label: t("at_least_one_of"),
    option: t("must_have_a_value_at_least_one"),
  },
  {
    value: "exactly_one",
    label: t("exactly_one_of"),
    option: t("must_have_a_value_exactly_one_of"),
  },
  {
    value: "all_or_none",
    label: t("either_all_or_none_of"),
    option: t("must_have_a_value_all_or_none"),
  },
];

const optionOf = (quantity: Quantity) => `group:${quantity}`;

function Before({ draft, rule, onChange }: KindProps<"group">) {
  return (
    <ChoicePart
      label={t("how_many_of_the_fields")}
      value={rule.quantity}
      groups={[{ options: QUANTITIES }]}
      onChoose={(quantity) =>
        onChange({ ...draft, rule: { ...rule, quantity: quantity as Quantity } })
      }
    />
  );
}

export const group: KindOf<"group"> = {
  kind: "group",
  heading: "must",
  together: t("fields_taken_together"),
  options: QUANTITIES.map(({ value, option }) => ({
    value: optionOf(value),
    label: option,
    as: { quantity: value },
  })),
  chosen: (rule) => optionOf(rule.quantity),
  shows: t("must_have_a_value"),
  order: "targets_verb",
  checks: true,
  needsCondition: false,
  begins: () => ({ own: { quantity: "at_least_one" }, clauses: {} }),
  retargeted: asItIs,
  Before,
  Parts: null,
  Words: null,
  quick: null,
};
