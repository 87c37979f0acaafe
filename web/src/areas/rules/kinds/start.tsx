// Values that new records start with.
import { ChoicePart } from "../../../ui/choice-part";
import { DayInput } from "../../../ui/day-input";
import { words } from "../../../words";
import type { Rule } from "../../form/rule";
import { answersIn } from "../operand-part";
import { asItIs, type KindOf, type KindProps, said } from "./kind";
import { ValueFormula } from "./value-formula";

const t = words("rules");

const WAYS = [
  { value: "value", label: t("the_value") },
  { value: "formula", label: t("what_a_formula_gives") },
];

function Parts({ form, draft, reading, rule, onChange }: KindProps<"start">) {
  const byFormula = rule.formula !== null && rule.formula !== undefined;
  const put = (next: Rule) => onChange({ ...draft, rule: next });
  const target = form.fields.find((one) => one.field.key === rule.targets[0]);
  const answers = answersIn(target?.subjects[0]);
  return (
    <>
      <ChoicePart
        label={t("what_it_starts_as")}
        value={byFormula ? "formula" : "value"}
        groups={[{ options: WAYS }]}
        onChoose={(way) =>
          put(
            way === "formula"
              ? { ...rule, value: null, formula: "today" }
              : { ...rule, value: "", formula: null },
          )
        }
      />
      {byFormula ? (
        <ValueFormula
          form={form}
          reading={reading}
          place="formula"
          label={t("formula_of_the_starting_value")}
          value={rule.formula ?? ""}
          onChange={(formula) => put({ ...rule, formula })}
        />
      ) : answers ? (
        <ChoicePart
          label={t("starting_value")}
          value={rule.value ?? ""}
          placeholder={t("which_answer")}
          groups={[{ options: answers.map((one) => ({ value: one.value, label: one.label })) }]}
          onChoose={(value) => put({ ...rule, value })}
        />
      ) : target?.field.type === "date" ? (
        <DayInput
          label={t("starting_value")}
          className="line-input w-44 font-sans text-base"
          value={rule.value ?? ""}
          onChange={(value) => put({ ...rule, value })}
        />
      ) : (
        <input
          aria-label={t("starting_value")}
          className="line-input w-44 font-sans text-base"
          value={rule.value ?? ""}
          onChange={(event) => put({ ...rule, value: event.target.value })}
        />
      )}
    </>
  );
}

export const start: KindOf<"start"> = {
  kind: "start",
  heading: "value",
  together: t("what_a_record_starts_with"),
  ...said("start", t("starts_as")),
  shows: null,
  order: "targets_verb",
  checks: false,
  needsCondition: false,
  begins: () => ({ own: { value: "", formula: null }, clauses: {} }),
  retargeted: asItIs,
  Before: null,
  Parts,
  Words: null,
  quick: { words: t("it_starts_as"), fits: null, next: true },
};
