// How many of several fields are filled.
import { ChoicePart } from "../../../ui/choice-part";
import type { RuleOf } from "../../form/rule";
import { asItIs, type KindOf, type KindProps } from "./kind";

type Quantity = RuleOf<"group">["quantity"];

const QUANTITIES: { value: Quantity; label: string; option: string }[] = [
  {
    value: "at_least_one",
    label: "At least one of",
    option: "must have a value, at least one of them",
  },
  {
    value: "exactly_one",
    label: "Exactly one of",
    option: "must have a value, exactly one of them",
  },
  {
    value: "all_or_none",
    label: "Either all or none of",
    option: "must have a value, all or none of them",
  },
];

const optionOf = (quantity: Quantity) => `group:${quantity}`;

function Before({ draft, rule, onChange }: KindProps<"group">) {
  return (
    <ChoicePart
      label="How many of the fields"
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
  heading: "what must be true",
  together: "Fields taken together",
  options: QUANTITIES.map(({ value, option }) => ({
    value: optionOf(value),
    label: option,
    as: { quantity: value },
  })),
  chosen: (rule) => optionOf(rule.quantity),
  shows: "must have a value",
  order: "targets, verb",
  checks: true,
  needsCondition: false,
  begins: () => ({ own: { quantity: "at_least_one" }, clauses: {} }),
  retargeted: asItIs,
  Before,
  Parts: null,
  Words: null,
  quick: null,
};
